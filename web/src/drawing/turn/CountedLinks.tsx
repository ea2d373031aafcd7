import type { DriveDrawing } from "./drawing";

export interface Counted {
  chain: string;
  /** Link over the first mark, counted from the driver's marked tooth. */
  from: number;
  /** Links counted so far. */
  upTo: number;
}

interface Props {
  drawing: DriveDrawing;
  counted: Counted;
  perPx: number;
}

/** Links counted so far, every tenth with its number, the last one painted. */
export function CountedLinks({ drawing, counted, perPx }: Props) {
  const { chain, from, upTo } = counted;
  const steps = Array.from({ length: upTo + 1 }, (_, i) => i);
  return (
    <g pointerEvents="none" fontSize={14 * perPx} fontWeight={700} textAnchor="middle">
      {steps.map((i) => {
        const isLast = i === upTo;
        const isNumbered = isLast || (i % 10 === 0 && upTo - i > 3);
        return (
          <g key={i} data-count={from + i} ref={drawing.over(chain, from + i)}>
            <circle
              r={isNumbered ? 12 * perPx : 3}
              fill={isLast ? "var(--pen)" : "var(--blue)"}
              stroke={isLast ? "var(--on-pen)" : "var(--sheet)"}
              strokeWidth={1.4 * perPx}
            />
            {isNumbered && (
              <text y={5 * perPx} fill={isLast ? "var(--on-pen)" : "var(--sheet)"}>
                {i}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
