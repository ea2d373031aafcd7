import { shared } from "../api/shared";

/*
 * Timers this tablet calls for when they are over, on whatever page one is by then. The server has
 * when each was begun; here stands only what to call.
 */
export interface Timer {
  key: string;
  over: number;
  title: string;
  unit: string;
  to: string;
}
const KEPT = "timers";
const timers = shared(read());

function read(): readonly Timer[] {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "[]") as Timer[];
  } catch {
    return [];
  }
}
function write(next: readonly Timer[]) {
  localStorage.setItem(KEPT, JSON.stringify(next));
  timers.set(next);
}

export function callWhenOver(timer: Timer) {
  if (timers.get().some((t) => t.key === timer.key && t.over === timer.over)) return;
  write([...timers.get().filter((t) => t.key !== timer.key), timer]);
}
export function forget(key: string) {
  if (timers.get().some((t) => t.key === key)) write(timers.get().filter((t) => t.key !== key));
}

export const useTimers = timers.use;

/** Three short notes, where the browser lets a page be heard. */
export function ring() {
  try {
    const context = new AudioContext();
    for (const at of [0, 0.35, 0.7]) {
      const note = context.createOscillator();
      note.frequency.value = 880;
      note.connect(context.destination);
      note.start(context.currentTime + at);
      note.stop(context.currentTime + at + 0.2);
    }
    setTimeout(() => void context.close(), 2000);
  } catch {
    // Without sound the strip says it.
  }
}
