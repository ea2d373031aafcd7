import { useState } from "react";
import styled from "styled-components";
import { client, take, type Schemas } from "../../api/client";
import { useChange, useJob } from "../../api/queries";
import { Beside, Button, Choice, Field } from "../../kit/controls";
import { useAttention } from "../../kit/arrival";
import { useDraft } from "../../kit/draft";
import { Keypad } from "../../kit/Keypad";
import { ServerForm } from "../../kit/form";
import { CareNote, Line, Sheet, Soft, StopNote } from "../../kit/page";
import { clock, hours, offered } from "../../kit/words";
import { stepDraft } from "./LostRace";
import { Reopen } from "./Reopen";
import { Told } from "../../kit/text";

const Step = styled(Sheet)`
  gap: 16px;
  border-top: none;
  padding-top: 0;
`;
const Title = styled.h1`
  font-size: var(--head);
  line-height: 1.2;
`;
const Text = styled.p`
  font-size: var(--bench);
  line-height: 1.35;
`;
const Looks = styled.p`
  font-size: var(--name);
  border-left: 6px solid var(--enamel);
  padding-left: 12px;
`;
const Stands = styled.ul`
  list-style: none;
  margin: 0;
  padding: 8px 0 0;
  display: grid;
  gap: 4px;
  border-top: 1px solid var(--line);
  font-size: var(--name);
`;
const Answer = styled.div`
  font-size: var(--name);
  & input {
    font-size: var(--bench);
    min-height: var(--bench-target);
  }
`;

interface Props {
  id: number;
  step: Schemas["PlanStep"];
  number: number;
  record: Schemas["RecordOut"] | undefined;
  occurrence: number;
  onClosed: () => void;
}

/**
 * One step, big: what to do, how it looks when right, what to enter; and when it is not right, the
 * book's remedy.
 */
export function StepCard({ id, step, number, record, occurrence, onClosed }: Props) {
  const { change, trouble, isBusy } = useChange(id);
  const draft = useDraft<Record<string, string>>(stepDraft(id, step.ref, occurrence), {});
  const [wrong, setWrong] = useState<{ result: Schemas["StepResult"]; answers: string[] } | null>(
    null,
  );
  const [reason, setReason] = useState("");
  const answers = step.asked.map((_, i) => draft.value[i] ?? "");
  const isWhole = answers.every((a) => a.trim());

  async function onRecord(departure: string | null) {
    const body = {
      step: step.ref,
      answers: departure !== null && wrong ? wrong.answers : answers,
      departure,
    };
    const sent = draft.value;
    const done = await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/bench/steps", {
          params: { path: { job_id: id } },
          body: { ...body, version },
        }),
      ),
    );
    if (!done) return;
    // Recorded, right or not: what was typed is in the record now, and the next occurrence of the
    // step begins empty.
    draft.forget(sent);
    if (done.closed) {
      setWrong(null);
      onClosed();
    } else setWrong({ result: done, answers });
  }
  return (
    <Step>
      <div>
        <Soft>
          Step {number} · about {Math.round(step.minutes)} min
          {step.waiting ? `, then ${hours(step.waiting)} of waiting` : ""}
          {step.two_person ? " · two people" : ""}
          {step.tools.length ? ` · ${[...new Set(step.tools)].join(", ")}` : ""}
        </Soft>
        <Title ref={useAttention()} tabIndex={-1}>
          {step.title}
        </Title>
      </div>
      {step.cautions.length > 0 && (
        <StopNote title="Caution">
          {step.cautions.map((c) => (
            <Told key={c} $size={20}>
              {c}
            </Told>
          ))}
        </StopNote>
      )}
      <Text>{step.text}</Text>
      {step.note && (
        <CareNote title="Note">
          <Told as="span" $size={18}>
            {step.note}
          </Told>
        </CareNote>
      )}
      <Looks>
        <strong>Right when: </strong>
        {step.looks_right}
      </Looks>
      {step.state && step.state.words.length > 0 && (
        <Stands aria-label="Where the engine stands after this step">
          {step.state.words.map((said) => (
            <li key={said}>{said}</li>
          ))}
        </Stands>
      )}
      {record && !wrong && <Closed id={id} record={record} onOpened={onClosed} />}
      {wrong && (
        <NotRight
          result={wrong.result}
          reason={reason}
          setReason={setReason}
          onLeave={() => void onRecord(reason)}
          isBusy={isBusy}
        />
      )}
      {(!record || wrong) && (
        <ServerForm
          trouble={trouble}
          onSubmit={() => {
            if (isWhole && !isBusy) void onRecord(null);
          }}
        >
          {step.asked.map((asked, i) => (
            <Answer key={asked.ask}>
              <Ask
                name={`answers.${i}`}
                asked={asked}
                value={answers[i] ?? ""}
                onChange={(value) => {
                  draft.set({ [i]: value });
                }}
              />
            </Answer>
          ))}
          <Line>
            <Button look="next" type="submit" isDisabled={isBusy || !isWhole}>
              {isBusy ? "Recording …" : wrong ? "Checked again: record" : "Record what I see"}
            </Button>
          </Line>
        </ServerForm>
      )}
    </Step>
  );
}

