import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { readingsQuery, tracesQuery, useJob } from "../../api/queries";
import { FoldedTraces } from "../../drawing/FoldedTraces";
import { LatenessLadder } from "../../drawing/LatenessLadder";
import { CareNote, Columns, Sheet, Soft, Stack, StageHead, Waiting } from "../../kit/page";
import { CaptureSheet } from "./CaptureSheet";
import { ReadingList } from "./ReadingList";
import { PlungerSheets, TypedCam } from "./TypedReadings";

export function Readings() {
  const id = Number(useParams().id);
  const readings = useQuery(readingsQuery(id));
  const job = useJob(id);
  const data = readings.data;
  const capture = data?.captures[data.captures.length - 1];
  if (!data) return <Waiting error={readings.error} what="the readings" />;
  const isFixed = job.data?.is_signed ?? false;
  return (
    <>
      <StageHead title="Readings">
        {data.readings.some((r) => r.counts) && <Link to={`/jobs/${id}/verdict`}>Read the verdict</Link>}
      </StageHead>
      {!isFixed && !capture && <CaptureSheet id={id} phase="before" phasers={data.phasers} channels={data.channels} limitBytes={data.upload_limit_bytes} />}
      <Sheet>
        <h2>How late is each cam?</h2>
        <LatenessLadder ladder={data.ladder} />
        {capture && (
          <Soft>
            {capture.seconds.toFixed(1)} s at {Math.round(capture.rpm)} rpm from {capture.source}. Diamond: reading; bar: 90 % interval; solid: intake, open: exhaust.
          </Soft>
        )}
        {capture && capture.quality.length > 0 && <CareNote title="About this capture">{capture.quality.map((q) => <div key={q}>{q}</div>)}</CareNote>}
      </Sheet>
      {capture && <Folded id={id} capture={capture.id} />}
      <Columns $of="minmax(0, 1fr) minmax(0, 1fr)">
        {!isFixed && <PlungerSheets id={id} sheets={data.plungers} taken={data.readings} />}
        <Stack>
          {!isFixed && capture && <CaptureSheet id={id} phase="before" phasers={data.phasers} channels={data.channels} limitBytes={data.upload_limit_bytes} />}
          {!isFixed && <TypedCam id={id} cams={data.cams} phasers={data.phasers} />}
        </Stack>
      </Columns>
      {data.readings.length > 0 && <ReadingList id={id} readings={data.readings} isFixed={isFixed} />}
    </>
  );
}

function Folded({ id, capture }: { id: number; capture: number }) {
  const traces = useQuery(tracesQuery(id, capture));
  return (
    <Sheet>
      <h2>Folded traces</h2>
      {traces.data ? <FoldedTraces traces={traces.data.traces} /> : <Waiting error={traces.error} what="the traces" />}
      <Soft>Every cycle laid over the last. Dashed: where the book expects each edge. Bracket: the difference.</Soft>
    </Sheet>
  );
}
