import { scaleLinear } from "d3-scale";
import type { Tick } from "./PlotFrame";

/** Round figures along a range with their unit; nought is the main one. */
export function ticks(range: readonly [number, number], count: number, unit: string): Tick[] {
  const scale = scaleLinear([...range], [0, 1]);
  const word = scale.tickFormat(count, "f"); // 1000 h as words have it, never 1,000
  return scale.ticks(count).map((at) => ({ at, words: `${word(at)}${unit}`, isMain: at === 0 }));
}

/** The crank's turns: every quarter of 720° with its degrees, main ones at each turn. */
export const CYCLE: Tick[] = [0, 90, 180, 270, 360, 450, 540, 630, 720].map((at) => ({
  at,
  words: `${at}°`,
  isMain: at % 360 === 0,
}));
