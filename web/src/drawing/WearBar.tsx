import type { Schemas } from "../api/client";

const COLOURS: Record<Schemas["WearState"], string> = {
  over: "var(--red)",
  within: "var(--enamel)",
  open: "var(--ochre)",
};

/**
 * Wear with its 90 % interval against the book's limit; the limit stands at the same place in every
 * bar.
 */
export function WearBar({ wear }: { wear: Schemas["WearEstimate"] }) {
  const full = wear.limit * 2.2;
  const at = (v: number) => Math.min(100, (v / full) * 100);
  const color = COLOURS[wear.state];
  return (
    <svg viewBox="0 0 100 14" width="100%" height={20} preserveAspectRatio="none" aria-hidden>
      <line
        x1={0}
        x2={100}
        y1={7}
        y2={7}
        stroke="var(--line)"
        strokeWidth={1}
        vectorEffect="non-scaling-stroke"
      />
      <line
        x1={at(wear.low)}
        x2={at(wear.high)}
        y1={7}
        y2={7}
        stroke={color}
        strokeWidth={7}
        vectorEffect="non-scaling-stroke"
      />
      <line
        x1={at(wear.median)}
        x2={at(wear.median)}
        y1={1}
        y2={13}
        stroke="var(--ink)"
        strokeWidth={2.5}
        vectorEffect="non-scaling-stroke"
      />
      <line
        x1={at(wear.limit)}
        x2={at(wear.limit)}
        y1={0}
        y2={14}
        stroke="var(--red)"
        strokeWidth={2}
        strokeDasharray="4 3"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
