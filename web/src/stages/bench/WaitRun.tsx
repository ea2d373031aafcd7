import { useEffect, useState } from "react";
import styled from "styled-components";
import { client, take, type Schemas } from "../../api/client";
import { putAside, type Happening } from "../../api/outbox";
import { useChange } from "../../api/queries";
import { Beside, Button, Field } from "../../kit/controls";
import { Line, Soft, TroubleNote } from "../../kit/page";
import { clock, hours } from "../../kit/words";
import { Docked, Presses } from "./Dock";
import { callWhenOver, forget } from "../../kit/timers";
import { useHappen } from "./within";

const Left = styled.p`
  font-size: calc(var(--figure) * 1.5);
  font-weight: 700;
  line-height: 1.1;
  font-variant-numeric: tabular-nums;
`;

/** Milliseconds until then, looked at every second. */
export function useLeft(over: number): number {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  return Math.max(0, over - now);
}

export function leftWords(ms: number): string {
  const s = Math.ceil(ms / 1000);
  const two = (n: number) => String(n).padStart(2, "0");
  const [h, m] = [Math.floor(s / 3600), Math.floor((s % 3600) / 60)];
  return h ? `${h}:${two(m)}:${two(s % 60)}` : `${m}:${two(s % 60)}`;
}

interface Props {
  id: number;
  step: Schemas["PlanStep"];
  answered: number;
  timer: Schemas["HappenedOut"] | undefined;
  /** What of it waits on this tablet. */
  here: readonly Happening[];
  unit: string;
}

/**
 * What passes by itself: begun here or at the time it was, it runs on the server, whatever happens
 * to the page, and this tablet calls when it is over.
 */
export function WaitRun({ id, step, answered, timer, here, unit }: Props) {
  const { change, ...back } = useChange(id);
  const said = useHappen(id, step, answered);
  const [trouble, isBusy] = [said.trouble ?? back.trouble, said.isBusy || back.isBusy];
  const [since, setSince] = useState("");
  const over = timer ? Date.parse(timer.at) + step.waiting * 60_000 : 0;
  const left = useLeft(over);
  const path = { params: { path: { job_id: id } } };
  const key = `${id} ${step.ref} ${answered}`;
  useEffect(() => {
    if (timer) callWhenOver({ key, over, title: step.title, unit, to: `/jobs/${id}/bench` });
  }, [timer, key, over, step.title, unit, id]);

  const onBegin = (at?: string) => said.happen("timer", "waiting", 0, at);
  async function onBack() {
    const body = { step: step.ref, kind: "timer", item: "waiting" } as const;
    const unsent = here.find((e) => e.body.kind === "timer");
    if (unsent) {
      forget(key);
      return putAside(unsent.id ?? 0);
    }
    const done = await change(() =>
      take(client.POST("/api/jobs/{job_id}/bench/within/back", { ...path, body })),
    );
    if (done) forget(key);
  }
  if (!timer)
    return (
      <Docked>
        <TroubleNote trouble={trouble} />
        <Presses>
          <Button look="next" isDisabled={isBusy} onPress={() => void onBegin()}>
            Begin: {hours(step.waiting)}
          </Button>
        </Presses>
        <Line>
          <Field
            label="Or it was begun today at"
            value={since}
            onChange={setSince}
            hint="such as 13:20; later than now is yesterday"
          />
          <Beside
            isDisabled={isBusy || !timeOf(since)}
            onPress={() => void onBegin(timeOf(since) ?? undefined)}
          >
            Begun then
          </Beside>
        </Line>
      </Docked>
    );
  return (
    <Docked>
      <TroubleNote trouble={trouble} />
      <Left role="timer" aria-label="Time left">
        {leftWords(left)}
      </Left>
      <Soft>
        Begun by {timer.by}, {clock(timer.at)}; over at {clock(new Date(over).toISOString())}. It
        runs on when you leave this page.
      </Soft>
      <Presses>
        <Button isDisabled={isBusy} onPress={() => void onBack()}>
          Not begun after all
        </Button>
      </Presses>
    </Docked>
  );
}

/** A time of day as a moment: today, or yesterday where that is still to come. */
export function timeOf(typed: string, now = new Date()): string | null {
  const found = /^([01]?\d|2[0-3])[:.]([0-5]\d)$/.exec(typed.trim());
  if (!found) return null;
  const at = new Date(now);
  at.setHours(Number(found[1]), Number(found[2]), 0, 0);
  if (at > now) at.setDate(at.getDate() - 1);
  return at.toISOString();
}
