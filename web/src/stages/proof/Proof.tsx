import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { client, take, type Schemas } from "../../api/client";
import { benchQuery, proofQuery, readingsQuery, useChange, useJob } from "../../api/queries";
import { LatenessLadder } from "../../drawing/LatenessLadder";
import { ButtonLink } from "../../kit/Button";
import { Button, Choice, Field } from "../../kit/controls";
import { useDraft } from "../../kit/draft";
import {
  CareNote,
  Columns,
  Line,
  Sheet,
  Soft,
  Stack,
  StageHead,
  StopNote,
  TroubleNote,
  Waiting,
} from "../../kit/page";
import { HardStop } from "../bench/HardStop";
import { CaptureList } from "../readings/CaptureList";
import { CaptureSheet } from "../readings/CaptureSheet";
import { Incoming } from "../readings/Incoming";
import { NoSignals } from "../readings/Readings";
import { LinkTasks } from "./LinkTasks";
import { TypedCam } from "../readings/TypedReadings";
import { PlainList, Said, Told } from "../../kit/text";

const MARK: Record<string, [string, string]> = {
  met: ["✓", "var(--enamel)"],
  failed: ["■", "var(--red)"],
  unknown: ["?", "var(--ochre)"],
};
const Item = styled.li`
  display: grid;
  grid-template-columns: 26px minmax(0, 1fr) auto;
  gap: 8px;
  padding: 7px 0;
  border-top: 1px solid var(--line);
  align-items: baseline;
`;

const Back = styled(Link)`
  display: inline-flex;
  align-items: center;
  min-height: 48px;
`;

export function Proof() {
  const id = Number(useParams().id);
  const proof = useQuery(proofQuery(id));
  const readings = useQuery(readingsQuery(id));
  const bench = useQuery(benchQuery(id));
  const job = useJob(id);
  if (!proof.data) return <Waiting error={proof.error} what="the proof" />;
  const data = proof.data;
  const isFixed = data.is_released;
  const met = data.checks.filter((c) => c.state === "met").length;
  return (
    <>
      <StageHead title="Is it right?">
        <Soft>
          {data.is_released ? "Released." : `${met} of ${data.checks.length} conditions met`}
        </Soft>
      </StageHead>
      <Sheet>
        <h2>Before and after</h2>
        <LatenessLadder drawings={data.ladder_drawings} />
      </Sheet>
      <Columns $of={isFixed ? "minmax(0, 1fr)" : "minmax(0, 1fr) minmax(0, 1fr)"}>
        <Stack hidden={isFixed}>
          {!isFixed && bench.data && <HardStop id={id} bench={bench.data} />}
          {!isFixed && data.turned.length > 0 && <Turned id={id} proof={data} />}
          {!isFixed && !data.is_stopped && <TurnByHand id={id} proof={data} />}
          {!isFixed && <FirstStarts id={id} told={data.first_start} />}
          {!isFixed && data.captures.some((c) => c.phase === "after") && (
            <CaptureList
              id={id}
              captures={data.captures.filter((c) => c.phase === "after")}
              isFixed={isFixed}
            />
          )}
          {!isFixed && !data.is_stopped && readings.data && (
            <>
              <CareNote title="Before you start it">
                No starter while any tool, pin or holder is fitted. Prime first: short bursts with
                starting disabled, with rests.
              </CareNote>
              {job.data?.can_capture === false ? (
                <>
                  <NoSignals />
                  <TypedCam
                    id={id}
                    cams={readings.data.cams}
                    phasers={data.phasers}
                    instruments={readings.data.instruments}
                  />
                </>
              ) : (
                <>
                  <CaptureSheet
                    id={id}
                    phase="after"
                    phasers={data.phasers}
                    channels={readings.data.channels}
                    limitBytes={readings.data.upload_limit_bytes}
                  />
                  <Incoming id={id} />
                </>
              )}
              <LinkTasks id={id} proof={data} />
            </>
          )}
        </Stack>
        <Stack>
          <Sheet>
            <h2>Conditions of release</h2>
            <PlainList>
              {data.checks.map((c) => {
                const [mark, color] = MARK[c.state] ?? ["?", "var(--soft)"];
                return (
                  <Item key={c.name}>
                    <Told as="span" $colour={color} aria-hidden>
                      {mark}
                    </Told>
                    <span>
                      <strong>{c.name}</strong>
                      <br />
                      {c.words}
                      {c.step && !isFixed && (
                        <div>
                          <Back to={`/jobs/${id}/bench?step=${encodeURIComponent(c.step)}`}>
                            {c.way}
                          </Back>
                        </div>
                      )}
                    </span>
                    <Said $colour={color}>{c.state}</Said>
                  </Item>
                );
              })}
            </PlainList>
          </Sheet>
          {isFixed && data.turned.length > 0 && <Turned id={id} proof={data} />}
          {isFixed && data.first_start.length > 0 && <FirstStarts told={data.first_start} />}
          {!isFixed && <Release id={id} proof={data} />}
        </Stack>
      </Columns>
    </>
  );
}

