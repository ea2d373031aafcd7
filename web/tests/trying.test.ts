import { describe, expect, it } from "vitest";
import { isTried, leaving, NOTHING, putting } from "../src/stages/verdict/trying";

describe("a what-if", () => {
  it("leaves a reading out once, and takes it back", () => {
    const out = leaving(leaving(NOTHING, "3", true), "3", true);
    expect(out.leftOut).toEqual(["3"]);
    expect(isTried(out)).toBe(1);
    expect(leaving(out, "3", false)).toEqual(NOTHING);
  });

  it("puts the last figure typed in the place of one, and puts it back", () => {
    const put = putting(putting(NOTHING, "4", 1.5), "4", -2);
    expect(put.changed).toEqual({ "4": -2 });
    expect(isTried(putting(put, "4", null))).toBe(0);
    expect(isTried(leaving(put, "1", true))).toBe(2);
  });
});
