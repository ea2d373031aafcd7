import { useEffect, useRef } from "react";
import type { Schemas } from "../../api/client";
import { ring } from "./shapes";
import type { Turn } from "./turn";

/**
 * Round the crank: where all cams may be loose (solid), where only no valve reaches a piston
 * (open), where neither (hatched).
 */
export function SafeRing({
  wheel,
  loose,
  piston,
  isKnown,
  turn,
}: {
  wheel: Schemas["WheelPicture"];
  loose: number[][];
  piston: number[][];
  isKnown: boolean;
  turn: Turn;
}) {
  const spun = useRef<SVGGElement>(null);
  const way = wheel.clock_per_crank > 0 ? 1 : -1;
  const r = wheel.radius + 24;
  useEffect(
    () =>
      turn.draws(() =>
        spun.current?.setAttribute("transform", `rotate(${(-way * turn.deg).toFixed(2)})`),
      ),
    [turn, way],
  );
  return (
    <g transform={`translate(${wheel.x} ${wheel.y})`} pointerEvents="none" fill="none">
      <circle
        r={r}
        stroke="var(--red)"
        strokeWidth={5}
        strokeDasharray="2 4"
        strokeOpacity={0.75}
      />
      <g ref={spun}>
        {isKnown &&
          (loose.length ? loose : piston).map(([from = 0, to = 0]) => (
            <g key={from}>
              <path d={ring(r, -way * from, -way * to)} stroke="var(--sheet)" strokeWidth={10} />
              <path
                d={ring(r, -way * from, -way * to)}
                stroke={loose.length ? "var(--enamel)" : "var(--ochre)"}
                strokeWidth={7}
              />
              {!loose.length && (
                <path d={ring(r, -way * from, -way * to)} stroke="var(--sheet)" strokeWidth={3} />
              )}
            </g>
          ))}
      </g>
      <path
        d={`M0 ${r - 6}L-6 ${r + 9}L6 ${r + 9}Z`}
        fill="var(--pen)"
        stroke="var(--on-pen)"
        strokeWidth={1}
      />
    </g>
  );
}
