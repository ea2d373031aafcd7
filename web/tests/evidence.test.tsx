// @vitest-environment jsdom
import { act, type ReactNode } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../src/api/client";
import { BuiltUp } from "../src/drawing/BuiltUp";
import { Walk } from "../src/drawing/Walk";
import { WouldBe } from "../src/drawing/WouldBe";

vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
let root: Root;
beforeEach(() => {
  const place = document.createElement("div");
  document.body.replaceChildren(place);
  root = createRoot(place);
});
afterEach(() => act(() => root.unmount()));

const draw = (page: ReactNode) => act(() => root.render(page));
const said = () => document.body.textContent;

/** A plate's own numbers. */
function plates() {
  return [...document.querySelectorAll("rect")].map((rect) => ({
    x: Number(rect.getAttribute("x")),
    width: Number(rect.getAttribute("width")),
    fill: rect.getAttribute("fill"),
  }));
}

function moved(about: string, logFactor: number): Schemas["Evidence"] {
  const words = `${Math.exp(Math.abs(logFactor)).toFixed(0)} to 1`;
  return {
    reading: about,
    number: "R1",
    about,
    log_factor: logFactor,
    odds: words,
    is_for: logFactor > 0,
    words: `${words} ${logFactor > 0 ? "for" : "against"}`,
  };
}

describe("the walk of evidence", () => {
  it("goes right of the middle for what speaks for it, left for what speaks against", () => {
    draw(<Walk evidence={[moved("a cam", Math.log(1000)), moved("a plunger", -Math.log(10))]} />);
    const [right, left] = plates();
    expect(right).toEqual({ x: 50, width: 50, fill: "var(--ink)" });
    expect(left?.x).toBeCloseTo(50 - 50 / 3);
    expect(left?.width).toBeCloseTo(50 / 3);
    expect(left?.fill).toBe("var(--steel-light)");
    expect(said()).toContain("1000 to 1 for");
    expect(said()).toContain("10 to 1 against");
  });

  it("ends at its end, however long the odds", () => {
    draw(<Walk evidence={[moved("a cam", 40), moved("another", -40)]} />);
    expect(plates().map(({ x, width }) => [x, width])).toEqual([
      [50, 50],
      [0, 50],
    ]);
  });

  it("says so where nothing moves the odds", () => {
    draw(<Walk evidence={[]} />);
    expect(said()).toBe("No reading moves its odds.");
  });
});

function wouldBe(name: string, read: number, deg: number, more = {}): Schemas["WouldBe"] {
  return {
    reading: name,
    name,
    read_deg: read,
    deg,
    low_deg: deg - 1,
    high_deg: deg + 1,
    is_alone: true,
    is_off: false,
    words: "",
    ...more,
  };
}

describe("what a suspect would make the cams read", () => {
  it("draws every cam on one scale, from nought to either side", () => {
    draw(<WouldBe expected={[wouldBe("late", 20, 19), wouldBe("early", -10, -9)]} />);
    const [late, early] = plates();
    // From −10 to 20: nought stands a third of the way along.
    expect(late?.x).toBeCloseTo(1 + 98 / 3);
    expect(late?.width).toBeCloseTo((98 * 2) / 3);
    expect(early?.x).toBeCloseTo(1);
    expect(early?.width).toBeCloseTo(98 / 3);
    expect(said()).toContain("20.0°19.0°");
    expect(said()).toContain("−10.0°−9.0°");
  });

  it("says in words what does not fit", () => {
    draw(<WouldBe expected={[wouldBe("one", 2, 2), wouldBe("other", 9, 2, { is_off: true })]} />);
    const rows = [...document.querySelectorAll("li")].map((row) => row.textContent);
    expect(rows.find((row) => row.startsWith("one"))).not.toContain("does not fit");
    expect(rows.find((row) => row.startsWith("other"))).toContain("does not fit");
  });

  it("stands where every figure is nought, without a minus that means nothing", () => {
    const still = wouldBe("still", -0.04, 0, { low_deg: 0, high_deg: 0 });
    draw(<WouldBe expected={[still]} />);
    expect(said()).toContain("0.0°0.0°");
    expect(said()).not.toContain("−");
    expect(plates().every(({ x, width }) => Number.isFinite(x + width))).toBe(true);
  });
});

describe("a figure built up from its causes", () => {
  it("begins each plate where the last one ended", () => {
    const cause = (part: string, share: number) => ({
      part,
      name: part,
      share,
      low: share - 0.5,
      high: share + 0.5,
      words: "",
    });
    draw(
      <BuiltUp
        figure={{
          reading: "1",
          part: "cam",
          name: "Cam",
          value: 6,
          limit: 3.5,
          unit: "°",
          late: "6.0° late",
          causes: [cause("chain", 4), cause("guide", 3), cause("wheel", -1)],
          words: "",
        }}
      />,
    );
    const [chain, guide, wheel] = plates();
    expect(guide?.x).toBeCloseTo((chain?.x ?? 0) + (chain?.width ?? 0));
    // The last one goes back: it ends where the one before it ended.
    expect((wheel?.x ?? 0) + (wheel?.width ?? 0)).toBeCloseTo(
      (guide?.x ?? 0) + (guide?.width ?? 0),
    );
    expect((wheel?.width ?? 0) * 4).toBeCloseTo(chain?.width ?? 0);
  });
});
