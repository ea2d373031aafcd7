import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { client, take, type Schemas } from "../../api/client";
import { handoverQuery, meQuery, useChange, useJob } from "../../api/queries";
import { useStartJob } from "../../api/useStartJob";
import { SignatureField } from "../../kit/SignatureField";
import { Button, Field } from "../../kit/controls";
import { useDraft } from "../../kit/draft";
import { Columns, Line, Sheet, Soft, Stack, StageHead, TroubleNote, Waiting } from "../../kit/page";
import { clock } from "../../kit/words";
import { After } from "./After";
import { PhotoPick } from "./PhotoPick";

/* As high as the page is: the paper scrolls, and the page beside it does not. */
const Paper = styled.iframe`
  width: 100%;
  height: max(420px, calc(100vh - 216px));
  border: 1px solid var(--line);
  background: #fff;
`;
const Seal = styled(Soft)`
  overflow-wrap: anywhere;
`;

export function Handover() {
  const id = Number(useParams().id);
  const handover = useQuery(handoverQuery(id));
  const me = useQuery(meQuery);
  const { change, trouble, isBusy } = useChange(id);
  const draft = useDraft<{ left: string; photos: number[] | null }>(`left ${id}`, {
    left: handover.data?.left_over ?? "",
    photos: null,
  });
  const [password, setPassword] = useState("");
  if (!handover.data) return <Waiting error={handover.error} what="the report" />;
  const data = handover.data;
  const chosen = draft.value.photos;
  const seen = data.sha256 ?? (chosen ? `photos=${chosen.join(",")}` : "draft");

  async function onSign() {
    const body = { left_over: draft.value.left, photos: chosen, password };
    const done = await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/handover/sign", {
          params: { path: { job_id: id } },
          body: { ...body, version },
        }),
      ),
    );
    setPassword("");
    if (done) draft.forget(draft.value);
  }
  const depot = data.signed_at_depot ? ` at ${data.signed_at_depot}` : "";
  return (
    <>
      <StageHead title="Handover">
        <Soft>
          {data.is_signed
            ? `Signed by ${data.signed_by}${depot}, ${clock(data.signed_at ?? "")}. Frozen.`
            : "Draft: not signed."}
        </Soft>
      </StageHead>
      <Columns $of="minmax(0, 3fr) minmax(0, 2fr)">
        <Paper title="Report" src={`/api/jobs/${id}/report.html?${seen}`} />
        <Stack>
          <Sheet>
            <h2>In short</h2>
            {data.summary.map((line) => (
              <p key={line}>{line}</p>
            ))}
            <Line>
              <a href={`/api/jobs/${id}/report.pdf?${seen}`} target="_blank" rel="noreferrer">
                Report as PDF
              </a>
              <a href={`/api/jobs/${id}/report.html?${seen}`} target="_blank" rel="noreferrer">
                as a page
              </a>
              <a href={`/api/jobs/${id}/archive.zip`} download>
                Job as a file
              </a>
            </Line>
          </Sheet>
          <After id={id} />
          {data.is_signed ? (
            <>
              <Frozen data={data} />
              <ComeBack id={id} />
            </>
          ) : !data.is_released ? (
            <Sheet>
              <Soft>
                The engine is not released. <Link to={`/jobs/${id}/proof`}>Finish Proof</Link>{" "}
                first.
              </Soft>
            </Sheet>
          ) : me.data?.role !== "lead" ? (
            <Sheet>
              <h2>Waits for a lead</h2>
              <Soft>A lead technician signs in, reads the report and signs it.</Soft>
            </Sheet>
          ) : (
            <Sheet>
              <h2>Sign</h2>
              <Field
                label="Left over, for next time"
                value={draft.value.left}
                onChange={(left) => draft.set({ ...draft.value, left })}
                isLong
              />
              <PhotoPick
                job={id}
                photos={data.photos}
                chosen={chosen}
                onChoose={(photos) => draft.set({ ...draft.value, photos })}
              />
              <SignatureField value={password} onChange={setPassword} />
              <TroubleNote trouble={trouble} />
              <Button look="main" onPress={() => void onSign()} isDisabled={isBusy || !password}>
                Sign and freeze
              </Button>
              {isBusy && (
                <Soft role="status">The report is set, sealed and frozen: some seconds.</Soft>
              )}
            </Sheet>
          )}
        </Stack>
      </Columns>
    </>
  );
}

/** The same fault again: a new job that says which one it comes back from. */
function ComeBack({ id }: { id: number }) {
  const job = useJob(id).data;
  const { start, trouble } = useStartJob();
  if (!job) return null;
  const body = { unit_id: job.unit.id, engine_id: null, comeback_of: id };
  return (
    <Sheet>
      <TroubleNote trouble={trouble} />
      <Line>
        <Button onPress={() => void start(body)}>It came back: open a new job</Button>
      </Line>
    </Sheet>
  );
}

/**
 * What can be held against a copy: the figures that stand for report and notebook, and how to check
 * them.
 */
function Frozen({ data }: { data: Schemas["HandoverOut"] }) {
  const lines: [string, string | null][] = [
    ["Report", data.sha256],
    ["Notebook", data.head],
    ["Key that sealed both", data.signing_key],
  ];
  return (
    <Sheet>
      <h2>Frozen and sealed</h2>
      {lines.map(([what, figure]) => (
        <Seal key={what}>
          {what}: {figure ?? "none: signed before there were seals"}
        </Seal>
      ))}
      <Soft>
        Report and job file carry the seal with them. To check a copy: script/flaneur verify FILE
      </Soft>
    </Sheet>
  );
}
