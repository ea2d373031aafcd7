import { openDB, type DBSchema, type IDBPDatabase, type IDBPObjectStore } from "idb";
import { askAgain, csrfToken, Trouble, troubleOf, type Schemas } from "./client";
import { sayAway } from "./away";
import { sendKey } from "./sendKey";
import { shared } from "./shared";

/*
 * What is written at the bench and not yet acknowledged. An entry is kept on the tablet first and
 * sent then, one after the other in the order they were written, each under a key of its own: the
 * server makes it once, however often it is sent. Without the network it waits; refused, it stands
 * with what the server said of it until its author puts it aside. It bears its author's pen, and is
 * sent in his name whoever is signed in by then.
 */
interface Written {
  id?: number;
  key: string;
  job: number;
  title: string;
  by: string;
  pen: string;
  refused: Schemas["ErrorOut"] | null;
}
/** A step's answer. */
export interface Answer extends Written {
  to: "steps";
  body: Schemas["StepIn"];
  /** Whether the step counts as closed until the server has judged it. */
  looksRight: boolean;
}
/** What happened within a step: a bolt brought to its stage, a timer begun. */
export interface Happening extends Written {
  to: "within";
  body: Schemas["WithinIn"];
}
export type Entry = Answer | Happening;
type Said<E extends Entry> = Omit<E, "id" | "key" | "refused">;
type Made = Schemas["StepResult"] | Schemas["Standing"];
interface Kept extends DBSchema {
  entries: { key: number; value: Entry };
}

const LOOK_AGAIN_MS = 4000;
const PATIENCE_MS = 12_000;
const AWAY = [0, 502, 503, 504];

let entries: readonly Entry[] = [];
/** Without what somebody stands before, waiting for its answer: that does not count as waiting. */
const shown = shared<readonly Entry[]>([]);
const waiters = new Map<
  string,
  { keep: (sent: Made | "waiting") => void; refuse: (why: Trouble) => void }
>();
const onSent = new Set<(job: number) => void>();
let opened: Promise<IDBPDatabase<Kept>> | null = null;
let round: Promise<void> | null = null;
/** Something was written since the round that is under way began. */
let isWanted = false;
let timer: ReturnType<typeof setTimeout> | undefined;

function kept() {
  opened ??= openDB<Kept>("flaneur", 2, {
    upgrade: (db, old, _, change) => {
      if (old < 1) db.createObjectStore("entries", { keyPath: "id", autoIncrement: true });
      void onlyAnswersSoFar(change.objectStore("entries"));
    },
  });
  return opened;
}

/** Before the second version of what is kept, only answers waited. */
async function onlyAnswersSoFar(
  store: IDBPObjectStore<Kept, "entries"[], "entries", "versionchange">,
) {
  for (const entry of await store.getAll()) await store.put({ ...entry, to: "steps" } as Entry);
}

async function look() {
  entries = await (await kept()).getAll("entries");
  tellAll();
}
function tellAll() {
  const next = entries.filter((e) => !waiters.has(e.key));
  if (next.length || shown.get().length) shown.set(next);
}

/**
 * Keep an entry on the tablet, then send it: what the server made of it, or that it waits. A tablet
 * that keeps nothing sends it all the same.
 */
export function write(said: Said<Answer>): Promise<Schemas["StepResult"] | "waiting">;
export function write(said: Said<Happening>): Promise<Schemas["Standing"] | "waiting">;
export async function write(said: Said<Answer> | Said<Happening>): Promise<Made | "waiting"> {
  const entry = { ...said, key: sendKey(), refused: null };
  try {
    await (await kept()).add("entries", entry);
  } catch {
    return post(entry);
  }
  const answer = new Promise<Made | "waiting">((keep, refuse) =>
    waiters.set(entry.key, { keep, refuse }),
  );
  await look();
  void sendAll();
  return answer;
}

/**
 * Send what waits, in order. Of a job with a refused entry nothing goes that waited behind it, it
 * may rest on it; what is written since goes, by whoever knows of it.
 */
