import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { client, sendFile, take, Trouble, type Schemas } from "../../../api/client";
import { answerQuery, readingsQuery, useChange, useJob } from "../../../api/queries";
import { MeasureDrawing } from "../../../drawing/MeasureDrawing";
import { Button, Choice, Field } from "../../../kit/controls";
import { ServerForm } from "../../../kit/form";
import { useDraft } from "../../../kit/draft";
import {
  Big,
  CareNote,
  Columns,
  Line,
  Sheet,
  Soft,
  Stack,
  StageHead,
  StopNote,
  Waiting,
} from "../../../kit/page";
import { Select } from "../../../kit/Select";
import { offered } from "../../../kit/words";
import { ReadingList } from "../ReadingList";
import { bandOf, Gauge } from "../../../drawing/Gauge";
import { Across, Said, Told } from "../../../kit/text";
import { FilePick } from "../../../kit/files";

const Blanks = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(165px, 1fr));
  gap: 12px 14px;
  align-items: start;
  .whole {
    grid-column: 1 / -1;
  }
`;

/** One mechanical reading: where to measure, what to type, the arithmetic as it stands. */
export function WorksheetPage() {
  const { id: job, kind } = useParams();
  const query = useSearchParams()[0];
  const step = query.get("step");
  const id = Number(job);
  const readings = useQuery(readingsQuery(id));
  const head = useJob(id);
  const sheet = readings.data?.worksheets.find((s) => s.kind === kind);
  if (!readings.data) return <Waiting error={readings.error} what="the worksheet" />;
  if (!sheet)
    return (
      <>
        <StageHead title="Worksheet" />
        <StopNote title="There is no such worksheet.">
          <Link to={`/jobs/${id}/readings`}>Back to the readings</Link>
        </StopNote>
      </>
    );
  const isFixed = Boolean(head.data?.is_signed || head.data?.is_released);
  const taken = readings.data.readings.filter((r) => r.kind === sheet.kind);
  return (
    <>
      <StageHead title={sheet.title}>
        {step ? (
          <Link to={`/jobs/${id}/bench?step=${step}`}>Back to the bench</Link>
        ) : (
          <Link to={`/jobs/${id}/readings`}>All readings</Link>
        )}
      </StageHead>
      {isFixed ? (
        <Sheet>
          <Soft>The engine is released; its readings stand.</Soft>
        </Sheet>
      ) : (
        <Fill
          key={sheet.kind}
          id={id}
          sheet={sheet}
          first={query.get("part") ?? ""}
          phase={head.data?.bench_started ? "after" : "before"}
        />
      )}
      {taken.length > 0 && <ReadingList id={id} readings={taken} isFixed={isFixed} />}
    </>
  );
}

function Fill({
  id,
  sheet,
  first,
  phase,
}: {
  id: number;
  sheet: Schemas["Worksheet"];
  /** The part that was asked for, where one was. */
  first: string;
  phase: "before" | "after";
}) {
  const { change, trouble, isBusy } = useChange(id);
  const asks = sheet.parts.find((p) => p.id === first) ?? sheet.parts[0];
  const [part, setPart] = useState(asks?.id ?? "");
  const draft = useDraft<Record<string, string>>(`sheet ${id} ${sheet.kind}`, {});
  const [photos, setPhotos] = useState<File[]>([]);
  const values = draft.value;
  const method = values.method ?? "";
  const asked = sheet.blanks.filter((b) => !b.only_for || b.only_for === method);
  const fields = Object.fromEntries(asked.map((b) => [b.key, values[b.key] ?? ""]));
  const isReady = asked.every((b) => b.is_optional || (values[b.key] ?? "").trim() !== "");
  const body = { kind: sheet.kind, part, fields };
  const answer = useQuery(answerQuery(id, body, isReady));
  const note = sheet.parts.find((p) => p.id === part)?.note;

  async function onKeep() {
    const path = { params: { path: { job_id: id } } };
    const sent = draft.value;
    const kept = await change(async (version) => {
      const done = await take(
        client.POST("/api/jobs/{job_id}/readings/worksheet", {
          ...path,
          body: { ...body, version, phase, instrument: "" },
        }),
      );
      // At once, before pages are fetched anew: what is typed for the next part meanwhile stays.
      draft.forget(sent);
      return done;
    });
    if (!kept) return;
    for (const photo of photos) {
      await change(() =>
        sendFile<Schemas["PhotoOut"]>(`/api/jobs/${id}/readings/${kept.made}/photos`, photo),
      );
    }
    setPhotos([]);
  }
  const refused = isReady && answer.error instanceof Trouble ? answer.error : null;
  return (
    <ServerForm
      trouble={trouble ?? refused}
      onSubmit={() => {
        if (isReady && answer.data && !isBusy) void onKeep();
      }}
    >
      <Columns $of="minmax(0, 1fr) minmax(0, 330px)">
        <Sheet>
          {sheet.parts.length > 1 && sheet.parts.length <= 7 && (
            <Choice
              label="On which"
              value={part}
              onChange={setPart}
              options={sheet.parts.map((p) => ({ value: p.id, label: p.name }))}
            />
          )}
          {sheet.parts.length > 7 && (
            <Select
              label="On which"
              value={part}
              onChange={setPart}
              options={sheet.parts.map((p) => ({ value: p.id, label: p.name }))}
            />
          )}
          {note && <Soft>{note}</Soft>}
          <Blanks>
            {asked.map((b) =>
              b.kind === "choice" ? (
                <Across key={b.key}>
                  <Choice
                    label={b.label}
                    value={values[b.key] ?? null}
                    onChange={(v) => draft.set({ [b.key]: v })}
                    options={offered(b.choices)}
                  />
                </Across>
              ) : (
                <div key={b.key} className={b.key === "note" ? "whole" : undefined}>
                  <Field
                    name={b.key}
                    label={labelOf(b)}
                    value={values[b.key] ?? ""}
                    onChange={(v) => draft.set({ [b.key]: v })}
                    hint={b.hint}
                    isLong={b.key === "note"}
                  />
                </div>
              ),
            )}
          </Blanks>
          <Line $align="center">
            <FilePick
              label="Photographs"
              accept={["image/jpeg", "image/png", "image/webp"]}
              isMany
              onFiles={(more) => setPhotos((had) => [...had, ...more])}
            >
              Add photographs
            </FilePick>
            {photos.length > 0 && (
              <>
                <span role="status">{photos.map((p) => p.name).join(", ")}</span>
                <Button onPress={() => setPhotos([])}>Leave them out</Button>
              </>
            )}
          </Line>
        </Sheet>
        <Stack>
          <Sheet aria-live="polite">
            {isReady && answer.data ? (
              <AnswerShown
                answer={answer.data.answer}
                figure={answer.data.figure}
                half={answer.data.half_90}
              />
            ) : refused ? (
              <Soft>No answer yet: something is not right in what is filled in.</Soft>
            ) : (
              <Soft>The answer stands here as soon as everything is filled in.</Soft>
            )}
            <Line>
              <Button look="main" type="submit" isDisabled={isBusy || !isReady || !answer.data}>
                {isBusy ? "Keeping …" : "Keep this reading"}
              </Button>
            </Line>
          </Sheet>
          <Sheet>
            <MeasureDrawing drawing={sheet.drawing} label={`Where to measure: ${sheet.where}`} />
            <Told $size={17}>{sheet.where}</Told>
            <Soft>{sheet.why}</Soft>
            {sheet.cautions.length > 0 && (
              <CareNote title="Take care">
                {sheet.cautions.map((c) => (
                  <div key={c}>{c}</div>
                ))}
              </CareNote>
            )}
          </Sheet>
        </Stack>
      </Columns>
    </ServerForm>
  );
}

/** The label of a field with its unit: what a bare number in it has. */
function labelOf(b: Schemas["Blank"]): string {
  const joint = b.label.endsWith("±") ? " " : ", ";
  return `${b.label}${b.unit && joint + b.unit}${b.is_optional ? " (if known)" : ""}`;
}

const GaugeLine = styled.div`
  max-width: 320px;
`;

function AnswerShown({
  answer,
  figure,
  half,
}: {
  answer: Schemas["Answer"];
  figure: string;
  half: number | null;
}) {
  const band = bandOf(answer.band);
  return (
    <>
      <Line $align="baseline">
        {figure && <Big>{figure}</Big>}
        {half !== null && (
          <Soft>
            ± {half.toFixed(2)} {answer.unit} (90 %)
          </Soft>
        )}
        {band && (
          <Said $tone={band.tone} $size={19}>
            {band.word}
          </Said>
        )}
      </Line>
      {answer.of_limit !== null && (
        <GaugeLine>
          <Gauge share={answer.of_limit} band={answer.band} />
          <Soft>The tick is the limit.</Soft>
        </GaugeLine>
      )}
      <Told $size={18}>{answer.words}</Told>
      {answer.working.map((w) => (
        <Soft key={w}>{w}</Soft>
      ))}
    </>
  );
}
