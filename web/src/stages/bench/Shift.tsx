import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, type Schemas } from "../../api/client";
import { leavingQuery, meQuery, useChange } from "../../api/queries";
import { Button, Field } from "../../kit/controls";
import { ServerForm } from "../../kit/form";
import { CareNote, Line, Sheet, Soft, StopNote, TroubleNote, Waiting } from "../../kit/page";
import { PlainList, Told } from "../../kit/text";
import { clock } from "../../kit/words";
import { Signature } from "./Signature";

/** How the engine stands, whether it may be left so, what to know. */
function Stand({ left }: { left: Pick<Schemas["LeavingOut"], "stands" | "against" | "mind"> }) {
  return (
    <>
      {left.against.length > 0 && (
        <StopNote title="Not to be left so">
          {left.against.map((said) => (
            <Told key={said} $size={20}>
              {said}
            </Told>
          ))}
        </StopNote>
      )}
      <PlainList $gap="6px">
        {left.stands.map((said) => (
          <li key={said}>
            <Told $size={20}>{said}</Told>
          </li>
        ))}
      </PlainList>
      {left.mind.length > 0 && (
        <CareNote title="To know">
          {left.mind.map((said) => (
            <Told key={said} $size={20}>
              {said}
            </Told>
          ))}
        </CareNote>
      )}
    </>
  );
}

/** A job that was handed over: what whoever comes must know, and the signature that takes it. */
export function HandedOver({ id, shift }: { id: number; shift: Schemas["ShiftOut"] }) {
  const { change, trouble, isBusy } = useChange(id);
  const me = useQuery(meQuery).data;
  const isOwn = me?.name === shift.given_by;
  const path = { params: { path: { job_id: id } } };
  return (
    <Sheet>
      <h2>
        Handed over by {shift.given_by}, {clock(shift.given_at)}
      </h2>
      <Stand left={shift} />
      {shift.note && (
        <CareNote title={`${shift.given_by} says`}>
          <Told $size={20}>{shift.note}</Told>
        </CareNote>
      )}
      <Signature
        press={isOwn ? "Take it back, signed" : "Take it over, signed"}
        trouble={trouble}
        isBusy={isBusy}
        onSign={(secret, is_pin) =>
          void change(() =>
            take(
              client.POST("/api/jobs/{job_id}/bench/shift/take", {
                ...path,
                body: { secret, is_pin },
              }),
            ),
          )
        }
      />
    </Sheet>
  );
}

/** The press that hands the job over, with all that goes with it. */
export function HandOver({ id, holder }: { id: number; holder: string }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Sheet>
      <h2>Who has the job</h2>
      {holder && <Told $size={18}>{holder} took it over last.</Told>}
      {isOpen ? (
        <Giving id={id} onLeave={() => setOpen(false)} />
      ) : (
        <Line>
          <Button onPress={() => setOpen(true)}>Hand the job over</Button>
        </Line>
      )}
    </Sheet>
  );
}

function Giving({ id, onLeave }: { id: number; onLeave: () => void }) {
  const left = useQuery(leavingQuery(id));
  const { change, trouble, isBusy } = useChange(id);
  const [note, setNote] = useState("");
  const path = { params: { path: { job_id: id } } };
  if (!left.data) return <Waiting error={left.error} what="how the engine stands" />;
  const isBad = left.data.against.length > 0;
  async function onGive() {
    const body = { note: note.trim() };
    const done = await change(() =>
      take(client.POST("/api/jobs/{job_id}/bench/shift", { ...path, body })),
    );
    if (done) onLeave();
  }
  return (
    <ServerForm trouble={null} onSubmit={() => void onGive()}>
      <Stand left={left.data} />
      {!isBad && <Told $tone="fine">✓ It may be left as it stands.</Told>}
      <Field
        label={isBad ? "Why it is left so all the same" : "What else to know"}
        value={note}
        onChange={setNote}
        isLong
      />
      <TroubleNote trouble={trouble} />
      <Line>
        <Button look="main" type="submit" isDisabled={isBusy}>
          Hand it over
        </Button>
        <Button onPress={onLeave}>Go on myself</Button>
      </Line>
      <Soft>Whoever takes it over signs for it. Until then it stands in your name.</Soft>
    </ServerForm>
  );
}