export function sendAll(): Promise<void> {
  isWanted = true;
  round ??= sendWanted().finally(() => {
    round = null;
  });
  return round;
}

async function sendWanted() {
  clearTimeout(timer);
  try {
    while (isWanted) {
      isWanted = false;
      if ("locks" in navigator) await navigator.locks.request("flaneur outbox", sendInTurn);
      else await sendInTurn();
    }
  } finally {
    const left = [...waiters.values()];
    waiters.clear();
    tellAll();
    for (const { keep } of left) keep("waiting");
    if (entries.some((e) => !e.refused)) timer = setTimeout(() => void sendAll(), LOOK_AGAIN_MS);
  }
}

/** Whether something of a job was refused, so that what waits behind it is held. */
function isHeld(all: readonly Entry[], job: number): boolean {
  return all.some((e) => e.refused && e.job === job);
}

async function sendInTurn() {
  for (;;) {
    await look();
    const next = entries.find((e) => !e.refused && (waiters.has(e.key) || !isHeld(entries, e.job)));
    if (!next || !(await sendOne(next))) return;
  }
}

/** Whether the server has answered it for good. */
async function sendOne(entry: Entry): Promise<boolean> {
  const db = await kept();
  const waiter = waiters.get(entry.key);
  try {
    const made = await post(entry);
    await db.delete("entries", entry.id ?? 0);
    waiters.delete(entry.key);
    waiter?.keep(made);
  } catch (error) {
    if (!(error instanceof Trouble) || AWAY.includes(error.status) || error.status === 401)
      return false;
    // Whoever stands before it sees it at once; what was written long ago stays, with the reason.
    if (waiter) await db.delete("entries", entry.id ?? 0);
    else await db.put("entries", { ...entry, refused: error.detail });
    waiters.delete(entry.key);
    waiter?.refuse(error);
  }
  await look();
  for (const tell of onSent) tell(entry.job);
  return true;
}

async function post(entry: Entry, isAgain = false): Promise<Made> {
  let response;
  try {
    response = await fetch(`/api/jobs/${entry.job}/bench/${entry.to}`, {
      method: "POST",
      headers: {
        "Content-Type": "application/json",
        "X-CSRFToken": csrfToken(),
        "Idempotency-Key": entry.key,
        "X-Sent-At": new Date().toISOString(),
        ...(entry.pen && { "X-Written-By": entry.pen }),
      },
      body: JSON.stringify(entry.body),
      // Sent again under its key it is made once: there is no harm in giving up.
      signal: AbortSignal.timeout(PATIENCE_MS),
    });
  } catch {
    sayAway(new Date());
    throw troubleOf(0, null);
  }
  const answer: unknown = await response.json().catch(() => null);
  if (!AWAY.includes(response.status)) sayAway(null);
  if (response.ok && answer) return answer as Made;
  const trouble = troubleOf(response.status, answer);
  if (trouble.detail.code === "page_stale" && !isAgain) {
    await askAgain();
    return post(entry, true);
  }
  throw trouble;
}

/** Put an entry aside for good, or send a refused one again. */
export async function putAside(id: number) {
  await (await kept()).delete("entries", id);
  await look();
  void sendAll();
}
export async function tryAgain(entry: Entry) {
  await (await kept()).put("entries", { ...entry, refused: null });
  void sendAll();
}

/** Look for what waits from before, and tell `sent` whose job changed when something is sent. */
export function keepSending(sent: (job: number) => void): () => void {
  const go = () => void sendAll().catch(() => undefined); // a tablet that keeps nothing
  onSent.add(sent);
  window.addEventListener("online", go);
  go();
  return () => {
    onSent.delete(sent);
    window.removeEventListener("online", go);
  };
}

/** What waits on this tablet, oldest first, everybody's. */
export const waitingHere = shown.get;
export const useOutbox = shown.use;

/** What of a job will be sent by itself: nothing of it was refused. */
export function useOnTheWay(job: number): readonly Entry[] {
  const all = useOutbox();
  return isHeld(all, job) ? [] : all.filter((e) => e.job === job);
}
