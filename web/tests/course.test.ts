import { describe, expect, it } from "vitest";
import type { Schemas } from "../src/api/client";
import { axis, barsOf } from "../src/stages/plan/Course";

const step = (ref: string, begins: number, minutes: number, about: string | null = null) =>
  ({ ref, begins, minutes, about }) as Schemas["PlanStep"];

describe("the course of a job", () => {
  it("draws a long wait short and keeps the work true", () => {
    const drawn = axis([step("op:a", 0, 60), step("op:b", 600, 30)]);
    expect(drawn.end).toBe(60 + 40 + 30);
    expect(drawn.of(30)).toBe(30);
    expect(drawn.of(600)).toBe(100);
    expect(drawn.of(9999)).toBe(drawn.end);
    expect(drawn.hours.map((h) => h.hour)).toEqual([1, 2]);
  });
  it("keeps every moment in its order", () => {
    const steps = [step("op:a", 0, 10), step("op:b", 25, 10), step("op:c", 35, 5)];
    const drawn = axis(steps, 100);
    const places = [0, 5, 10, 25, 30, 36, 40].map(drawn.of);
    expect([...places].sort((a, b) => a - b)).toEqual(places);
    expect(drawn.end).toBe(40);
  });
  it("gives each part one bar from off to torqued", () => {
    const steps = [
      step("remove:cover", 0, 10, "cover"),
      step("remove:chain", 10, 5, "chain"),
      step("fit:chain", 20, 5, "chain"),
      step("op:turn", 25, 5),
      step("fit:cover", 30, 5, "cover"),
      step("torque:cover", 40, 5, "cover"),
    ];
    const bars = barsOf({ steps, renewed: ["chain"] } as unknown as Schemas["Plan"]);
    expect(bars.map((b) => [b.key, b.from, b.to, b.isNew])).toEqual([
      ["cover", 0, 45, false],
      ["chain", 10, 25, true],
    ]);
  });
});
