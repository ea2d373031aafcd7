import { useState } from "react";
import styled from "styled-components";
import { client, take, type Schemas, type Trouble } from "../../api/client";
import { putAside, type Happening } from "../../api/outbox";
import { useChange } from "../../api/queries";
import { Tightening } from "../../drawing/Tightening";
import { Button } from "../../kit/controls";
import { StopNote, TroubleNote } from "../../kit/page";
import { Said } from "../../kit/text";
import { quickAnswers } from "./answering";
import { Docked, Presses } from "./Dock";
import { useWrench } from "./useWrench";
import type { WrenchInHand } from "./WrenchPick";
import { stagesOf, useHappen, type Happened } from "./within";

const Stage = styled.div<{ $on: boolean }>`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 14px;
  padding: 4px 8px;
  font-size: var(--name);
  border-left: 6px solid ${({ $on }) => ($on ? "var(--pen)" : "transparent")};
`;
const Now = styled.p`
  font-size: var(--figure);
  font-weight: 700;
  line-height: 1.1;
`;

interface Look {
  question: number;
  stands: string;
  moved: string;
}

/** What is looked at when a stage is through, where the step asks for it. */
function lookAfter(step: Schemas["PlanStep"], stage: number): Look | undefined {
  const asked = step.asked[stage + 1];
  if (asked?.code !== "alignment") return undefined;
  const stands = asked.choices.find((c) => asked.right.includes(c.code));
  const moved = asked.choices.find((c) => !asked.right.includes(c.code));
  return stands && moved && { question: stage + 1, stands: stands.words, moved: moved.code };
}

interface Props {
  id: number;
  step: Schemas["PlanStep"];
  answered: number;
  within: Happened;
  /** What of it waits on this tablet. */
  here: readonly Happening[];
  hand: WrenchInHand;
  trouble: Trouble | null;
  isBusy: boolean;
  onRecord: (answers: string[]) => void;
  onWrite: () => void;
}

/**
 * A torque program bolt by bolt, in the order of its pattern. Each press is kept at once: whoever
 * comes back, on whatever tablet, goes on at the very bolt.
 */
