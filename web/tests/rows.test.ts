import { describe, expect, it } from "vitest";
import { changesOf, withRow } from "../src/places/stores/rows";

const kept = [
  ["Guide", "1"],
  ["Guide", "1"],
  ["Chain", "2"],
];

describe("lines of a list", () => {
  it("are the same in another order, and with a space typed", () => {
    expect(changesOf(kept, [["Chain ", "2"], ...kept.slice(0, 2)])).toEqual({ added: 0, gone: 0 });
  });
  it("count each once: one of two alike is gone", () => {
    expect(changesOf(kept, kept.slice(1))).toEqual({ added: 0, gone: 1 });
  });
  it("are new where a cell is typed anew", () => {
    const now = withRow(kept, 2, 1, "3");
    expect(now[2]).toEqual(["Chain", "3"]);
    expect(kept[2]).toEqual(["Chain", "2"]);
    expect(changesOf(kept, now)).toEqual({ added: 1, gone: 1 });
  });
});
