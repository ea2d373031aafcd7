// @vitest-environment jsdom
import { scaleLinear } from "d3-scale";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "../src/api/client";
import { plate } from "../src/drawing/chain/plate";
import { linkStates } from "../src/drawing/chain/StageChain";
import { fitted, panned, zoomed, type Stretch } from "../src/drawing/plot/stretch";
import { ticks } from "../src/drawing/plot/ticks";
import { turnTicks } from "../src/drawing/TimeTrace";
import { DriveDrawing } from "../src/drawing/turn/drawing";
import { distance, overlap, placeLabels, type Named } from "../src/drawing/turn/labels";
import { notches } from "../src/drawing/turn/shapes";
import { Turn } from "../src/drawing/turn/turn";
import face from "../src/theme/face.json";

const FACE = face as Schemas["DrivePicture"];
const NS = "http://www.w3.org/2000/svg";
let frames: (() => void)[] = [];
beforeEach(() => {
  frames = [];
  vi.stubGlobal("requestAnimationFrame", (draw: () => void) => frames.push(draw));
});

describe("a link plate", () => {
  it("is as wide as it is told at its pins and draws in between them", () => {
    const numbers =
      plate(0, 0, 20, 0, 10)
        .match(/-?[0-9.]+/g)
        ?.map(Number) ?? [];
    expect(numbers.slice(0, 6)).toEqual([0, -5, 10, -1.2, 20, -5]);
  });

  it("is the same, turned, along any way", () => {
    expect(plate(0, 0, 0, 20, 10)).toMatch(/^M5 0Q1.2 10 5 20/);
  });
});

describe("the stages as a chain", () => {
  it("are done before the job, painted where it stands, outline after", () => {
    expect(linkStates("verdict")).toEqual([
      "done",
      "done",
      "here",
      "ahead",
      "ahead",
      "ahead",
      "ahead",
    ]);
    expect(new Set(linkStates("done"))).toEqual(new Set(["done"]));
    expect(new Set(linkStates(undefined))).toEqual(new Set(["ahead"]));
  });
});

describe("the drawing of a drive", () => {
  const wheel = FACE.wheels.find((w) => w.part === "crank");
  if (!wheel) throw new Error("the face has no crank sprocket");
  const made = () => {
    const turn = new Turn(FACE.service_deg);
    const drawing = new DriveDrawing(FACE, "main", turn);
    turn.draws(() => drawing.draw());
    return { turn, drawing };
  };
  const element = () => document.createElementNS(NS, "path");
  const turnedTo = (el: SVGElement) => Number(/[-0-9.]+/.exec(el.getAttribute("transform") ?? ""));

  it("draws an element when it comes, moves it with the crank, and lets it go", () => {
    const { turn, drawing } = made();
    const el = element();
    const leave = drawing.spins(wheel)(el);
    const before = turnedTo(el);
    turn.by(30);
    frames.pop()?.();
    expect(Math.abs(turnedTo(el) - before)).toBeCloseTo(30, 2);
    leave?.();
    turn.by(30);
    frames.pop()?.();
    expect(Math.abs(turnedTo(el) - before)).toBeCloseTo(30, 2);
  });

  it("draws as many plates as the chain has links, outer and inner", () => {
    const { drawing } = made();
    for (const chain of drawing.chains) {
      const count = ([0, 1] as const).map((odd) => {
        const el = element();
        drawing.plates(chain, odd)(el);
        return el.getAttribute("d")?.match(/M/g)?.length ?? 0;
      });
      expect((count[0] ?? 0) + (count[1] ?? 0)).toBe(chain.chain.links);
    }
  });

  it("lets the plunger follow the slack when the crank is turned back", () => {
    const { turn, drawing } = made();
    const tensioner = FACE.faces.find(
      (f) => f.kind === "tensioner" && JSON.stringify(f.forward) !== JSON.stringify(f.back),
    );
    if (!tensioner) throw new Error("no plunger of the face moves");
    const el = element();
    drawing.plunger(tensioner)(el);
    const before = el.getAttribute("d");
    turn.by(-20);
    frames.pop()?.();
    expect(el.getAttribute("d")).not.toBe(before);
  });

  it("shows a ratchet's notches every so many millimetres", () => {
    expect(notches([0, 0], [10, 0], 2, 4).match(/M/g)).toHaveLength(5);
    expect(notches([0, 0], [1, 0], 2, 4)).toBe("");
  });
});

describe("names in a drawing", () => {
  const seen = { x: -100, y: -100, width: 200, height: 200 };
  const wheel = (id: string, x: number, y: number): Named => ({
    id,
    words: `intake ${id}`,
    x,
    y,
    radius: 20,
  });

  it("stand beside their wheel, clear of each other and of what is in the way", () => {
    const wheels = [wheel("a", -30, 40), wheel("b", 30, 40)];
    const spots = [...wheels, { x: -30, y: 75, radius: 12 }, { x: 30, y: 75, radius: 12 }];
    const [a, b] = placeLabels(wheels, spots, seen, 0.6);
    if (!a || !b) throw new Error("not every wheel has its name");
    expect(overlap(a.box, b.box)).toBe(false);
    for (const spot of spots)
      for (const one of [a, b])
        expect(distance(one.box, spot)).toBeGreaterThanOrEqual(spot.radius - 0.5);
  });

  it("stay within what is seen", () => {
    const [at] = placeLabels([wheel("a", 78, 78)], [], seen, 0.6);
    expect((at?.box.x ?? 999) + (at?.box.width ?? 0)).toBeLessThanOrEqual(100);
    expect((at?.box.y ?? 999) + (at?.box.height ?? 0)).toBeLessThanOrEqual(100);
  });
});

describe("a stretch of a whole", () => {
  const stretch: Stretch = { seen: [2, 4], whole: [0, 10], least: 0.5, onSeen: () => undefined };

  it("keeps the place looked at where it is, and never leaves the whole", () => {
    expect(zoomed(stretch, 0.5, 2)).toEqual([2, 3]);
    expect(zoomed(stretch, 0.01, 3)).toEqual([2.99, 3.49]);
    expect(zoomed(stretch, 100, 3)).toEqual([0, 10]);
    expect(panned(stretch, -5)).toEqual([0, 2]);
    expect(fitted(9, 4, stretch)).toEqual([6, 10]);
  });
});

describe("ticks", () => {
  it("are round figures with their unit", () => {
    expect(ticks([0, 10], 5, "°").map((t) => t.words)).toEqual([
      "0°",
      "2°",
      "4°",
      "6°",
      "8°",
      "10°",
    ]);
  });

  it("along time are the crank's turns, and degrees of one when looked at closely", () => {
    const seen = {
      angle_s: [0, 1, 2],
      theta_deg: [0, 720, 1440],
      rpm: [120, 120, 120],
    } as Schemas["WindowOut"];
    const whole = turnTicks(seen, scaleLinear([0, 2], [0, 700]));
    expect(whole.filter((t) => t.isMain).map((t) => t.words)).toContain("turn 2");
    const close = turnTicks(
      { ...seen, angle_s: [0.5, 0.6], theta_deg: [360, 432], rpm: [120, 120] },
      scaleLinear([0.5, 0.6], [0, 700]),
    );
    expect(close.map((t) => t.words)).toEqual([
      "turn 1",
      "10°",
      "20°",
      "30°",
      "40°",
      "50°",
      "60°",
      "70°",
    ]);
    expect(close[1]?.at).toBeCloseTo(0.5 + 10 / 720);
  });
});
