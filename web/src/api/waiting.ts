import { useSyncExternalStore } from "react";

/**
 * Requests that wait long. After three seconds a small one asks whether anybody answers at all, so
 * that a server at work is told from one that hangs.
 */
export type Wait = "none" | "late" | "busy" | "silent";
const LONG_MS = 3000;

const overdue = new Set<symbol>();
const listeners = new Set<() => void>();
let wait: Wait = "none";
let isAsking = false;

function say(next: Wait) {
  if (next === wait) return;
  wait = next;
  for (const tell of listeners) tell();
}

async function ask() {
  if (isAsking) return;
  isAsking = true;
  while (overdue.size) {
    const signal = AbortSignal.timeout(LONG_MS);
    const answers = await fetch("/api/session", { signal }).then(
      () => true,
      () => false,
    );
    if (overdue.size) say(answers ? "busy" : "silent");
    await new Promise((go) => setTimeout(go, LONG_MS / 3));
  }
  isAsking = false;
}

/** The same answer; while it is overdue, that is told. */
export async function watched<T>(answer: Promise<T>): Promise<T> {
  const mine = Symbol();
  const timer = setTimeout(() => {
    overdue.add(mine);
    if (wait === "none") say("late");
    void ask();
  }, LONG_MS);
  try {
    return await answer;
  } finally {
    clearTimeout(timer);
    overdue.delete(mine);
    if (!overdue.size) say("none");
  }
}

function listen(tell: () => void) {
  listeners.add(tell);
  return () => listeners.delete(tell);
}

/** Whether something is overdue, and whether anybody answers. */
export function useWait(): Wait {
  return useSyncExternalStore(listen, () => wait);
}
