import { client, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../kit/controls";
import { Line, TroubleNote } from "../../kit/page";

/** A lead's press past the points of no return of a plan. */
export function GiveGo({ id }: { id: number }) {
  const { change, trouble, isBusy } = useChange(id);
  const onGo = () =>
    change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/plan/go", {
          params: { path: { job_id: id } },
          body: { version },
        }),
      ),
    );
  return (
    <>
      <TroubleNote trouble={trouble} />
      <Line>
        <Button onPress={() => void onGo()} isDisabled={isBusy}>
          Give the go past them
        </Button>
      </Line>
    </>
  );
}
