import type { Schemas } from "../../api/client";
import { plate } from "../../drawing/chain/plate";

const [LINK, R] = [18, 8.5];
const LOOKS = {
  done: ["var(--enamel)", "var(--enamel-edge)"],
  left: ["var(--red)", "var(--ink)"],
  here: ["var(--pen)", "var(--on-pen)"],
  open: ["var(--sheet)", "var(--edge)"],
} as const;

interface Props {
  steps: readonly Schemas["PlanStep"][];
  records: ReadonlyMap<string, Schemas["RecordOut"]>;
  shown: string | undefined;
}

/**
 * The steps as a run of chain: closed ones solid, the one shown painted, what was left as it is in
 * red lead with a square; a link of two strands wants two people.
 */
export function StepChain({ steps, records, shown }: Props) {
  const wide = steps.length * LINK + 2 * R + 4;
  const order = [...steps.entries()].sort(([a], [b]) => (a % 2) - (b % 2));
  return (
    <svg
      viewBox={`${-R - 2} ${-R - 2} ${wide} ${2 * R + 4}`}
      width="100%"
      role="img"
      aria-label={`${records.size} of ${steps.length} steps closed`}
    >
      {order.map(([i, step]) => {
        const record = records.get(step.ref);
        const look = record?.departure
          ? "left"
          : step.ref === shown
            ? "here"
            : record
              ? "done"
              : "open";
        const [fill, stroke] = LOOKS[look];
        const [from, to] = [i * LINK, (i + 1) * LINK];
        return (
          <g key={step.ref} data-link={look}>
            <path d={plate(from, 0, to, 0, 2 * R)} fill={fill} stroke={stroke} strokeWidth={1.2} />
            {step.two_person && (
              <path
                d={`M${from + 4} -2.4H${to - 4}M${from + 4} 2.4H${to - 4}`}
                stroke={look === "done" ? "var(--on-enamel)" : "var(--ink)"}
                strokeWidth={1.3}
              />
            )}
            {look === "left" && <path d={`M${from + 5} -4h8v8h-8z`} fill="var(--sheet)" />}
          </g>
        );
      })}
      {Array.from({ length: steps.length + 1 }, (_, i) => (
        <circle key={i} cx={i * LINK} r={1.7} fill="var(--ink)" />
      ))}
    </svg>
  );
}
