import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";
import { sayAway } from "./away";
import { sendKey } from "./sendKey";
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
export function csrfToken() {
  return csrf;
}
/** Ask who is signed in, and take the token that changes need now. */
export async function askAgain() {
  rememberCsrf((await take(client.GET("/api/session"))).csrf);
}

/** Keys of changes whose answer never came: sent again, they go under the same key. */
const unanswered = new Map<string, string>();
const sent = new Map<string, string>();
/** Made once by nature, or with a password in it that is kept nowhere. */
const UNKEYED = /\/api\/(session|people|look)|\/sign$|\/shift\/take$/;
/** The worker that keeps pages for when the network is away says so of what it kept. */
const KEPT = "X-Kept-At";

const guard: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrf);
    return request;
  },
  onResponse({ response }) {
    const kept = response.headers.get(KEPT);
    sayAway(kept ? new Date(kept) : null);
  },
};

/** A change whose answer is lost with the network is made once, however often it is sent. */
const once: Middleware = {
  async onRequest({ request, id }) {
    if (request.method === "GET" || UNKEYED.test(request.url)) return;
    const what = `${request.method} ${request.url} ${await request.clone().text()}`;
    const key = unanswered.get(what) ?? sendKey();
    unanswered.set(what, key);
    request.headers.set("Idempotency-Key", key);
    sent.set(id, what);
    return request;
  },
  onResponse({ id }) {
    unanswered.delete(sent.get(id) ?? "");
    sent.delete(id);
  },
  onError({ id }) {
    sent.delete(id);
  },
};

export const client = createClient<paths>({ baseUrl: "" });
client.use(guard, once);

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

/** A refusal as it came, or that nobody answered (status 0). */
export function troubleOf(status: number, body: unknown): Trouble {
  return new Trouble(status, asErrorOut(body));
}

/** Something of our own that went wrong, as a trouble a page can show. */
export function unknownTrouble(error: unknown): Trouble {
  return new Trouble(0, errorOut(String(error)));
}
