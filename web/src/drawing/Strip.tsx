import { area } from "d3-shape";

interface Props {
  /** Where each value stands, px. */
  at: (i: number) => number;
  low: readonly number[];
  high: readonly number[];
  top: number;
  height: number;
  isFaint?: boolean;
}

/** A signal as the band between its lowest and highest volts, filling its lane. */
export function Strip({ at, low, high, top, height, isFaint }: Props) {
  const least = low.reduce((a, b) => Math.min(a, b), Infinity);
  const span = high.reduce((a, b) => Math.max(a, b), -Infinity) - least || 1;
  const y = (v: number) => top + height - ((v - least) / span) * height;
  const shape = area<number>()
    .x((_, i) => at(i))
    .y0((_, i) => y(low[i] ?? least))
    .y1((v) => y(v));
  return (
    <path
      d={shape([...high]) ?? undefined}
      fill="var(--blue)"
      fillOpacity={0.3}
      stroke="var(--blue)"
      strokeWidth={isFaint ? 0.5 : 1.1}
      strokeLinejoin="round"
    />
  );
}

/** The book's edges as the teeth of a comb under a lane: tall where the signal rises. */
export function Comb({ at, top, height }: { at: readonly number[]; top: number; height: number }) {
  return (
    <path
      d={at.map((x) => `M${x.toFixed(1)} ${top}v${height}`).join("")}
      stroke="var(--enamel)"
      strokeWidth={1.6}
      strokeDasharray="4 3"
      fill="none"
    />
  );
}
