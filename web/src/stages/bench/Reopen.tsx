import { useState } from "react";
import { client, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button, Field } from "../../kit/controls";
import { Line, Soft, Stack, TroubleNote } from "../../kit/page";

/**
 * The way back: a closed step is opened again by a person, with a reason, and with it what rests on
 * it.
 */
export function Reopen({ id, step, onOpened }: { id: number; step: string; onOpened: () => void }) {
  const { change, trouble, isBusy } = useChange(id);
  const [isAsked, setAsked] = useState(false);
  const [reason, setReason] = useState("");
  const path = { params: { path: { job_id: id } } };

  async function onOpen() {
    const body = { step, reason };
    const done = await change((version) =>
      take(client.POST("/api/jobs/{job_id}/bench/reopen", { ...path, body: { ...body, version } })),
    );
    if (done) onOpened();
  }
  if (!isAsked)
    return (
      <Line>
        <Button onPress={() => setAsked(true)}>Open this step again</Button>
      </Line>
    );
  return (
    <Stack $gap={8}>
      <Field label="Open it again because" value={reason} onChange={setReason} autoFocus />
      <Soft>
        Steps that rest on it open too; turns by hand and readings after the repair count no more.
      </Soft>
      <TroubleNote trouble={trouble} />
      <Line>
        <Button
          look="main"
          onPress={() => void onOpen()}
          isDisabled={isBusy || reason.trim().length < 3}
        >
          Open it again
        </Button>
        <Button onPress={() => setAsked(false)}>Leave it closed</Button>
      </Line>
    </Stack>
  );
}
