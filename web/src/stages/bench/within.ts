import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Trouble, unknownTrouble, type Schemas } from "../../api/client";
import { useOnTheWay, write, type Happening } from "../../api/outbox";
import { meQuery } from "../../api/queries";

export type Happened = readonly Schemas["HappenedOut"][];

/** How many of the fastener of a question a step has. */
function boltsOf(step: Schemas["PlanStep"], fastener: string | null): number {
  return step.asked.find((a) => a.kind === "count" && a.fastener === fastener)?.expected ?? 1;
}

/** How far each stage of the bolts has come: done of count, and what is worked on now. */
export function stagesOf(step: Schemas["PlanStep"], within: Happened) {
  const stages = step.asked.flatMap((asked, i) => {
    if (!asked.stage) return [];
    const count = boltsOf(step, asked.fastener);
    const done = within.filter((e) => e.kind === "bolt" && e.item === String(i)).length;
    return [{ question: i, asked, count, done }];
  });
  return { stages, now: stages.find((s) => s.done < s.count) };
}

/** What the record has of a step, and behind it what waits on this tablet to be sent. */
export function withWaiting(
  step: Schemas["PlanStep"],
  recorded: Happened,
  here: readonly Happening[],
): Happened {
  const all = [...recorded];
  for (const { body, by } of here) {
    const { step: ref, kind, item, at } = body;
    const done = all.filter((e) => e.kind === kind && e.item === item).length;
    const left = boltsOf(step, step.asked[Number(item)]?.fastener ?? null) - done;
    const count = kind === "bolt" && !body.number ? left : 1;
    for (let i = 1; i <= count; i++)
      all.push({ step: ref, kind, item, number: body.number || done + i, by, at: at ?? "" });
  }
  return all;
}

/** What happened within the step that is shown; `here`: what of it is not sent yet. */
export function useWithin(
  id: number,
  step: Schemas["PlanStep"] | undefined,
  bench: Schemas["BenchOut"] | undefined,
) {
  const entries = useOnTheWay(id);
  const here = entries.flatMap((e) => (e.to === "within" && e.body.step === step?.ref ? [e] : []));
  const recorded = bench?.within.filter((e) => e.step === step?.ref) ?? [];
  return { here, within: step ? withWaiting(step, recorded, here) : [] };
}

/**
 * Say what happens within a step. It is kept on the tablet first: without the network it counts
 * here, and is recorded when it is back.
 */
export function useHappen(id: number, step: Schemas["PlanStep"], answered: number) {
  const me = useQuery(meQuery).data;
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [isBusy, setBusy] = useState(false);

  async function happen(
    kind: Schemas["WithinIn"]["kind"],
    item: string,
    number = 0,
    at = new Date().toISOString(),
  ): Promise<boolean> {
    setBusy(true);
    setTrouble(null);
    try {
      await write({
        to: "within",
        job: id,
        title: step.title,
        by: me?.name ?? "",
        pen: me?.pen ?? "",
        body: { step: step.ref, answered, kind, item, number, at },
      });
      return true;
    } catch (error) {
      setTrouble(error instanceof Trouble ? error : unknownTrouble(error));
      return false;
    } finally {
      await queries.invalidateQueries({ queryKey: ["job", id] });
      setBusy(false);
    }
  }
  return { happen, trouble, isBusy };
}
