interface Props {
  at: number;
  high: number;
  /** Nought; else what the book allows. */
  isNought?: boolean;
}

/** An upright line across a plate of 0 to 100. */
export function Upright({ at, high, isNought = true }: Props) {
  return (
    <path
      d={`M${at} 0V${high}`}
      stroke={isNought ? "var(--edge)" : "var(--ink)"}
      strokeWidth={isNought ? 1.2 : 2.4}
      vectorEffect="non-scaling-stroke"
    />
  );
}