function Ask({
  name,
  asked,
  value,
  onChange,
}: {
  name: string;
  asked: Schemas["Asked"];
  value: string;
  onChange: (value: string) => void;
}) {
  const choices = asked.choices;
  if (choices.length)
    return (
      <Choice
        label={asked.ask}
        value={value || null}
        onChange={onChange}
        options={offered(choices)}
        isBig
      />
    );
  const { escape } = asked;
  const isEscaped = Boolean(escape && value === escape.code);
  return (
    <Line>
      <Field
        name={name}
        label={asked.ask}
        value={isEscaped ? "" : value}
        onChange={onChange}
        inputMode={asked.stage ? undefined : "numeric"}
        hint={asked.hint}
      />
      <Keypad label={asked.ask} value={isEscaped ? "" : value} onChange={onChange} />
      {escape && (
        <Beside
          aria-pressed={isEscaped}
          look={isEscaped ? "main" : "plain"}
          onPress={() => onChange(isEscaped ? "" : escape.code)}
        >
          {escape.words}
        </Beside>
      )}
    </Line>
  );
}

function Closed({
  id,
  record,
  onOpened,
}: {
  id: number;
  record: Schemas["RecordOut"];
  onOpened: () => void;
}) {
  const job = useJob(id);
  const isFixed = Boolean(job.data?.is_signed || job.data?.is_released);
  return (
    <div>
      {record.seen.map((s) => (
        <Told key={s.ask} $size={20}>
          {s.ok ? "✓" : "■"} <strong>{s.said}</strong>{" "}
          {s.words !== s.said && <Soft as="span">{s.words}</Soft>}
        </Told>
      ))}
      {record.departure && <StopNote title="Left as it is, not right">{record.departure}</StopNote>}
      <Soft>
        Closed by {record.by}, {clock(record.at)}.
      </Soft>
      {!isFixed && <Reopen id={id} step={record.step} onOpened={onOpened} />}
    </div>
  );
}

interface NotRightProps {
  result: Schemas["StepResult"];
  reason: string;
  setReason: (reason: string) => void;
  onLeave: () => void;
  isBusy: boolean;
}

function NotRight({ result, reason, setReason, onLeave, isBusy }: NotRightProps) {
  return (
    <CareNote title="Not right">
      {result.seen
        .filter((s) => !s.ok)
        .map((s) => (
          <Told key={s.ask} $size={20}>
            {s.ask} {s.words}
          </Told>
        ))}
      <Told $size={20}>
        <strong>Remedy: </strong>
        {result.remedy}
      </Told>
      {result.reopened.length > 0 && (
        <div>{result.reopened.length} steps that rest on this one are open again.</div>
      )}
      <Line>
        <Field
          label="Leave it as it is, because"
          value={reason}
          onChange={setReason}
          hint="recorded as a departure; Proof will show it"
        />
        <Beside look="stop" onPress={onLeave} isDisabled={isBusy || reason.trim().length < 5}>
          Leave as it is
        </Beside>
      </Line>
    </CareNote>
  );
}
