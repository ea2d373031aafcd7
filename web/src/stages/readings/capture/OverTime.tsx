import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { Plot } from "../../../drawing/Plot";
import { Choice } from "../../../kit/controls";
import { Sheet, Soft } from "../../../kit/page";

const AGAINST = [{ value: "time", label: "time" }, { value: "speed", label: "speed" }] as const;

/** Every cycle of every cam: whether it settles after a cold start, and whether it follows the speed. */
export function OverTime({ cams }: { cams: Schemas["CamDetail"][] }) {
  const [against, setAgainst] = useState<"time" | "speed">("time");
  return (
    <Sheet>
      <Choice label="Against" value={against} onChange={setAgainst} options={AGAINST} />
      {cams.map((cam) => {
        const s = cam.settling;
        const line = s ? [{ name: "fit", look: "fit" as const, x: cam.cycle_s, y: cam.cycle_s.map((t) => s.settled_deg + s.amplitude_deg * Math.exp(-t / s.decay_s)) }] : [];
        return (
          <div key={cam.cam}>
            <strong>{cam.name}</strong>
            {cam.cycle_s.length > 0 ? (
              <Plot
                label={`${cam.name}: deviation of each cycle against ${against}`}
                height={150}
                xUnit={against === "time" ? " s" : " rpm"}
                yUnit="°"
                series={[{ name: "cycles", look: "dots", x: against === "time" ? cam.cycle_s : cam.cycle_rpm, y: cam.per_cycle_deg }, ...(against === "time" ? line : [])]}
              />
            ) : <Soft>Its cycles were not kept.</Soft>}
            <Soft>
              {s ? `Settles by ${Math.abs(s.amplitude_deg).toFixed(1)}° with a decay of ${s.decay_s.toFixed(1)} s, to ${s.settled_deg.toFixed(2)}°. ` : "Steady from the start. "}
              {cam.speed ? `With speed: ${cam.speed.deg_per_krpm >= 0 ? "+" : "−"}${Math.abs(cam.speed.deg_per_krpm).toFixed(2)}° ± ${(1.645 * cam.speed.stderr).toFixed(2)}° per 1000 rpm (${cam.speed.low_rpm.toFixed(0)} to ${cam.speed.high_rpm.toFixed(0)} rpm). ` : "One speed only. "}
              Scatter {cam.scatter_deg.toFixed(2)}° over {cam.cycles} cycles.
            </Soft>
          </div>
        );
      })}
    </Sheet>
  );
}
