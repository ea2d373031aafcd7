import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { readingsQuery, useJob } from "../../api/queries";
import { LatenessLadder } from "../../drawing/LatenessLadder";
import { CareNote, Columns, Sheet, Soft, StageHead, Waiting } from "../../kit/page";
import { CaptureList } from "./CaptureList";
import { CaptureSheet, Way } from "./CaptureSheet";
import { Incoming } from "./Incoming";
import { ReadingList } from "./ReadingList";
import { SheetBoard } from "./SheetBoard";
import { TypedCam } from "./TypedReadings";
import { Ends, Rest } from "../../kit/text";

/**
 * All readings of a job: how late each cam is, what else was measured, and every way to measure
 * more.
 */
export function Readings() {
  const id = Number(useParams().id);
  const readings = useQuery(readingsQuery(id));
  const job = useJob(id);
  const data = readings.data;
  const capture = data?.captures.filter((c) => !c.struck).pop();
  if (!data) return <Waiting error={readings.error} what="the readings" />;
  const isFixed = Boolean(job.data?.is_signed || job.data?.is_released);
  const sheet =
    !isFixed &&
    (job.data?.can_capture === false ? (
      <NoSignals />
    ) : (
      <CaptureSheet
        id={id}
        phase={job.data?.bench_started ? "after" : "before"}
        phasers={data.phasers}
        channels={data.channels}
        limitBytes={data.upload_limit_bytes}
      />
    ));
  return (
    <>
      <StageHead title={data.ladder.finding || "Readings"} />
      {!capture && sheet}
      <Incoming id={id} />
      <Sheet>
        <LatenessLadder drawings={data.ladder_drawings} />
        {capture && (
          <Soft>
            {capture.seconds.toFixed(1)} s at {Math.round(capture.rpm)} rpm from {capture.source}.
            Diamond: reading; bar: 90 % interval; solid: intake, open: exhaust.
          </Soft>
        )}
        {capture && capture.quality.length > 0 && (
          <CareNote title="About this capture">
            {capture.quality.map((q) => (
              <div key={q}>{q}</div>
            ))}
          </CareNote>
        )}
      </Sheet>
      <SheetBoard id={id} sheets={data.worksheets} readings={data.readings} />
      {data.phasers.length > 0 && (
        <Sheet>
          <h2>Do the phasers follow?</h2>
          <Ends $align="center">
            <Rest as={Soft} $least={260}>
              Commanded out and back, hot and cold: slow, stuck, drifting, hunting or sound, with
              the figures.
            </Rest>
            <Way to={`/jobs/${id}/readings/sweep`}>Sweep the phasers</Way>
          </Ends>
        </Sheet>
      )}
      {data.captures.length > 0 && (
        <CaptureList id={id} captures={data.captures} isFixed={isFixed} />
      )}
      <Columns $of="minmax(0, 1fr) minmax(0, 1fr)">
        {capture && sheet}
        {!isFixed && (
          <TypedCam
            id={id}
            cams={data.cams}
            phasers={data.phasers}
            instruments={data.instruments}
          />
        )}
      </Columns>
      {data.readings.length > 0 && (
        <ReadingList id={id} readings={data.readings} isFixed={isFixed} />
      )}
    </>
  );
}

/** An engine whose cams no sensor sees. */
export function NoSignals() {
  return (
    <CareNote title="No signal shows this engine's cams">
      Its book has no tone wheel on a cam, so that a capture would tell nothing. Read it by its
      marks, by lash, link counts and lengths; type a cam&apos;s deviation in below.
    </CareNote>
  );
}
