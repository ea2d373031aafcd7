import { client, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Choice } from "../../kit/controls";
import { CareNote, TroubleNote } from "../../kit/page";

interface Props {
  id: number;
  step: Schemas["PlanStep"];
  answered: number;
  isBegun: boolean;
}
const OWN = "own";

/** What is really fitted, before the first bolt is tightened: each has a program of its own. */
export function FittedPick({ id, step, answered, isBegun }: Props) {
  const { change, trouble, isBusy } = useChange(id);
  const path = { params: { path: { job_id: id } } };
  const fasteners = [...new Set(step.fitted.map((f) => f.fastener))];
  const stopGap = step.fitted.find((f) => f.is_chosen && f.is_stop_gap);

  function onPick(fastener: string, code: string) {
    const had = step.fitted.find((f) => f.fastener === fastener && f.is_chosen);
    if (code === OWN) {
      if (!had) return;
      const body = { step: step.ref, kind: "fitted", item: `${fastener} ${had.code}` } as const;
      void change(() =>
        take(client.POST("/api/jobs/{job_id}/bench/within/back", { ...path, body })),
      );
      return;
    }
    const body = {
      step: step.ref,
      answered,
      kind: "fitted",
      item: `${fastener} ${code}`,
      number: 0,
      at: null,
    } as const;
    void change(() => take(client.POST("/api/jobs/{job_id}/bench/within", { ...path, body })));
  }
  return (
    <>
      {fasteners.map((fastener) => {
        const others = step.fitted.filter((f) => f.fastener === fastener);
        return (
          <Choice
            key={fastener}
            label="What is fitted"
            value={others.find((f) => f.is_chosen)?.code ?? OWN}
            onChange={(code) => onPick(fastener, code)}
            isDisabled={isBusy || isBegun}
            options={[
              { value: OWN, label: "as the book has it" },
              ...others.map((f) => ({ value: f.code, label: f.name })),
            ]}
          />
        );
      })}
      <TroubleNote trouble={trouble} />
      {stopGap && (
        <CareNote title="A stop-gap">
          It is refused when the step is closed; a lead alone leaves it, for a written reason.
        </CareNote>
      )}
    </>
  );
}
