import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";
import { watched } from "./waiting";

export type Schemas = components["schemas"];

/** What the server says went wrong, in one shape; `changes` tells what others did meanwhile. */
export class Trouble extends Error {
  constructor(
    readonly status: number,
    readonly detail: Schemas["ErrorOut"],
  ) {
    super(detail.message);
  }
}

let csrf = "";
export function rememberCsrf(token: string) {
  csrf = token;
}

const guard: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrf);
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: "" });
client.use(guard);

/** The data of an answer, or Trouble thrown with what the server said. */
export async function take<T>(
  answer: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let got;
  try {
    got = await watched(answer);
  } catch {
    throw new Trouble(
      0,
      errorOut(
        "Flaneur does not answer.",
        "What you typed stays on the page; try again in a moment.",
      ),
    );
  }
  if (got.data !== undefined) return got.data;
  throw new Trouble(got.response.status, asErrorOut(got.error));
}

/** Send a file as multipart; openapi-fetch has no form for these two addresses. */
export async function sendFile<T = Schemas["Changed"]>(path: string, file: File): Promise<T> {
  const form = new FormData();
  form.append("file", file);
  return take(
    fetch(path, { method: "POST", body: form, headers: { "X-CSRFToken": csrf } }).then(
      async (response) => {
        const body: unknown = await response.json().catch(() => undefined);
        return response.ok ? { data: body as T, response } : { error: body, response };
      },
    ),
  );
}

function errorOut(message: string, advice = ""): Schemas["ErrorOut"] {
  return {
    code: "refused",
    message,
    read: "",
    expected: "",
    advice,
    faults: [],
    changes: [],
    field: "",
    request: "",
  };
}

function asErrorOut(error: unknown): Schemas["ErrorOut"] {
  if (error && typeof error === "object" && "message" in error)
    return { ...errorOut(""), ...(error as Schemas["ErrorOut"]) };
  return errorOut("Flaneur gave no answer that can be read.", "Try again in a moment.");
}

/** Something of our own that went wrong, as a trouble a page can show. */
export function unknownTrouble(error: unknown): Trouble {
  return new Trouble(0, errorOut(String(error)));
}
