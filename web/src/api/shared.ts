import { useSyncExternalStore } from "react";

/** One value that the whole page shares: whoever uses it is drawn anew when it is set. */
export function shared<T>(first: T) {
  let value = first;
  const listeners = new Set<() => void>();

  function listen(tell: () => void) {
    listeners.add(tell);
    return () => listeners.delete(tell);
  }
  return {
    get: () => value,
    set(next: T) {
      if (Object.is(next, value)) return;
      value = next;
      for (const tell of listeners) tell();
    },
    use: (): T => useSyncExternalStore(listen, () => value),
  };
}
