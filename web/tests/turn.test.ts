import { beforeEach, describe, expect, it, vi } from "vitest";
import { mod, Turn } from "../src/drawing/turn/turn";
import { pins, walkOf } from "../src/drawing/turn/walk";

let frames: (() => void)[] = [];
beforeEach(() => {
  frames = [];
  vi.stubGlobal("requestAnimationFrame", (draw: () => void) => frames.push(draw));
});

describe("the crank", () => {
  it("goes on, never back, to an angle of the cycle", () => {
    const turn = new Turn(350);
    turn.to(10);
    expect(turn.deg).toBe(730);
    turn.to(10);
    expect(turn.deg).toBe(730);
  });

  it("leaves a shaft with lash where it stood until its slack is used up, both ways", () => {
    const turn = new Turn(0);
    expect(turn.followed(3)).toBe(0);
    turn.by(-2);
    expect(turn.followed(3)).toBe(0);
    expect(turn.back).toBe(2);
    turn.by(-4);
    expect(turn.followed(3)).toBe(-3);
    turn.by(2);
    expect(turn.followed(3)).toBe(-3);
    turn.by(5);
    expect(turn.followed(3)).toBe(1);
    expect(turn.back).toBe(0);
  });

  it("finishes a movement forwards: back where it is means a turn of the cycle on", () => {
    const turn = new Turn(90);
    turn.followed(5);
    turn.by(-1);
    turn.to(89);
    expect(turn.deg).toBe(809);
    expect(turn.back).toBe(0);
  });

  it("tells whoever draws once a frame, however often it was moved, and nobody who has gone", () => {
    const turn = new Turn(0);
    const draw = vi.fn();
    const leave = turn.draws(draw);
    turn.by(1);
    turn.by(1);
    expect(frames).toHaveLength(1);
    frames[0]?.();
    expect(draw).toHaveBeenCalledTimes(2);
    leave();
    turn.by(1);
    frames[1]?.();
    expect(draw).toHaveBeenCalledTimes(2);
  });

  it("counts whole turns from the service position", () => {
    const turn = new Turn(60);
    turn.by(719.999999999999);
    turn.by(1e-12);
    expect(turn.turns).toBe(2);
    turn.by(-721);
    expect(turn.turns).toBe(-1);
    expect(mod(-30, 720)).toBe(690);
  });
});

describe("a chain's pins", () => {
  // Two lines of four links and two half circles of three.
  const pieces = [
    { links: 4, line: [0, 10, 40, 10], arc: null },
    { links: 3, line: null, arc: [40, 0, 10, Math.PI / 2, -Math.PI / 2] },
    { links: 4, line: [40, -10, 0, -10], arc: null },
    { links: 3, line: null, arc: [0, 0, 10, -Math.PI / 2, (-3 * Math.PI) / 2] },
  ];

  it("lie on the path, a link apart, and close it", () => {
    const at = new Float64Array(28);
    pins(walkOf(pieces), 14, 0, at);
    expect([at[0], at[1]]).toEqual([0, 10]);
    expect([at[2], at[3]]).toEqual([10, 10]);
    expect(at[8]).toBeCloseTo(40);
    expect(at[14]).toBeCloseTo(40);
    expect(at[15]).toBeCloseTo(-10);
    const shifted = new Float64Array(28);
    pins(walkOf(pieces), 14, 14.0, shifted);
    expect([...shifted]).toEqual([...at]);
    pins(walkOf(pieces), 14, -1, shifted);
    expect(shifted[2]).toBeCloseTo(at[0] ?? NaN);
  });
});