/** What was seen and heard at starts after the repair; with ``id`` the way to watch one. */
function FirstStarts({ id, told }: { id?: number; told: string[] }) {
  return (
    <Sheet>
      <h2>First start</h2>
      {told.length === 0 && (
        <Soft>
          Not watched yet: oil pressure first, then how long it rattles and how soon cams settle.
        </Soft>
      )}
      <PlainList $gap="4px">
        {told.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </PlainList>
      {id !== undefined && (
        <ButtonLink to={`/jobs/${id}/proof/start`}>Watch the first start</ButtonLink>
      )}
    </Sheet>
  );
}

/** What the bench has shown already; nobody is asked twice. */
function Turned({ id, proof }: { id: number; proof: Schemas["ProofOut"] }) {
  return (
    <Sheet>
      <h2>Turned by hand at the bench</h2>
      <PlainList>
        {proof.turned.map((t) => (
          <Item key={t.step}>
            <Told as="span" $colour={t.is_smooth && t.is_met ? "var(--enamel)" : "var(--red)"}>
              {t.is_smooth && t.is_met ? "✓" : "■"}
            </Told>
            <span>
              <Back to={`/jobs/${id}/bench?step=${encodeURIComponent(t.step)}`}>{t.title}</Back>
              <br />
              {t.words} · {t.by}
            </span>
            <Said>{t.turns} turns</Said>
          </Item>
        ))}
      </PlainList>
      {proof.comes_back.map((chain) => (
        <Soft key={chain.chain}>
          <strong>{chain.name}:</strong> {chain.words} That is no fault.
        </Soft>
      ))}
      <Measure id={id} turned={proof.turned} />
    </Sheet>
  );
}

/** By how much each mark misses that was answered to: none of the rest is asked for. */
function Measure({ id, turned }: { id: number; turned: Schemas["Turned"][] }) {
  const sheet = `/jobs/${id}/readings/sheet/mark_miss`;
  const missed = turned.flatMap((t) => t.missed);
  const marks = new Map(missed.filter((m) => m.is_timing).map((m) => [m.mark, m.name]));
  if (!marks.size) return null;
  return (
    <Stack $gap={6}>
      <strong>By how much does it miss?</strong>
      <Soft>Wear is a few degrees, a tooth its own.</Soft>
      {[...marks].map(([mark, name]) => (
        <Line key={mark}>
          <ButtonLink to={`${sheet}?part=${mark}`}>{name}</ButtonLink>
        </Line>
      ))}
    </Stack>
  );
}

/** Asked where no step of the bench turned it, or behind a press where it is turned once more. */
function TurnByHand({ id, proof }: { id: number; proof: Schemas["ProofOut"] }) {
  const isShown = proof.turned.length > 0 && proof.turns !== null;
  const [isAgain, setAgain] = useState(false);
  return isShown && !isAgain ? (
    <Line>
      <Button onPress={() => setAgain(true)}>Turned by hand once more</Button>
    </Line>
  ) : (
    <Hands id={id} proof={proof} />
  );
}

type Mark = "met" | "missed";

function Hands({ id, proof }: { id: number; proof: Schemas["ProofOut"] }) {
  const { change, trouble, isBusy } = useChange(id);
  const saved: Record<string, string> = {
    turns: proof.turns === null ? "" : String(proof.turns),
    stop: proof.hard_stop === null ? "" : proof.hard_stop ? "yes" : "no",
    pins: proof.pins_out === null ? "" : String(proof.pins_out),
    ...Object.fromEntries(
      Object.entries(proof.marks).map(([m, met]) => [m, met ? "met" : "missed"]),
    ),
  };
  const draft = useDraft<Record<string, string>>(
    `hands ${id} ${proof.round} ${proof.stops.length}`,
    saved,
  );
  const v = draft.value;
  const isReady =
    v.turns && v.stop && /^\d+$/.test(v.pins ?? "") && proof.mark_checks.every((m) => v[m]);

  async function onSave() {
    const marks = Object.fromEntries(proof.mark_checks.map((m) => [m, v[m] === "met"]));
    const body = {
      turns: v.turns ?? "",
      hard_stop: v.stop === "yes",
      marks,
      pins_out: Number(v.pins),
    };
    const done = await change((version) =>
      take(
        client.PUT("/api/jobs/{job_id}/proof/hands", {
          params: { path: { job_id: id } },
          body: { ...body, version },
        }),
      ),
    );
    if (done) draft.forget(draft.value);
  }
  return (
    <Sheet>
      <h2>Turn by hand</h2>
      <StopNote title="Caution">
        Turned with the plugs out, forwards only, never by force: at a hard stop, stop. Hands clear
        of the chains.
      </StopNote>
      <p>{proof.text}</p>
      <Columns $of="1fr 1fr">
        <Field
          label="Crank turns made"
          value={v.turns ?? ""}
          onChange={(turns) => draft.set({ turns })}
          hint={`at least ${proof.hand_turns}`}
          inputMode="decimal"
        />
        <Field
          label="Counted out: pins, holders, all that was laid aside"
          value={v.pins ?? ""}
          onChange={(pins) => draft.set({ pins })}
          hint={`${proof.pins_in} to account for`}
          inputMode="numeric"
        />
      </Columns>
      <Choice
        label="A hard stop?"
        value={v.stop || null}
        onChange={(stop) => draft.set({ stop })}
        options={[
          { value: "no", label: "none felt" },
          { value: "yes", label: "hard stop" },
        ]}
      />
      {proof.mark_checks.map((m) => (
        <Choice<Mark>
          key={m}
          label={m}
          value={(v[m] as Mark | undefined) ?? null}
          onChange={(met) => draft.set({ [m]: met })}
          options={[
            { value: "met", label: "met" },
            { value: "missed", label: "missed" },
          ]}
        />
      ))}
      <TroubleNote trouble={trouble} />
      <Line>
        <Button look="main" onPress={() => void onSave()} isDisabled={isBusy || !isReady}>
          Record the turns
        </Button>
      </Line>
    </Sheet>
  );
}

function Release({ id, proof }: { id: number; proof: Schemas["ProofOut"] }) {
  const { change, trouble, isBusy } = useChange(id);
  const [reason, setReason] = useState("");
  const blocking = proof.checks.filter((c) => c.state !== "met");
  const canOverride = blocking.length > 0 && blocking.every((c) => c.overridable);

  function onRelease() {
    void change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/proof/release", {
          params: { path: { job_id: id } },
          body: { version, override_reason: reason },
        }),
      ),
    );
  }
  return (
    <Sheet>
      <h2>Release</h2>
      {blocking.length > 0 && !canOverride && (
        <Soft>
          Something above cannot be overridden. Mend it at the{" "}
          <Link to={`/jobs/${id}/bench`}>bench</Link>: any closed step can be opened again there.
        </Soft>
      )}
      {canOverride && (
        <Field label="Override by a lead, because" value={reason} onChange={setReason} isLong />
      )}
      <TroubleNote trouble={trouble} />
      <Line>
        <Button
          look={proof.may_release ? "main" : "stop"}
          onPress={onRelease}
          isDisabled={isBusy || (blocking.length > 0 && !canOverride)}
        >
          Release the engine
        </Button>
      </Line>
    </Sheet>
  );
}
