import type { Schemas } from "../api/client";
import { late } from "../kit/words";

const WIDTH = 780;
const LEFT = 120;
const LANE = 62;
const TOP = 20;

/**
 * All cycles laid over each other on crank angle; the book's edges as ghosts, the difference
 * bracketed.
 */
export function FoldedTraces({ traces }: { traces: Schemas["Trace"][] }) {
  const at = (deg: number) => LEFT + (deg / 720) * (WIDTH - LEFT - 20);
  const bottom = TOP + LANE * traces.length;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${bottom + 22}`}
      width="100%"
      role="img"
      aria-label="Folded sensor traces over 720 degrees of crank angle"
    >
      {[0, 90, 180, 270, 360, 450, 540, 630, 720].map((deg) => (
        <g key={deg}>
          <line
            x1={at(deg)}
            x2={at(deg)}
            y1={TOP - 6}
            y2={bottom}
            stroke="var(--line)"
            strokeWidth={deg % 360 ? 0.6 : 1.4}
          />
          <text x={at(deg)} y={bottom + 15} fontSize={12} textAnchor="middle" fill="var(--soft)">
            {deg}°
          </text>
        </g>
      ))}
      {traces.map((trace, i) => (
        <Lane key={trace.channel} trace={trace} top={TOP + LANE * i} at={at} />
      ))}
    </svg>
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
  const low = Math.min(...trace.low_v);
  const high = Math.max(...trace.high_v);
  const y = (v: number) => top + LANE - 12 - ((v - low) / (high - low || 1)) * (LANE - 22);
  const bins = trace.low_v.length;
  const x = (i: number) => at(((i + 0.5) / bins) * 720).toFixed(1);
  const upper = trace.high_v.map((v, i) => `${x(i)} ${y(v).toFixed(1)}`);
  const lower = trace.low_v.map((v, i) => `${x(i)} ${y(v).toFixed(1)}`).reverse();
  const isCam = trace.cam !== null;
  const first = trace.expected_deg[0];
  return (
    <g>
      <text x={0} y={top + LANE / 2 - 2} fontSize={13} fontWeight={700} fill="var(--ink)">
        {trace.short}
      </text>
      {isCam && trace.deviation_deg !== null && (
        <text x={0} y={top + LANE / 2 + 15} fontSize={13} fill="var(--blue)">
          {late(trace.deviation_deg)}
        </text>
      )}
      {isCam &&
        trace.expected_deg.map((deg) => (
          <line
            key={deg}
            x1={at(deg)}
            x2={at(deg)}
            y1={top + 4}
            y2={top + LANE - 6}
            stroke="var(--enamel)"
            strokeWidth={1.6}
            strokeDasharray="4 3"
          />
        ))}
      <path
        d={`M${upper.join("L")}L${lower.join("L")}Z`}
        fill="var(--blue)"
        fillOpacity={0.35}
        stroke="var(--blue)"
        strokeWidth={isCam ? 1 : 0.5}
      />
      {isCam &&
        trace.deviation_deg !== null &&
        first !== undefined &&
        Math.abs(trace.deviation_deg) > 0.5 && (
          <path
            d={`M${at(first)} ${top + 2} v-5 H${at(first + trace.deviation_deg)} v5`}
            fill="none"
            stroke="var(--red)"
            strokeWidth={2.5}
          />
        )}
    </g>
  );
}
