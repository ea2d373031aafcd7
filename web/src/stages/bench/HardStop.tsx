import { useState } from "react";
import { client, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button, Field } from "../../kit/controls";
import { useDraft } from "../../kit/draft";
import { Line, Sheet, StopNote, TroubleNote } from "../../kit/page";
import { Select } from "../../kit/Select";
import { clock } from "../../kit/words";
import { WhereItStopped } from "./WhereItStopped";

/**
 * A hard stop stands in the record: nothing turns until its cause is written and the step behind it
 * is open again.
 */
export function HardStop({ id, bench }: { id: number; bench: Schemas["BenchOut"] }) {
  const { change, trouble, isBusy } = useChange(id);
  const draft = useDraft<{ cause: string }>(`cause ${id} ${bench.stops.length}`, { cause: "" });
  const [step, setStep] = useState("");
  if (!bench.is_stopped) return null;
  const last = bench.stops[bench.stops.length - 1];
  const closed = new Set(bench.records.map((r) => r.step));
  const isEarly = !bench.cause_needs_step;
  const byState = [...bench.steps].sort(
    (a, b) => Number(closed.has(b.ref)) - Number(closed.has(a.ref)),
  );

  function onTake(cause: Schemas["StopCause"]) {
    draft.set({ cause: cause.words });
    setStep(cause.step ?? "");
  }
  async function onWrite() {
    const path = { params: { path: { job_id: id } } };
    const body = { step: step || null, cause: draft.value.cause };
    const done = await change((version) =>
      take(client.POST("/api/jobs/{job_id}/proof/cause", { ...path, body: { ...body, version } })),
    );
    if (done) draft.forget(draft.value);
  }
  return (
    <Sheet aria-label="Hard stop">
      <StopNote title="A hard stop was felt: take it for a valve. Do not turn on.">
        {last && (
          <div>
            {last.by}, {clock(last.at)}
            {last.turns === null ? "" : `, after ${last.turns} turns`}
            {last.at_deg == null ? "" : `, the crank at ${last.at_deg}°`}.
          </div>
        )}
        <div>
          Look before anything moves. Then write what stopped it
          {isEarly ? "." : ", and open the step behind it."}
        </div>
      </StopNote>
      <WhereItStopped id={id} stop={bench.stop} onTake={onTake} />
      <Field
        label="What stopped the crank"
        value={draft.value.cause}
        onChange={(cause) => draft.set({ cause })}
        isLong
      />
      <Select
        label="The step behind it"
        value={step}
        onChange={setStep}
        options={[
          { value: "", label: isEarly ? "none: no step was closed yet" : "choose a step" },
          ...byState.map((s) => ({
            value: s.ref,
            label: closed.has(s.ref) ? s.title : `${s.title} (open)`,
          })),
        ]}
      />
      <TroubleNote trouble={trouble} />
      <Line>
        <Button
          look="main"
          onPress={() => void onWrite()}
          isDisabled={isBusy || (!step && !isEarly) || draft.value.cause.trim().length < 3}
        >
          {step && closed.has(step) ? "Write the cause and open the step" : "Write the cause"}
        </Button>
      </Line>
    </Sheet>
  );
}
