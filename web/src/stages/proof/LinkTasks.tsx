import { client, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../kit/controls";
import { Line, Sheet, Soft, TroubleNote } from "../../kit/page";
import { Ruled } from "../../kit/text";
import { clock } from "../../kit/words";

/** What is asked of the control unit over the vehicle link, and what it answered. */
export function LinkTasks({ id, proof }: { id: number; proof: Schemas["ProofOut"] }) {
  const { change, trouble, isBusy } = useChange(id);

  function onAsk(task: Schemas["LinkIn"]["task"]) {
    const path = { params: { path: { job_id: id } } };
    void change((version) =>
      take(client.POST("/api/jobs/{job_id}/logs/link", { ...path, body: { version, task } })),
    );
  }
  return (
    <Sheet>
      <h2>Control unit, over the vehicle link</h2>
      <Line>
        {proof.link_tasks.map((task) => (
          <Button
            key={task.code}
            isDisabled={isBusy || proof.is_released}
            onPress={() => onAsk(task.code as Schemas["LinkIn"]["task"])}
          >
            {task.words}
          </Button>
        ))}
      </Line>
      <TroubleNote trouble={trouble} />
      {proof.link.map((line) => (
        <Ruled key={line.at}>
          {line.words}{" "}
          <Soft as="span">
            {line.by}, {clock(line.at)}
          </Soft>
        </Ruled>
      ))}
    </Sheet>
  );
}
