import type { Schemas } from "../api/client";
import { late } from "../kit/words";
import { PlotFrame } from "./plot/PlotFrame";
import { CYCLE } from "./plot/ticks";
import { Comb, Strip } from "./Strip";

const LANE = 64;

/**
 * All cycles laid over each other on crank angle; the book's edges as a comb, the difference
 * bracketed.
 */
export function FoldedTraces({ traces }: { traces: Schemas["Trace"][] }) {
  return (
    <PlotFrame
      label="Folded sensor traces over 720 degrees of crank angle"
      height={LANE * traces.length + 40}
      x={[0, 720]}
      left={124}
      xTicks={CYCLE}
    >
      {({ x, inner }) =>
        traces.map((trace, i) => (
          <Lane key={trace.channel} trace={trace} top={inner.top + LANE * i} at={x} />
        ))
      }
    </PlotFrame>
  );
}

function Lane({
  trace,
  top,
  at,
}: {
  trace: Schemas["Trace"];
  top: number;
  at: (deg: number) => number;
}) {
  const isCam = trace.cam !== null;
  const { deviation_deg: off } = trace;
  const first = trace.expected_deg[0];
  return (
    <g>
      <text x={0} y={top + LANE / 2 - 2} fontSize={15} fontWeight={700} fill="var(--ink)">
        {trace.short}
      </text>
      {isCam && off !== null && (
        <text x={0} y={top + LANE / 2 + 17} fill="var(--blue)">
          {late(off)}
        </text>
      )}
      {isCam && <Comb at={trace.expected_deg.map(at)} top={top + 6} height={LANE - 12} />}
      <Strip
        at={(i) => at(((i + 0.5) / trace.low_v.length) * 720)}
        low={trace.low_v}
        high={trace.high_v}
        top={top + 12}
        height={LANE - 24}
        isFaint={!isCam}
      />
      {isCam && off !== null && first !== undefined && Math.abs(off) > 0.5 && (
        <path
          d={`M${at(first)} ${top + 6}v-5H${at(first + off)}v5`}
          fill="none"
          stroke="var(--red)"
          strokeWidth={2.5}
        />
      )}
    </g>
  );
}
