import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { Trouble, unknownTrouble, type Schemas } from "../../api/client";
import { useOnTheWay, write } from "../../api/outbox";
import { meQuery, useJob } from "../../api/queries";
import { CrankTour } from "../../drawing/CrankTour";
import { useAttention } from "../../kit/arrival";
import { ButtonLink } from "../../kit/Button";
import { useDraft } from "../../kit/draft";
import { CareNote, Line, Sheet, Soft, StopNote } from "../../kit/page";
import { Told } from "../../kit/text";
import { clock, hours } from "../../kit/words";
import { looksRight, quickAnswers } from "./answering";
import { BoltRun } from "./BoltRun";
import { BurstRun } from "./BurstRun";
import { Dock, Docked } from "./Dock";
import { FittedPick } from "./FittedPick";
import { LaidIn } from "./Inside";
import { stepDraft } from "./LostRace";
import { NoReturn } from "./NoReturn";
import { OnePress } from "./OnePress";
import { LeaveIt, NotRight } from "./NotRight";
import { Reopen } from "./Reopen";
import { forget } from "../../kit/timers";
import { useLeft, WaitRun } from "./WaitRun";
import { useWithin } from "./within";
import { WithAdapter } from "./WithAdapter";
import { useWrenchInHand, WrenchPick } from "./WrenchPick";

