import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { Plot } from "../../../drawing/plot/Plot";
import { Choice } from "../../../kit/controls";
import { Sheet, Soft } from "../../../kit/page";

const AGAINST = [
  { value: "time", label: "time" },
  { value: "speed", label: "speed" },
] as const;

/**
 * Every cycle of every cam: whether it settles after a cold start, and whether it follows the
 * speed.
 */
export function OverTime({ cams }: { cams: Schemas["CamDetail"][] }) {
  const [against, setAgainst] = useState<"time" | "speed">("time");
  return (
    <Sheet>
      <Choice label="Against" value={against} onChange={setAgainst} options={AGAINST} />
      {cams.map((cam) => {
        const line = cam.settling_deg.length
          ? [{ name: "fit", look: "fit" as const, x: cam.cycle_s, y: cam.settling_deg }]
          : [];
        return (
          <div key={cam.cam}>
            <strong>{cam.name}</strong>
            {cam.cycle_s.length > 0 ? (
              <Plot
                label={`${cam.name}: deviation of each cycle against ${against}`}
                height={150}
                xUnit={against === "time" ? " s" : " rpm"}
                yUnit="°"
                series={[
                  {
                    name: "cycles",
                    look: "dots",
                    x: against === "time" ? cam.cycle_s : cam.cycle_rpm,
                    y: cam.per_cycle_deg,
                  },
                  ...(against === "time" ? line : []),
                ]}
              />
            ) : (
              <Soft>Its cycles were not kept.</Soft>
            )}
            <Soft>{cam.over_time}</Soft>
          </div>
        );
      })}
    </Sheet>
  );
}
