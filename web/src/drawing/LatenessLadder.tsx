import type { Schemas } from "../api/client";
import { Soft } from "../kit/page";
import { late } from "../kit/words";

const WIDTH = 780;
const LEFT = 150;
const RIGHT = 168;
const ROW = 70;
const TOP = 28;

/** One row per cam: this reading against book and baseline, its interval, tolerance, ghosts, and ticks at whole teeth. */
export function LatenessLadder({ ladder }: { ladder: Schemas["Ladder"] }) {
  const { low_deg: low, high_deg: high, tolerance_deg: tolerance } = ladder;
  const at = (deg: number) => LEFT + ((deg - low) / (high - low)) * (WIDTH - LEFT - RIGHT);
  const bottom = TOP + ROW * ladder.rows.length;
  const current = ladder.rows.map((row) => [...row.rungs].reverse().find((r) => !r.is_ghost));
  const worst = Math.max(0, ...current.map((r) => (r?.is_known ? Math.abs(r.at_deg) : 0)));
  const steps = high - low > 60 ? 20 : high - low > 24 ? 10 : 5;
  const scale = Array.from({ length: Math.floor(high / steps) - Math.ceil(low / steps) + 1 }, (_, i) => (Math.ceil(low / steps) + i) * steps);
  if (!current.some(Boolean)) return <Soft>No cam has been read. Take a capture: it reads all of them at once.</Soft>;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${bottom + 26}`} width="100%" role="img" aria-label={`Lateness of each cam: ${ladder.rows.map((r, i) => `${r.name} ${current[i]?.words ?? "not read"}`).join("; ")}`}>
      <rect x={at(-tolerance)} y={TOP} width={at(tolerance) - at(-tolerance)} height={bottom - TOP} fill="var(--enamel-tint)" />
      <line x1={at(0)} x2={at(0)} y1={TOP - 4} y2={bottom} stroke="var(--enamel)" strokeWidth={2} />
      <text x={at(0)} y={TOP - 10} textAnchor="middle" fontSize={13} fill="var(--enamel)" fontWeight={700}>book ± {tolerance}°</text>
      {scale.map((v) => (
        <text key={v} x={at(v)} y={bottom + 16} textAnchor="middle" fontSize={12} fill="var(--soft)">{v === 0 ? "0" : late(v, 0)}</text>
      ))}
      {ladder.rows.map((row, i) => (
        <Row key={row.cam} row={row} top={TOP + ROW * i} at={at} range={[low, high]} isWorst={worst > tolerance && current[i]?.is_known === true && Math.abs(current[i].at_deg) === worst} tolerance={tolerance} />
      ))}
    </svg>
  );
}

interface RowProps {
  row: Schemas["LadderRow"];
  top: number;
  at: (deg: number) => number;
  range: [number, number];
  isWorst: boolean;
  tolerance: number;
}

function Row({ row, top, at, range, isWorst, tolerance }: RowProps) {
  const middle = top + ROW / 2;
  const shown = row.rungs.filter((r) => !r.is_ghost);
  const last = shown[shown.length - 1];
  const [what, rest] = row.name.split(", ");
  const teeth = [-1, 1, 2, 3].filter((t) => t * row.tooth_deg > range[0] && t * row.tooth_deg < range[1]);
  const isOut = last && Math.abs(last.at_deg) > tolerance;
  return (
    <g>
      <line x1={0} x2={WIDTH} y1={top} y2={top} stroke="var(--line)" />
      <text x={0} y={middle - 3} fontSize={16} fontWeight={700} fill="var(--ink)">{what}</text>
      <text x={0} y={middle + 17} fontSize={13} fill="var(--soft)">{rest}</text>
      <line x1={LEFT} x2={WIDTH - RIGHT} y1={middle} y2={middle} stroke="var(--line)" strokeDasharray={row.bank === "B" ? "7 4" : undefined} />
      {teeth.map((t) => (
        <g key={t}>
          <path d={`M${at(t * row.tooth_deg) - 5} ${middle + 16} l3 -26 h4 l3 26`} fill="none" stroke="var(--soft)" strokeWidth={1.5} />
          <text x={at(t * row.tooth_deg)} y={middle + 29} textAnchor="middle" fontSize={11} fill="var(--soft)">{Math.abs(t)} {Math.abs(t) === 1 ? "tooth" : "teeth"}</text>
        </g>
      ))}
      {row.baseline_deg !== null && <path d={`M${at(row.baseline_deg)} ${middle - 12} v24`} stroke="var(--enamel)" strokeWidth={3} strokeDasharray="3 3" />}
      {row.rungs.filter((r) => r.is_ghost).map((r) => (
        <rect key={r.reading} x={at(r.at_deg) - 4} y={middle - 4} width={8} height={8} fill="none" stroke="var(--blue)" opacity={0.35} />
      ))}
      {shown.map((r) => <Mark key={r.reading} rung={r} y={middle + (shown.length > 1 ? (r.phase === "after" ? 9 : -11) : 0)} at={at} isSolid={row.role !== "exhaust"} />)}
      {isWorst && last && <circle cx={at(last.at_deg)} cy={middle + (shown.length > 1 ? 9 : 0)} r={17} fill="none" stroke="var(--pen)" strokeWidth={5} />}
      {last ? (
        <g>
          <text x={WIDTH - 2} y={middle + 4} textAnchor="end" fontSize={last.is_known ? 25 : 20} fontWeight={700} fill={!last.is_known ? "var(--ochre)" : isOut ? "var(--red)" : "var(--blue)"}>
            {last.is_known ? late(last.at_deg) : `? ${last.low_deg.toFixed(0)}° to ${last.high_deg.toFixed(0)}°`}
          </text>
          <text x={WIDTH - 2} y={middle + 22} textAnchor="end" fontSize={12} fill="var(--soft)">{note(last, shown)}</text>
        </g>
      ) : (
        <text x={WIDTH - 2} y={middle + 6} textAnchor="end" fontSize={16} fill="var(--soft)">unknown</text>
      )}
    </g>
  );
}

function note(last: Schemas["Rung"], shown: Schemas["Rung"][]): string {
  const before = shown.find((r) => r.phase === "before");
  if (last.phase === "after" && before) return `before: ${late(before.at_deg)}`;
  return last.words.split(", ").slice(1).join(", ");
}

function Mark({ rung, y, at, isSolid }: { rung: Schemas["Rung"]; y: number; at: (deg: number) => number; isSolid: boolean }) {
  const x = at(rung.at_deg);
  const isBefore = rung.phase === "before";
  return (
    <g>
      <title>{`${rung.phase} the repair: ${rung.words}`}</title>
      <line x1={at(rung.low_deg)} x2={at(rung.high_deg)} y1={y} y2={y} stroke="var(--blue)" strokeWidth={3} />
      <path d={`M${x} ${y - 9} l9 9 l-9 9 l-9 -9 z`} fill={isSolid ? "var(--blue)" : "var(--sheet)"} stroke="var(--blue)" strokeWidth={2.5} />
      {!isBefore && <text x={x + 13} y={y + 5} fontSize={12} fill="var(--blue)">after</text>}
    </g>
  );
}
