import type { Schemas } from "../../api/client";
import { Sheet, Soft } from "../../kit/page";

/** Teeth off until valves touch, one line for each cam and kind of valve; where rows of one kind differ, the worst. */
export function TeethOff({ teeth, reserveMm }: { teeth: Schemas["TeethView"][]; reserveMm: number | null }) {
  const groups = new Map<string, Schemas["TeethView"][]>();
  for (const t of teeth) groups.set(`${t.cam} ${t.kind}`, [...(groups.get(`${t.cam} ${t.kind}`) ?? []), t]);
  return (
    <Sheet>
      <h2>Teeth off until valves touch</h2>
      <Soft>Running, with phasers anywhere in their travel; less than {reserveMm ?? "?"} mm of room counts as touching.</Soft>
      {[...groups.values()].map((rows) => <Kind key={rows.map((r) => r.valves).join()} rows={rows} />)}
    </Sheet>
  );
}

const words = (k: number | null) => (k === null ? "not up to 12" : `${k} ${k === 1 ? "tooth" : "teeth"}`);
const least = (found: (number | null)[]) => found.reduce<number | null>((a, b) => (a === null ? b : b === null ? a : Math.min(a, b)), null);

function Kind({ rows }: { rows: Schemas["TeethView"][] }) {
  const [first] = rows;
  if (!first) return null;
  const running = { early: least(rows.map((r) => r.phased_early)), late: least(rows.map((r) => r.phased_late)) };
  const parked = { early: least(rows.map((r) => r.early)), late: least(rows.map((r) => r.late)) };
  const isNear = running.early === 1 || running.late === 1;
  const isOther = parked.early !== running.early || parked.late !== running.late;
  const meets = [...new Set(rows.map((r) => r.meets).filter(Boolean))].join(" and ");
  return (
    <div style={{ borderTop: "1px solid var(--line)", paddingTop: 6 }}>
      <div><strong>{first.cam_name}</strong>, {first.kind} valves {isNear && <strong style={{ color: "var(--red)" }}>■ one tooth is enough</strong>}</div>
      <div>early: <strong>{words(running.early)}</strong> · late: <strong>{words(running.late)}</strong></div>
      {isOther && <Soft>with its phaser parked: early {words(parked.early)}, late {words(parked.late)}</Soft>}
      <Soft>{first.tooth_deg.toFixed(1)}° of the crank a tooth; cylinder {rows.map((r) => r.cylinder).join(", ")}{meets && `; meet ${meets}`}.</Soft>
    </div>
  );
}
