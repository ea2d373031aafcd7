// @vitest-environment jsdom
import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { beforeEach, expect, test, vi } from "vitest";
import { openDB } from "idb";
import type { Answer, Happening } from "../src/api/outbox";

const OK = { version: 2, closed: true, seen: [], remedy: "", reopened: [] };
const CLASH = { code: "step_answered", message: "recorded by Pell meanwhile", read: "44" };

type Said<E> = Omit<E, "id" | "key" | "refused">;

function entry(step: string, job = 1): Said<Answer> {
  const at = new Date().toISOString();
  const body = { version: null, answered: 0, at, began: null, step, answers: ["1"] };
  return {
    to: "steps",
    job,
    title: step,
    by: "Ivo",
    pen: "pen",
    body: { ...body, departure: null },
    looksRight: true,
  };
}

/** A server that makes each key once; `down` while the network is away, `mute` when the answer is
 * lost after the change was made. */
class Server {
  made: string[] = [];
  asked: string[] = [];
  keys = new Map<string, string>();
  down = false;
  mute = false;
  clash = new Set<string>();

  answer = (path: string, sent: RequestInit): Promise<Response> => {
    this.asked.push(path);
    if (this.down) return Promise.reject(new TypeError("network"));
    const headers = sent.headers as Record<string, string>;
    const key = headers["Idempotency-Key"] ?? "";
    const { step } = JSON.parse(sent.body as string) as { step: string };
    if (this.clash.has(step)) return Promise.resolve(Response.json(CLASH, { status: 409 }));
    if (!this.keys.has(key)) this.made.push(step);
    this.keys.set(key, headers["X-Written-By"] ?? "");
    return this.mute ? Promise.reject(new TypeError("lost")) : Promise.resolve(Response.json(OK));
  };
}

let server: Server;
let box: typeof import("../src/api/outbox");

beforeEach(async () => {
  vi.resetModules();
  vi.stubGlobal("indexedDB", new IDBFactory());
  server = new Server();
  vi.stubGlobal("fetch", server.answer);
  box = await import("../src/api/outbox");
});

test("what the server answers at once never waits", async () => {
  expect(await box.write(entry("a"))).toEqual(OK);
  expect(server.made).toEqual(["a"]);
});

test("without the network it waits, and goes in order when it is back, once", async () => {
  server.down = true;
  for (const step of ["a", "b", "c"]) expect(await box.write(entry(step))).toBe("waiting");
  server.down = false;
  await box.sendAll();
  await box.sendAll();
  expect(server.made).toEqual(["a", "b", "c"]);
  expect([...server.keys.values()]).toEqual(["pen", "pen", "pen"]);
});

function bolt(step: string, number: number): Said<Happening> {
  const at = new Date().toISOString();
  const body = { step, answered: 0, kind: "bolt", item: "1", number, at } as const;
  return { to: "within", job: 1, title: step, by: "Ivo", pen: "pen", body };
}

test("bolts wait as well, and go before the answer that was written after them", async () => {
  server.down = true;
  for (const number of [1, 2]) expect(await box.write(bolt("a", number))).toBe("waiting");
  await box.write(entry("a"));
  server.down = false;
  server.asked = [];
  await box.sendAll();
  expect(server.asked.map((path) => path.split("/").at(-1))).toEqual(["within", "within", "steps"]);
});

test("what an older page left on the tablet is sent as well", async () => {
  const old = await openDB("flaneur", 1, {
    upgrade: (db) => void db.createObjectStore("entries", { keyPath: "id", autoIncrement: true }),
  });
  const left: Partial<Said<Answer>> = entry("old");
  delete left.to;
  await old.add("entries", { ...left, key: "a-key-of-its-own", refused: null });
  old.close();
  await box.sendAll();
  expect(server.asked).toEqual(["/api/jobs/1/bench/steps"]);
});

test("a change whose answer was lost is made once", async () => {
  server.mute = true;
  expect(await box.write(entry("a"))).toBe("waiting");
  server.mute = false;
  await box.sendAll();
  expect(server.made).toEqual(["a"]);
});

test("a refusal is told at once, and kept with its reason where nobody waits", async () => {
  server.clash.add("a");
  await expect(box.write(entry("a"))).rejects.toThrow("recorded by Pell meanwhile");
  server.down = true;
  await box.write(entry("a"));
  await box.write(entry("b"));
  await box.write(entry("elsewhere", 2));
  server.down = false;
  await box.sendAll();
  expect(server.made, "what was written after it waits; another job goes on").toEqual([
    "elsewhere",
  ]);
  const kept = box.waitingHere();
  expect(kept.map((e) => [e.title, e.refused?.code])).toEqual([
    ["a", "step_answered"],
    ["b", undefined],
  ]);
  server.clash.delete("a");
  expect(await box.write(entry("c")), "whoever knows of it goes on").toEqual(OK);
  expect(server.made).toEqual(["elsewhere", "c"]);
  await box.putAside(kept[0]?.id ?? 0);
  await vi.waitFor(() => expect(server.made).toEqual(["elsewhere", "c", "b"]));
});