const Step = styled(Sheet)`
  border-top: none;
  padding-top: 0;
`;
/** As high as the page at least; inside a sheet, or a row of the page would be no higher than that. */
const Tall = styled.div`
  display: flex;
  flex-direction: column;
  min-height: calc(100vh - 196px);
  gap: 14px;
  min-width: 0;
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
interface Props {
  id: number;
  step: Schemas["PlanStep"];
  number: number;
  record: Schemas["RecordOut"] | undefined;
  bench: Schemas["BenchOut"];
  /** Whose engine it is, for what is called from another page. */
  unit: string;
  onClosed: () => void;
}

/**
 * One step, big: what to do, how it looks when right, and the answer at the foot of the page; when
 * it is not right, what that means and the book's remedy.
 */
export function StepCard({ id, step, number, record, bench, unit, onClosed }: Props) {
  const me = useQuery(meQuery).data;
  const waiting = useOnTheWay(id).filter((e) => e.to !== "within" && e.body.step === step.ref);
  const answered = (bench.occurrences[step.ref] ?? 0) + waiting.length;
  const draft = useDraft<Record<string, string>>(stepDraft(id, step.ref, answered), {});
  const [wrong, setWrong] = useState<{ result: Schemas["StepResult"]; answers: string[] } | null>(
    null,
  );
  const [isWritten, setWritten] = useState(false);
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  /** What was answered, where something else stands against closing the step. */
  const [held, setHeld] = useState<string[] | null>(null);
  const [isBusy, setBusy] = useState(false);
  const queries = useQueryClient();
  const answers = step.asked.map((_, i) => draft.value[i] ?? "");
  const { within, here } = useWithin(id, step, bench);
  const timer = within.find((e) => e.kind === "timer");
  const isOver = useLeft(timer ? Date.parse(timer.at) + step.waiting * 60_000 : 0) === 0;

  async function onRecord(said: string[], departure: string | null) {
    setBusy(true);
    setTrouble(null);
    setHeld(null);
    const body = {
      version: null,
      answered,
      at: new Date().toISOString(),
      began: null,
      step: step.ref,
      answers: said,
      departure,
    };
    const typed = draft.value;
    try {
      const done = await write({
        to: "steps",
        job: id,
        title: step.title,
        by: me?.name ?? "",
        pen: me?.pen ?? "",
        body,
        looksRight: departure !== null || looksRight(step, said),
      });
      // Recorded, right or not, or waiting on the tablet: what was typed is kept now, and the next
      // occurrence of the step begins empty.
      draft.forget(typed);
      if (done === "waiting" || done.closed) {
        setWrong(null);
        setWritten(false);
        forget(`${id} ${step.ref} ${answered}`);
        onClosed();
      } else {
        // What is typed from here on belongs to the next occurrence: it is known before.
        await queries.invalidateQueries({ queryKey: ["job", id] });
        setWrong({ result: done, answers: said });
      }
    } catch (error) {
      const found = error instanceof Trouble ? error : unknownTrouble(error);
      setTrouble(found);
      if (found.detail.code === "step_held") setHeld(said);
      await queries.invalidateQueries({ queryKey: ["job", id] });
    } finally {
      setBusy(false);
    }
  }
  const torques = [
    ...new Set(step.asked.flatMap((a) => (a.stage?.kind === "torque" ? [a.stage.value] : []))),
  ];
  const hand = useWrenchInHand(id, torques);
  const isOpen = !record || wrong !== null;
  const hasBolts = step.asked.some((a) => a.stage) && !isWritten && !wrong;
  const hasBursts = step.bursts !== null && !isWritten && !wrong;
  const draftsStage = step.asked.some((a, i) => a.stage && answers[i]);
  const waits = step.waiting > 0 && !(timer && isOver);
  const isCountOpen = bench.laid.length > 0 && bench.turning.includes(step.ref);
  const job = useJob(id).data;
  const isFixed = Boolean(job?.is_signed || job?.is_released);
  const measures = bench.to_measure[step.ref] ?? [];
  const isAnswered = isOpen && !waiting.length && !isCountOpen;
  return (
    <Step>
      <Tall>
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
        {wrong && (
          <NotRight
            result={wrong.result}
            onLeave={(reason) => void onRecord(wrong.answers, reason)}
            isBusy={isBusy}
          />
        )}
        {held && trouble && (
          <CareNote title={trouble.detail.message}>
            <div>{trouble.detail.read}</div>
            <LeaveIt onLeave={(reason) => void onRecord(held, reason)} isBusy={isBusy} />
          </CareNote>
        )}
        {step.cautions.length > 0 && (
          <StopNote title="Caution">
            {step.cautions.map((c) => (
              <Told key={c} $size={20}>
                {c}
              </Told>
            ))}
          </StopNote>
        )}
        {step.no_return && <NoReturn id={id} words={step.no_return} goBy={bench.go_by} />}
        <Text>{step.text}</Text>
        {isOpen && step.fitted.length > 0 && (
          <FittedPick
            id={id}
            step={step}
            answered={answered}
            isBegun={within.some((e) => e.kind === "bolt")}
          />
        )}
        {step.tour && <CrankTour tour={step.tour} />}
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
        {isOpen && <OnePress step={step} />}
        {isOpen && torques.length > 0 && (
          <Line>
            {torques.map((nm) => (
              <WithAdapter key={nm} id={id} target={`${nm} Nm`} />
            ))}
            <WrenchPick hand={hand} />
          </Line>
        )}
        {isOpen && bench.to_photograph.includes(step.ref) && !bench.photos[step.ref] && (
          <Told $size={18}>▲ Worth a photograph, below: it is not seen again like this.</Told>
        )}
        {step.bursts && !isFixed && (
          <Line>
            <ButtonLink to={`/jobs/${id}/proof/start`}>Watch the first start</ButtonLink>
          </Line>
        )}
        {measures.length > 0 && !isFixed && (
          <Line>
            {measures.map((m) => (
              <ButtonLink
                key={m.kind}
                to={`/jobs/${id}/readings/sheet/${m.kind}?part=${m.part}&step=${step.ref}`}
              >
                {m.is_taken ? `✓ ${m.title}` : `Measure it: ${m.title}`}
              </ButtonLink>
            ))}
          </Line>
        )}
        {record && !wrong && <Closed id={id} record={record} onOpened={onClosed} />}
        {waiting.length > 0 && !record && (
          <CareNote title="Written on this tablet, not recorded yet">
            It is sent by itself when Flaneur answers again, and judged then.
          </CareNote>
        )}
        {isOpen && isCountOpen && (
          <Docked>
            <StopNote title="Do not turn: the count is open">
              This step turns the crank. Take these out first, and count them out.
            </StopNote>
            <LaidIn id={id} laid={bench.laid} />
          </Docked>
        )}
        {isAnswered && waits && (
          <WaitRun id={id} step={step} answered={answered} timer={timer} here={here} unit={unit} />
        )}
        {isAnswered && !waits && hasBolts && !draftsStage && (
          <BoltRun
            id={id}
            step={step}
            answered={answered}
            within={within}
            here={here}
            hand={hand}
            trouble={trouble}
            isBusy={isBusy}
            onRecord={(said) => void onRecord(said, null)}
            onWrite={() => setWritten(true)}
          />
        )}
        {isAnswered && hasBursts && step.bursts && (
          <BurstRun
            id={id}
            step={step}
            bursts={step.bursts}
            answered={answered}
            within={within}
            isBusy={isBusy}
            onShows={() => void onRecord(quickAnswers(step, []), null)}
            onWrite={() => setWritten(true)}
          />
        )}
        {isAnswered && !waits && !hasBursts && (!hasBolts || draftsStage) && (
          <Dock
            key={`${answered} ${wrong ? "again" : ""}`}
            step={step}
            answers={answers}
            trouble={trouble}
            isBusy={isBusy}
            isAgain={wrong !== null}
            isWritten={isWritten || draftsStage}
            onFewer={() => setWritten(false)}
            onType={(i, value) => draft.set({ [i]: value })}
            onRecord={(said) => void onRecord(said, null)}
          />
        )}
      </Tall>
    </Step>
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