export function BoltRun({
  id,
  step,
  answered,
  within,
  here,
  hand,
  onRecord,
  onWrite,
  ...sent
}: Props) {
  const { change, trouble, isBusy } = useChange(id);
  const said = useHappen(id, step, answered);
  const [isSending, setSending] = useState(false);
  const [tightened, setTightened] = useState(0);
  const { stages, now } = stagesOf(step, within);
  const path = { params: { path: { job_id: id } } };
  const busy = isBusy || said.isBusy || isSending || sent.isBusy;

  /** All as it should be; what the wrench in hand does not measure is said to be not measured. */
  function answers() {
    return quickAnswers(step, []).map((said, i) => {
      const { stage, escape } = step.asked[i] ?? {};
      const isUnmeasured = stage?.kind === "torque" && hand.against.has(stage.value);
      return isUnmeasured ? (escape?.code ?? said) : said;
    });
  }

  async function onDone(number: number) {
    if (!now) return;
    setSending(true);
    const kept = await said.happen("bolt", String(now.question), number);
    const isLast = now === stages[stages.length - 1] && (number === 0 || number === now.count);
    setSending(false);
    if (kept && isLast) onRecord(answers());
  }
  /** The marks are looked at after each stage; one that moved is said at once. */
  function onMoved(look: Look) {
    const moved = answers();
    moved[look.question] = look.moved;
    onRecord(moved);
  }
  async function onBack() {
    const unsent = here.filter((e) => e.body.kind === "bolt").at(-1);
    if (unsent) return putAside(unsent.id ?? 0);
    const last = [...stages].reverse().find((s) => s.done > 0);
    if (!last) return;
    const body = { step: step.ref, kind: "bolt", item: String(last.question) } as const;
    await change(() =>
      take(client.POST("/api/jobs/{job_id}/bench/within/back", { ...path, body })),
    );
  }
  const wrench = useWrench(id, step.ref, answered, within);
  const fastener = (now ?? stages.at(-1))?.asked.fastener ?? "";
  // A trace tells of a whole program: the wrench is asked where the last stage is worked on.
  const own = stages.filter((s) => s.asked.fastener === fastener);
  const isLastStage = now !== undefined && own[own.length - 1] === now;
  const torque = Math.max(
    0,
    ...own.map((s) => (s.asked.stage?.kind === "torque" ? s.asked.stage.value : 0)),
  );
  // A bolt that is not right is shown whatever came after it, until it is tightened again.
  const bad = wrench.traces.find((t) => !t.judged.sound);
  const last = wrench.traces.find((t) => t.fastener === fastener && t.bolt === tightened) ?? bad;
  const isBad = Boolean(bad) && !wrench.isTightening;

  async function onWrench(of: string, bolt: number) {
    setTightened(bolt);
    const found = await wrench.tighten(of, bolt);
    if (found?.judged.sound && now?.asked.fastener === of && bolt === now.done + 1)
      await onDone(bolt);
  }
  const curve = wrench.isTightening ? wrench.grown : (last ?? wrench.grown);
  const again = bad ?? (now && isLastStage ? { fastener, bolt: now.done + 1 } : null);
  const next = now ? now.done + 1 : 0;
  const look = now ? lookAfter(step, now.question) : undefined;
  const stands = look ? `, ${look.stands}` : "";
  const what = now ? doneTo(now.asked) + (next === now.count ? stands : "") : "";
  const all = now ? doneTo(now.asked) + stands : "";
  return (
    <Docked>
      {!wrench.grown && !last && (
        <div>
          {stages.map((s) => (
            <Stage key={s.question} $on={s === now}>
              <span>{s.asked.ask}</span>
              <Said>
                {s.done === s.count ? "✓ " : ""}
                {s.done} of {s.count}
              </Said>
            </Stage>
          ))}
        </div>
      )}
      {curve && (
        <Tightening
          curve={curve}
          judged={wrench.isTightening ? undefined : last?.judged}
          others={wrench.traces.filter((t) => t.fastener === fastener && t !== last)}
          target={torque}
        />
      )}
      {last && !wrench.isTightening && (
        <div role="status">
          {last.judged.sound ? (
            <Said>
              ✓ Bolt {last.bolt}: {last.judged.words}
            </Said>
          ) : (
            <StopNote title={`Bolt ${last.bolt} is not right`}>
              {last.judged.faults.map((f) => (
                <div key={f.code}>{f.words}</div>
              ))}
              <div>Take it out, look at it and its thread, and tighten it again by its stages.</div>
            </StopNote>
          )}
        </div>
      )}
      <TroubleNote trouble={trouble ?? said.trouble ?? wrench.trouble ?? sent.trouble} />
      {wrench.isTightening && <Now>{(wrench.grown?.torque_nm.at(-1) ?? 0).toFixed(1)} Nm</Now>}
      {wrench.isTightening ? null : now ? (
        <>
          <Now hidden={isBad}>
            {now.count > 1 ? `Bolt ${next}: ` : ""}
            {figure(now.asked)}
          </Now>
          <Presses>
            <Button
              look={isBad ? "plain" : "next"}
              isDisabled={busy}
              onPress={() => void onDone(next)}
            >
              {now.count > 1 ? `${next} ${what}` : `In, ${what}`}
            </Button>
            {now.count > 1 && (
              <Button isDisabled={busy} onPress={() => void onDone(0)}>
                {next > 1 ? `The others too${stands}` : `All ${now.count} ${all}`}
              </Button>
            )}
          </Presses>
        </>
      ) : (
        <Presses>
          <Button look="next" isDisabled={busy} onPress={() => onRecord(answers())}>
            Every bolt is through: record
          </Button>
        </Presses>
      )}
      <Presses hidden={wrench.isTightening}>
        {again && (
          <Button
            data-quiet
            look={bad ? "next" : "plain"}
            isDisabled={busy}
            onPress={() => void onWrench(again.fastener, again.bolt)}
          >
            {bad ? `Bolt ${bad.bolt} by the wrench again` : "By the torque–angle wrench"}
          </Button>
        )}
        {look && (
          <Button data-quiet isDisabled={busy} onPress={() => onMoved(look)}>
            A mark moved
          </Button>
        )}
        <Button data-quiet isDisabled={busy} onPress={onWrite}>
          Another figure, or not measured
        </Button>
        {within.length > 0 && (
          <Button data-quiet isDisabled={busy} onPress={() => void onBack()}>
            The last one back
          </Button>
        )}
      </Presses>
    </Docked>
  );
}

function figure({ stage }: Schemas["Asked"]): string {
  return stage ? `${stage.value}${stage.kind === "torque" ? " Nm" : "°"}` : "";
}

function doneTo(asked: Schemas["Asked"]): string {
  const stage = asked.stage;
  if (!stage) return "";
  if (stage.kind === "torque") return "clicked";
  return stage.kind === "angle" ? "turned on" : "backed off";
}
