import { Button } from "../../../kit/controls";
import { CareNote, Line, Sheet, StopNote, TroubleNote } from "../../../kit/page";
import type { AtBox } from "./useLive";

/** Who else is at the box, that it was lost, and what it refused. */
export function AtTheBox({ box }: { box: AtBox }) {
  const { data } = box;
  return (
    <>
      {data && box.isTheirs && (
        <Sheet>
          <CareNote title={`${data.by ?? "Somebody"} is at the box`}>
            <div>
              You look on. Only who started it commands the engine, records and keeps
              {data.recording_s !== null ? "; a record is under way" : ""}.
            </div>
            <div>
              Ask {data.by} first. Taking it over keeps what is being recorded, and starts anew for
              you.
            </div>
          </CareNote>
          <Line>
            <Button look="stop" onPress={() => void box.connect(false, true)}>
              Take the box over
            </Button>
          </Line>
        </Sheet>
      )}
      {data && box.isLost && (
        <StopNote title="The box was lost">
          <div>{data.trouble?.message}</div>
          {data.trouble?.advice && <div>{data.trouble.advice}</div>}
          <div>{data.held_s.toFixed(0)} s are still in hand; keep them below.</div>
        </StopNote>
      )}
      <TroubleNote trouble={box.problem} />
    </>
  );
}
