import { plate } from "./plate";

/** The product's mark: one painted link with its two pins. */
export function Mark({ height = 20 }: { height?: number }) {
  return (
    <svg viewBox="-10.5 -9.5 41 19" height={height} aria-hidden>
      <path d={plate(0, 0, 20, 0, 17)} fill="var(--pen)" stroke="var(--on-pen)" strokeWidth={1.8} />
      <circle r={3} fill="var(--sheet)" stroke="var(--on-pen)" strokeWidth={1.6} />
      <circle cx={20} r={3} fill="var(--sheet)" stroke="var(--on-pen)" strokeWidth={1.6} />
    </svg>
  );
}
