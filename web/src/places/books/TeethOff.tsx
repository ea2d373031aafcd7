import type { Schemas } from "../../api/client";
import { Sheet, Soft } from "../../kit/page";

/** Teeth off until valves touch, one line for each cam and kind of valve. */
export function TeethOff({
  kinds,
  reserveMm,
}: {
  kinds: Schemas["TeethKind"][];
  reserveMm: number | null;
}) {
  return (
    <Sheet>
      <h2>Teeth off until valves touch</h2>
      <Soft>
        Running, with phasers anywhere in their travel; less than {reserveMm ?? "?"} mm of room
        counts as touching.
      </Soft>
      {kinds.map((k) => (
        <div
          key={k.cam_name + k.kind}
          style={{ borderTop: "1px solid var(--line)", paddingTop: 6 }}
        >
          <div>
            <strong>{k.cam_name}</strong>, {k.kind} valves{" "}
            {k.is_near && <strong style={{ color: "var(--red)" }}>■ one tooth is enough</strong>}
          </div>
          <div>
            early: <strong>{k.early}</strong> · late: <strong>{k.late}</strong>
          </div>
          {k.parked && <Soft>with its phaser parked: {k.parked}</Soft>}
          <Soft>{k.words}</Soft>
        </div>
      ))}
    </Sheet>
  );
}
