// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from "vitest";
import { dropAllDrafts, dropDraft, readDraft } from "../src/kit/draft";
import { figureOf, wrongFigure } from "../src/kit/figures";
import { hours, late, percent } from "../src/kit/words";

describe("a figure as it was typed", () => {
  it.each([
    ["12", 12],
    [" 12,5 ", 12.5],
    ["−2.5", -2.5],
    ["+3", 3],
    ["abc", null],
    ["", null],
    ["1.2.3", null],
    ["4 h", null],
    ["1e9", null],
    ["NaN", null],
  ])("%j is %j", (typed, value) => {
    expect(figureOf(typed)).toBe(value);
  });

  it("says what was read and what was expected, and nothing while nothing is typed", () => {
    expect(wrongFigure("")).toBeUndefined();
    expect(wrongFigure("20", 0, 180)).toBeUndefined();
    expect(wrongFigure("abc")).toBe("Read “abc”. Expected: a number.");
    expect(wrongFigure("200", 0, 180)).toBe("Read 200. Expected: 0 to 180.");
    expect(wrongFigure("-1", 0)).toBe("Read -1. Expected: 0 or more.");
  });
});

describe("words of figures", () => {
  it("nought is neither late nor early, and never minus nought", () => {
    expect(late(-0.01)).toBe("0.0°");
    expect(late(0)).toBe("0.0°");
    expect(late(6.24)).toBe("6.2° late");
    expect(late(-0.06)).toBe("0.1° early");
  });

  it("a share that is not nothing is not told as nothing, nor as all", () => {
    expect(percent(0.004)).toBe("<1\u00a0%");
    expect(percent(0.996)).toBe(">99\u00a0%");
    expect(percent(0)).toBe("0\u00a0%");
    expect(hours(59)).toBe("1\u00a0h\u00a000");
    expect(hours(44)).toBe("45\u00a0min");
  });
});

describe("what is typed and not sent", () => {
  beforeEach(() => localStorage.clear());

  it("belongs to who typed it, for what, and is gone at sign-out", () => {
    localStorage.setItem("draft Ivo intake 1", '{"complaint":"rattle"}');
    localStorage.setItem("theme", "lamp");
    expect(readDraft("Ivo", "intake 1")).toEqual({ complaint: "rattle" });
    expect(readDraft("Pell", "intake 1")).toEqual({});
    expect(readDraft("Ivo", "intake 2")).toEqual({});
    dropDraft("Pell", "intake 1");
    expect(readDraft("Ivo", "intake 1")).toEqual({ complaint: "rattle" });
    dropAllDrafts();
    expect(readDraft("Ivo", "intake 1")).toEqual({});
    expect(localStorage.getItem("theme")).toBe("lamp");
  });

  it("is empty where what was kept cannot be read", () => {
    localStorage.setItem("draft Ivo x", "{broken");
    expect(readDraft("Ivo", "x")).toEqual({});
  });
});
