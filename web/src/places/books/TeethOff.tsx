import type { Schemas } from "../../api/client";
import { Sheet, Soft } from "../../kit/page";
import { Ruled, Said } from "../../kit/text";

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
        <Ruled key={k.cam_name + k.kind}>
          <div>
            <strong>{k.cam_name}</strong>, {k.kind} valves{" "}
            {k.is_near && <Said $tone="stop">■ one tooth is enough</Said>}
          </div>
          <div>
            early: <strong>{k.early}</strong> · late: <strong>{k.late}</strong>
          </div>
          {k.parked && <Soft>with its phaser parked: {k.parked}</Soft>}
          <Soft>{k.words}</Soft>
        </Ruled>
      ))}
    </Sheet>
  );
}
