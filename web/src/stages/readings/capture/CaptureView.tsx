import styled from "styled-components";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { captureQuery, compareQuery, tracesQuery } from "../../../api/queries";
import type { Schemas } from "../../../api/client";
import { FoldedTraces } from "../../../drawing/FoldedTraces";
import { Choice } from "../../../kit/controls";
import { Big, CareNote, Line, Sheet, Soft, StageHead, Waiting } from "../../../kit/page";
import { Select } from "../../../kit/Select";
import { clock, late } from "../../../kit/words";
import { OverTime } from "./OverTime";
import { TimeView } from "./TimeView";
import { Said, Tiles } from "../../../kit/text";

const VIEWS = [
  { value: "folded", label: "Folded" },
  { value: "time", label: "Along time" },
  { value: "cycles", label: "Cycle by cycle" },
  { value: "edges", label: "Edge by edge" },
] as const;
type View = (typeof VIEWS)[number]["value"];

/** One capture looked at closely. */
export function CaptureView() {
  const params = useParams();
  const id = Number(params.id);
  const capture = Number(params.capture);
  const detail = useQuery(captureQuery(id, capture));
  const [view, setView] = useState<View>("folded");
  const data = detail.data;
  if (!data) return <Waiting error={detail.error} what="the capture" />;
  const c = data.capture;
  const base = `/api/jobs/${id}/captures/${capture}`;
  return (
    <>
      <StageHead title={`Capture C${c.id}`}>
        <Link to={`/jobs/${id}/readings`}>All readings</Link>
      </StageHead>
      <Sheet>
        <Tiles $least={150} $gap="6px 14px" $fits>
          {data.cams.map((cam) => (
            <div key={cam.cam}>
              <Soft>{cam.short}</Soft>
              <Big $tone="measured" $size={24}>
                {late(cam.deviation_deg, 2)}
              </Big>
              <Soft>± {cam.half_90.toFixed(2)}° (90 %)</Soft>
            </div>
          ))}
        </Tiles>
        <Soft>
          {c.seconds.toFixed(1)} s at {Math.round(c.rpm)} rpm, {(c.rate_hz / 1000).toFixed(0)} kS/s,
          from {c.source} · {c.taken_by}, {clock(c.taken_at)} · {c.quality_verdict}
        </Soft>
        {c.quality.length > 0 && (
          <CareNote title="About this capture">
            {c.quality.map((q) => (
              <div key={q}>{q}</div>
            ))}
          </CareNote>
        )}
        {c.notes.map((n) => (
          <Soft key={n}>{n}</Soft>
        ))}
      </Sheet>
      <Choice label="Look at it" value={view} onChange={setView} options={VIEWS} />
      {view === "folded" && <Folded id={id} capture={capture} />}
      {view === "time" && <TimeView id={id} detail={data} />}
      {view === "cycles" && <OverTime cams={data.cams} />}
      {view === "edges" && <Edges data={data} />}
      {data.others.length > 0 && <Against id={id} capture={capture} others={data.others} />}
      <Sheet>
        <h2>Take it with you</h2>
        <Line>
          {["csv", "wav", "parquet"].map((k) => (
            <Take key={k} href={`${base}/file.${k}`} download>
              Samples as {k.toUpperCase()}
            </Take>
          ))}
          {["csv", "json"].map((k) => (
            <Take key={k} href={`${base}/correlation.${k}`} download>
              Correlation as {k.toUpperCase()}
            </Take>
          ))}
        </Line>
      </Sheet>
    </>
  );
}

const Take = styled.a`
  min-height: 48px;
  display: inline-flex;
  align-items: center;
`;
const Edge = styled.div<{ $isOff: boolean }>`
  min-width: 74px;
  padding: 4px 8px;
  border-left: ${({ $isOff }) => ($isOff ? "8px solid var(--red)" : "2px solid var(--line)")};
`;

function Folded({ id, capture }: { id: number; capture: number }) {
  const traces = useQuery(tracesQuery(id, capture));
  return (
    <Sheet>
      {traces.data ? (
        <FoldedTraces traces={traces.data.traces} />
      ) : (
        <Waiting error={traces.error} what="the traces" />
      )}
      <Soft>
        Every cycle laid over the last. Dashed: where the book expects each edge. Bracket: the
        difference.
      </Soft>
    </Sheet>
  );
}

/**
 * Each edge of each cam wheel against its own cam: one alone is the wheel, all together are the
 * cam.
 */
function Edges({ data }: { data: Schemas["CaptureDetail"] }) {
  return (
    <Sheet>
      <h2>One edge off is the tone wheel; all edges off are the cam</h2>
      {data.cams.map((cam) => (
        <div key={cam.cam}>
          <strong>{cam.name}</strong>
          <p>{cam.edges_said}</p>
          <Line $align="stretch">
            {cam.edges.map((e) => (
              <Edge key={e.expected_deg} $isOff={e.is_off}>
                <Soft>
                  {e.rising ? "↑" : "↓"} {e.expected_deg.toFixed(0)}°
                </Soft>
                <Said $size={18} $tone={e.is_off ? "stop" : "ink"}>
                  {e.deviation_deg === null ? "missing" : signed(e.deviation_deg)}
                </Said>
              </Edge>
            ))}
          </Line>
          {cam.half_order && <Soft>{cam.half_order}</Soft>}
        </div>
      ))}
      {data.fingerprint && <Soft>{data.fingerprint.words}</Soft>}
    </Sheet>
  );
}

function Against({
  id,
  capture,
  others,
}: {
  id: number;
  capture: number;
  others: Schemas["CaptureOut"][];
}) {
  const [other, setOther] = useState(String(others[others.length - 1]?.id));
  const found = useQuery(compareQuery(id, capture, Number(other)));
  return (
    <Sheet>
      <h2>Against another capture</h2>
      <Select
        label="Compare with"
        value={other}
        onChange={setOther}
        options={others.map((o) => ({
          value: String(o.id),
          label: [
            `C${o.id}`,
            `${o.seconds.toFixed(1)} s at ${Math.round(o.rpm)} rpm`,
            clock(o.taken_at),
          ].join(", "),
        }))}
      />
      {found.data ? (
        <Line $gap="6px 26px">
          {found.data.changes.map((c) => (
            <div key={c.cam}>
              <Soft>{c.name}</Soft>
              <Said $size={19} $tone={c.is_clear ? "measured" : "soft"}>
                {c.words}
              </Said>
            </div>
          ))}
        </Line>
      ) : (
        <Waiting error={found.error} what="the comparison" />
      )}
      <Soft>
        C{Math.min(capture, Number(other))} first, then C{Math.max(capture, Number(other))}. Tone
        wheels drop out of the difference.
      </Soft>
    </Sheet>
  );
}

function signed(deg: number): string {
  return `${deg >= 0 ? "+" : "−"}${Math.abs(deg).toFixed(2)}°`;
}
