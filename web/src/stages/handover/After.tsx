import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, type Schemas } from "../../api/client";
import { afterQuery, useChange } from "../../api/queries";
import { SignatureField } from "../../kit/SignatureField";
import { Button, Choice, Field } from "../../kit/controls";
import { useDraft } from "../../kit/draft";
import { Line, Sheet, Soft, TroubleNote } from "../../kit/page";
import { Ruled, Said, Told } from "../../kit/text";
import { clock } from "../../kit/words";
import { EndIt } from "./EndIt";

/** What is due after a job, and what was added to its report since it was signed. */
export function After({ id }: { id: number }) {
  const after = useQuery(afterQuery(id)).data;
  if (!after) return null;
  const { follow_ups, addenda, may_add, may_end, endings } = after;
  return (
    <>
      {may_end && <EndIt id={id} endings={endings} />}
      {follow_ups.length > 0 && (
        <Sheet>
          <h2>After the repair</h2>
          {follow_ups.map((due) =>
            due.outcome === null ? (
              <Open key={due.id} id={id} due={due} />
            ) : (
              <Ruled key={due.id}>
                <Said>{due.title}</Said>
                <Soft>
                  {due.outcomes.find((o) => o.code === due.outcome)?.words}
                  {due.note && `: ${due.note}`} · {due.done_by}, {clock(due.done_at ?? "")}
                </Soft>
              </Ruled>
            ),
          )}
        </Sheet>
      )}
      {(addenda.length > 0 || may_add) && (
        <Sheet>
          <h2>Added to the report since</h2>
          {addenda.map((a) => (
            <Ruled key={a.place}>
              <div>{a.text}</div>
              <Soft>
                {a.place}. {a.by}, {clock(a.at)}. Signed by itself: {a.signature.slice(0, 16)}…
              </Soft>
            </Ruled>
          ))}
          {may_add && <Add id={id} isFirst={addenda.length === 0} />}
        </Sheet>
      )}
    </>
  );
}

function Open({ id, due }: { id: number; due: Schemas["FollowUpOut"] }) {
  const { change, trouble, isBusy } = useChange(id);
  const queries = useQueryClient();
  const draft = useDraft<{ outcome: string; note: string }>(`due ${due.id}`, {
    outcome: "",
    note: "",
  });
  const { outcome, note } = draft.value;

  async function onSay() {
    const body = { id: due.id, outcome: outcome as Schemas["FollowedIn"]["outcome"], note };
    const path = { params: { path: { job_id: id } } };
    const done = await change(() =>
      take(client.POST("/api/jobs/{job_id}/after/follow-up", { ...path, body })),
    );
    if (!done) return;
    draft.forget(draft.value);
    void queries.invalidateQueries({ queryKey: ["due"] });
  }
  return (
    <Ruled>
      <Told $size={22}>
        <Said>
          {due.title}: due {due.due}
        </Said>
      </Told>
      <p>{due.words}</p>
      <Choice
        label="What came of it"
        value={outcome || null}
        onChange={(value) => draft.set({ outcome: value })}
        options={due.outcomes.map((o) => ({ value: o.code, label: o.words }))}
      />
      <Field
        label={outcome === "dropped" ? "Why not" : "In your own words"}
        value={note}
        onChange={(value) => draft.set({ note: value })}
        isLong
      />
      <TroubleNote trouble={trouble} />
      <Line>
        <Button look="main" isDisabled={isBusy || !outcome} onPress={() => void onSay()}>
          Record it
        </Button>
      </Line>
    </Ruled>
  );
}

function Add({ id, isFirst }: { id: number; isFirst: boolean }) {
  const { change, trouble, isBusy } = useChange(id);
  const draft = useDraft<{ text: string }>(`addendum ${id}`, { text: "" });
  const [password, setPassword] = useState("");
  const [isOpen, setOpen] = useState(false);

  async function onAdd() {
    const body = { text: draft.value.text, password };
    const path = { params: { path: { job_id: id } } };
    const done = await change(() =>
      take(client.POST("/api/jobs/{job_id}/after/addenda", { ...path, body })),
    );
    setPassword("");
    if (!done) return;
    draft.forget(draft.value);
    setOpen(false);
  }
  if (!isOpen)
    return (
      <>
        {isFirst && <Soft>Nothing yet. What was signed stays as it is.</Soft>}
        <Line>
          <Button onPress={() => setOpen(true)}>Add a correction or a late finding</Button>
        </Line>
      </>
    );
  return (
    <Ruled>
      <Field
        label="What is to be added"
        value={draft.value.text}
        onChange={(text) => draft.set({ text })}
        isLong
      />
      <SignatureField value={password} onChange={setPassword} />
      <TroubleNote trouble={trouble} />
      <Line>
        <Button
          look="main"
          isDisabled={isBusy || !password || draft.value.text.trim().length < 3}
          onPress={() => void onAdd()}
        >
          Sign and add
        </Button>
        <Button onPress={() => setOpen(false)}>Leave it</Button>
      </Line>
    </Ruled>
  );
}
