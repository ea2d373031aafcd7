import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button } from "../../kit/controls";
import { Soft, StopNote, TroubleNote } from "../../kit/page";
import { Docked, Presses } from "./Dock";
import { useHappen, type Happened } from "./within";
import { leftWords, useLeft } from "./WaitRun";

const Now = styled.p`
  font-size: var(--figure);
  font-weight: 700;
  line-height: 1.1;
  font-variant-numeric: tabular-nums;
`;

interface Props {
  id: number;
  step: Schemas["PlanStep"];
  bursts: Schemas["Bursts"];
  answered: number;
  within: Happened;
  isBusy: boolean;
  /** All as it should be: pressure shows. */
  onShows: () => void;
  onWrite: () => void;
}

/** Bursts of the starter with rests between, starting disabled: what to do now, in large. */
export function BurstRun({ id, step, bursts, answered, within, isBusy, onShows, onWrite }: Props) {
  const { happen, trouble, isBusy: isSaying } = useHappen(id, step, answered);
  const done = within.filter((e) => e.kind === "burst");
  const [begun, setBegun] = useState(0);
  const last = Math.max(begun, ...done.map((e) => Date.parse(e.at)), 0);
  const cranks = useLeft(last + bursts.crank_s * 1000);
  const rests = useLeft(last + (bursts.crank_s + bursts.rest_s) * 1000);
  const number = done.length;
  const isOut = number >= bursts.most && rests === 0;
  const busy = isBusy || isSaying;

  async function onBurst() {
    setBegun(Date.now());
    if (!(await happen("burst", "starter"))) setBegun(0);
  }
  return (
    <Docked>
      <TroubleNote trouble={trouble} />
      <Now role="timer" aria-live="off">
        {cranks > 0
          ? `Crank: ${leftWords(cranks)}`
          : rests > 0
            ? `Rest: ${leftWords(rests)}`
            : number === 0
              ? `${bursts.crank_s} s of cranking`
              : isOut
                ? "Stop"
                : `Burst ${number + 1}`}
      </Now>
      {isOut && <StopNote title="No further burst: the oil does not come">{step.remedy}</StopNote>}
      <Soft>
        {number} of {bursts.most} bursts, {bursts.rest_s} s of rest between them. Starting stays
        disabled.
      </Soft>
      <Presses>
        {!isOut && (
          <Button
            look={number === 0 ? "next" : "plain"}
            isDisabled={busy || rests > 0}
            onPress={() => void onBurst()}
          >
            {number === 0 ? "Crank now: burst 1" : `Burst ${number + 1}`}
          </Button>
        )}
        <Button
          look={number > 0 && !isOut ? "next" : "plain"}
          isDisabled={busy || number === 0}
          onPress={onShows}
        >
          Pressure shows
        </Button>
        <Button data-quiet isDisabled={busy} onPress={onWrite}>
          Another answer
        </Button>
      </Presses>
    </Docked>
  );
}
