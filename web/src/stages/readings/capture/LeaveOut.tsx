import { useState } from "react";
import { client, take, type Schemas } from "../../../api/client";
import { useChange } from "../../../api/queries";
import { Button, Field } from "../../../kit/controls";
import { Line, Soft, TroubleNote } from "../../../kit/page";
import { Ends, Rest } from "../../../kit/text";

/**
 * A measured stretch can be left out, with a reason; what is left out is listed and can be taken
 * back.
 */
export function LeaveOut({
  id,
  detail,
  from,
  to,
}: {
  id: number;
  detail: Schemas["CaptureDetail"];
  from: number | null;
  to: number | null;
}) {
  const { change, trouble, isBusy } = useChange(id);
  const [reason, setReason] = useState("");
  const path = { params: { path: { job_id: id, capture_id: detail.capture.id } } };
  const stretch =
    from !== null && to !== null && from !== to ? [Math.min(from, to), Math.max(from, to)] : null;
  async function onLeaveOut() {
    if (!stretch) return;
    const [start_s = 0, stop_s = 0] = stretch;
    const done = await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/captures/{capture_id}/left-out", {
          ...path,
          body: { version, start_s, stop_s, reason },
        }),
      ),
    );
    if (done) setReason("");
  }
  return (
    <>
      {stretch && (
        <Line>
          <Rest $least={260}>
            <Field
              label={`Leave out ${stretch[0]?.toFixed(3)} to ${stretch[1]?.toFixed(3)} s because`}
              value={reason}
              onChange={setReason}
            />
          </Rest>
          <Button onPress={() => void onLeaveOut()} isDisabled={isBusy || reason.trim().length < 3}>
            {isBusy ? "Reading again …" : "Leave it out"}
          </Button>
        </Line>
      )}
      {detail.left_out.map((s, index) => (
        <Ends key={`${s.start_s}`} $align="center">
          <span>
            Left out {s.start_s.toFixed(3)} to {s.stop_s.toFixed(3)} s: {s.reason}{" "}
            <Soft as="span">({s.by})</Soft>
          </span>
          <Button
            isDisabled={isBusy}
            onPress={() =>
              void change((version) =>
                take(
                  client.POST("/api/jobs/{job_id}/captures/{capture_id}/taken-back", {
                    ...path,
                    body: { version, index },
                  }),
                ),
              )
            }
          >
            Take it back in
          </Button>
        </Ends>
      ))}
      <TroubleNote trouble={trouble} />
    </>
  );
}
