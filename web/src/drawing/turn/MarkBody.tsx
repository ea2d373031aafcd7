import type { Schemas } from "../../api/client";
import type { DriveDrawing } from "./drawing";
import { markOffset } from "./motion";
import { markShape, pointer } from "./shapes";

interface Props {
  drawing: DriveDrawing;
  of: Schemas["MarkPicture"];
  wheel: Schemas["WheelPicture"];
}

/** A mark as it is on its part, and where it must stand; yellow when it does. */
export function MarkBody({ drawing, of: m, wheel }: Props) {
  return (
    <>
      <g data-spin={wheel.part} ref={drawing.spins(wheel)}>
        <path
          d={markShape(m.form, wheel, markOffset(m, wheel, drawing.picture.service_deg))}
          fill={m.is_timing && m.form !== "line" ? "var(--ink)" : "none"}
          stroke={m.is_timing ? "var(--ink)" : "var(--soft)"}
          strokeWidth={m.is_timing ? 1.8 : 1}
          strokeDasharray={m.is_timing ? undefined : "2 1.5"}
        />
      </g>
      {m.is_timing && m.form !== "keyway" && (
        <path
          data-meet={m.id}
          ref={drawing.meets(m, wheel)}
          d={pointer(wheel, m.clock_deg)}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth={1.2}
        />
      )}
    </>
  );
}
