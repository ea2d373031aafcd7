import { describe, expect, test } from "vitest";
import type { Schemas } from "../src/api/client";
import { looksRight, quickAnswers, quickWords } from "../src/stages/bench/answering";
import type { Happening } from "../src/api/outbox";
import { stagesOf, withWaiting } from "../src/stages/bench/within";
import { leftWords, timeOf } from "../src/stages/bench/WaitRun";

type Step = Schemas["PlanStep"];

function ask(part: Partial<Schemas["Asked"]>): Schemas["Asked"] {
  return {
    kind: "word",
    ask: "?",
    hint: "",
    choices: [],
    right: [],
    pins: 0,
    ...part,
  } as Schemas["Asked"];
}
/** A step with what one press says of each question, as the core tells it. */
function step(verb: string, ...asked: Schemas["Asked"][]): Step {
  const one_press = asked.map((a) =>
    verb === "fit" && a.kind === "count" ? null : (a.right[0] ?? String(a.expected)),
  );
  return { ref: "x", verb, asked, one_press } as unknown as Step;
}
const flat = ask({
  choices: [
    { code: "flat", words: "flat" },
    { code: "off", words: "stands off" },
  ],
  right: ["flat"],
});
const links = ask({ kind: "count", expected: 43 });
const mark = ask({
  kind: "mark",
  choices: [
    { code: "on_mark", words: "on the mark" },
    { code: "late_1", words: "one tooth late" },
  ],
  right: ["on_mark"],
});
const stage = ask({
  kind: "torque",
  stage: { kind: "torque", value: 24, tolerance: 2 },
  fastener: "m8",
});
const bolts = ask({ kind: "count", expected: 3, fastener: "m8" });

describe("one press", () => {
  test("says what is right, in the words of the choice", () => {
    expect(quickWords(step("op", flat))).toBe("flat");
    expect(quickWords(step("fit", links, mark, mark))).toBe("Marks meet");
    expect(quickWords(step("remove", bolts))).toBe("3: all of them");
    expect(quickWords(step("op", flat, flat))).toBe("All as it should be");
  });
  test("never says a figure that only a count of one's own gives", () => {
    expect(quickAnswers(step("fit", links, mark), ["41", ""])).toEqual(["41", "on_mark"]);
    expect(quickAnswers(step("fit", links, mark), [])).toEqual(["", "on_mark"]);
  });
});

describe("what the tablet alone takes as right", () => {
  test("is what the book wants", () => {
    expect(looksRight(step("fit", links, mark), ["43", "on_mark"])).toBe(true);
    expect(looksRight(step("fit", links, mark), ["42", "on_mark"])).toBe(false);
    expect(looksRight(step("fit", links, mark), ["43", "late_1"])).toBe(false);
    expect(looksRight(step("torque", stage), ["22.5 Nm"])).toBe(true);
    expect(looksRight(step("torque", stage), ["18 lbf ft"])).toBe(false);
  });
});

test("a pattern stands at the stage that is not through yet", () => {
  const torque = step(
    "torque",
    bolts,
    stage,
    ask({ ...stage, stage: { kind: "torque", value: 40, tolerance: 2 } }),
  );
  const at = (item: number, number: number) =>
    ({ kind: "bolt", item: String(item), number }) as Schemas["HappenedOut"];
  expect(stagesOf(torque, []).now?.done).toBe(0);
  const found = stagesOf(torque, [at(1, 1), at(1, 2), at(1, 3), at(2, 1)]);
  expect([found.now?.question, found.now?.done, found.now?.count]).toEqual([2, 1, 3]);
  const unsent = (number: number) =>
    ({ body: { kind: "bolt", item: "1", number }, by: "Ivo" }) as Happening;
  const seen = withWaiting(torque, [at(1, 1)], [unsent(2), unsent(0)]);
  expect(seen.map((e) => e.number)).toEqual([1, 2, 3]);
  expect(stagesOf(torque, seen).now?.question).toBe(2);
});

test("a time of day still to come was yesterday", () => {
  const now = new Date(2026, 10, 27, 14, 0);
  expect(timeOf("13:20", now)).toBe(new Date(2026, 10, 27, 13, 20).toISOString());
  expect(timeOf("15.05", now)).toBe(new Date(2026, 10, 26, 15, 5).toISOString());
  expect(timeOf("25:00", now)).toBeNull();
  expect(leftWords(3_599_001)).toBe("1:00:00");
  expect(leftWords(61_000)).toBe("1:01");
});
