export interface Counted {
  chain: string;
  /** Link over the first mark, counted from the driver's marked tooth. */
  from: number;
  /** Links counted so far. */
  upTo: number;
}

/** Links counted so far, every fifth with its number, the last one with a ring. */
export function CountedLinks({ counted }: { counted: Counted }) {
  const steps = Array.from({ length: counted.upTo + 1 }, (_, i) => i);
  return (
    <g pointerEvents="none" fontSize={11} fontWeight={700} textAnchor="middle">
      {steps.map((i) => (
        <g key={i} data-count={counted.from + i}>
          <circle
            r={i === counted.upTo ? 7.5 : 3}
            fill={i === counted.upTo ? "var(--pen)" : "var(--blue)"}
            stroke={i === counted.upTo ? "var(--on-pen)" : "var(--sheet)"}
            strokeWidth={1}
          />
          {(i % 5 === 0 || i === counted.upTo) && i > 0 && (
            <text
              x={0}
              y={i === counted.upTo ? 4 : -7}
              fill={i === counted.upTo ? "var(--on-pen)" : "var(--blue)"}
              fontSize={i === counted.upTo ? 9.5 : 11}
            >
              {i}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}
