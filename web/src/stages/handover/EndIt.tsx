import { useState } from "react";
import { client, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button, Choice, Field } from "../../kit/controls";
import { useDraft } from "../../kit/draft";
import { figureOf, wrongFigure } from "../../kit/figures";
import { Line, Sheet, Soft, TroubleNote } from "../../kit/page";

interface Props {
  id: number;
  endings: Schemas["AfterOut"]["endings"];
}
const EMPTY = { ending: "", reason: "", days: "", hours: "" };
const LEAST_REASON = 10;

/** A job of which nothing was taken apart may end as it is: the report says how, and why. */
export function EndIt({ id, endings }: Props) {
  const { change, trouble, isBusy } = useChange(id);
  const draft = useDraft<typeof EMPTY>(`ending ${id}`, EMPTY);
  const [isOpen, setOpen] = useState(draft.value.ending !== "");
  const { ending, reason, days, hours } = draft.value;
  const isLeft = ending === "left";
  const isReady =
    ending && reason.trim().length >= LEAST_REASON && (!isLeft || !wrongFigure(days, 1, 1825));

  async function onEnd() {
    const body = {
      ending: ending as Schemas["EndIn"]["ending"],
      reason,
      again_in_days: isLeft ? Math.round(figureOf(days) ?? 0) : null,
      at_hours: isLeft ? hours : "",
    };
    const path = { params: { path: { job_id: id } } };
    const done = await change((version) =>
      take(client.POST("/api/jobs/{job_id}/after/end", { ...path, body: { ...body, version } })),
    );
    if (done) draft.forget(draft.value);
  }
  if (!isOpen)
    return (
      <Line>
        <Button onPress={() => setOpen(true)}>End this job without a repair</Button>
      </Line>
    );
  return (
    <Sheet>
      <h2>End without a repair</h2>
      <Choice
        label="How it ends"
        value={ending || null}
        onChange={(value) => draft.set({ ending: value })}
        options={endings.map((e) => ({ value: e.code, label: e.words }))}
      />
      {isLeft && (
        <>
          <Field
            label="Measured again in days"
            value={days}
            onChange={(value) => draft.set({ days: value })}
            wrong={wrongFigure(days, 1, 1825)}
            inputMode="numeric"
          />
          <Field
            label="Or at hours of its meter, whichever comes first"
            value={hours}
            onChange={(value) => draft.set({ hours: value })}
            hint="such as 5600 h"
          />
        </>
      )}
      <Field
        label="Why"
        value={reason}
        onChange={(value) => draft.set({ reason: value })}
        hint={`at least ${LEAST_REASON} letters; the owner reads it`}
        isLong
      />
      <Soft>It is undone in the notebook until a lead has signed.</Soft>
      <TroubleNote trouble={trouble} />
      <Line>
        <Button look="main" isDisabled={isBusy || !isReady} onPress={() => void onEnd()}>
          End the job
        </Button>
        <Button
          onPress={() => {
            draft.set(EMPTY);
            setOpen(false);
          }}
        >
          Go on with it
        </Button>
      </Line>
    </Sheet>
  );
}
