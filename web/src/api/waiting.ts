import { shared } from "./shared";

/**
 * Requests that wait long. After three seconds a small one asks whether anybody answers at all, so
 * that a server at work is told from one that hangs.
 */
export type Wait = "none" | "late" | "busy" | "silent";
const LONG_MS = 3000;

const overdue = new Set<symbol>();
const wait = shared<Wait>("none");
let isAsking = false;

async function ask() {
  if (isAsking) return;
  isAsking = true;
  while (overdue.size) {
    const signal = AbortSignal.timeout(LONG_MS);
    const answers = await fetch("/api/session", { signal }).then(
      () => true,
      () => false,
    );
    if (overdue.size) wait.set(answers ? "busy" : "silent");
    await new Promise((go) => setTimeout(go, LONG_MS / 3));
  }
  isAsking = false;
}

/** The same answer; while it is overdue, that is told. */
export async function watched<T>(answer: Promise<T>): Promise<T> {
  const mine = Symbol();
  const timer = setTimeout(() => {
    overdue.add(mine);
    if (wait.get() === "none") wait.set("late");
    void ask();
  }, LONG_MS);
  try {
    return await answer;
  } finally {
    clearTimeout(timer);
    overdue.delete(mine);
    if (!overdue.size) wait.set("none");
  }
}

/** Whether something is overdue, and whether anybody answers. */
export const useWait = wait.use;
