import styled from "styled-components";
import type { Schemas } from "../../../api/client";
import { Plot } from "../../../drawing/plot/Plot";
import { Big, CareNote, Line, Sheet, Soft, Unit } from "../../../kit/page";
import { late } from "../../../kit/words";

const Now = styled.div`
  text-align: right;
`;
const Cam = styled.div`
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr) 170px;
  gap: 12px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 4px 0;
`;

/** The engine as it runs: speed, quality of the signal, and every cam since the start. */
export function LiveCams({ live }: { live: Schemas["LiveOut"] }) {
  const flat = live.cams.flatMap((c) => c.history_deg);
  const range: [number, number] = [Math.min(-2, ...flat) - 1, Math.max(4, ...flat) + 1];
  return (
    <Sheet>
      <Line $gap="4px 30px" $align="baseline">
        <div>
          <Soft>speed</Soft>
          <Big>
            {live.rpm === null ? "…" : Math.round(live.rpm)}
            <Unit>rpm</Unit>
          </Big>
        </div>
        <div>
          <Soft>since the start</Soft>
          <Big>
            {live.seconds.toFixed(0)}
            <Unit>s</Unit>
          </Big>
        </div>
        {live.recording_s !== null && (
          <div>
            <Soft>recording</Soft>
            <Big $tone="stop">
              ● {live.recording_s.toFixed(0)}
              <Unit>s</Unit>
            </Big>
          </div>
        )}
        <Soft role="status">
          {live.quality.length === 0
            ? live.cams.length
              ? "Reads cleanly."
              : "Waiting for the first turns …"
            : ""}
        </Soft>
      </Line>
      {live.quality.length > 0 && (
        <CareNote title="About the signal">
          {live.quality.map((q) => (
            <div key={q}>{q}</div>
          ))}
        </CareNote>
      )}
      {live.cams.map((c) => (
        <Cam key={c.cam}>
          <strong>{c.name}</strong>
          <Plot
            label={`${c.name} since the start`}
            series={[{ name: c.name, look: "measured", x: c.history_s, y: c.history_deg }]}
            xUnit=" s"
            yUnit="°"
            height={92}
            yRange={range}
            band={[-live.tolerance_deg, live.tolerance_deg]}
          />
          <Now>
            <Big $tone="measured" $size={27}>
              {late(c.deviation_deg)}
            </Big>
            <Soft>
              ± {c.half_90.toFixed(2)}° (90 %), scatter {c.scatter_deg.toFixed(2)}°
            </Soft>
          </Now>
        </Cam>
      ))}
    </Sheet>
  );
}
