import { useNavigate, useParams } from "react-router";
import { client, take, type Schemas } from "../../api/client";
import { useChange, useJob } from "../../api/queries";
import { Button, Choice, Field } from "../../kit/controls";
import { ServerForm } from "../../kit/form";
import { useDraft } from "../../kit/draft";
import { CareNote, Columns, Line, Sheet, Soft, StageHead } from "../../kit/page";
import { offered } from "../../kit/words";
import { PutIn } from "./PutIn";

type Told = Required<Schemas["Intake"]>;

const SHORT = [
  { name: "when", label: "When", hint: "cold start, hot idle, under load" },
  { name: "where", label: "Where is the noise", hint: "front top, front bottom, which bank" },
  {
    name: "standing_hours",
    label: "Stood before, h",
    hint: "how long it stood cold; a cold retest needs the same",
  },
  { name: "hours", label: "Running hours, h", hint: "such as 5200; empty is unknown" },
  { name: "codes", label: "Fault codes", hint: "such as P0016, P0018; none when none is set" },
] as const;

const CHOICES = [
  { name: "rattle", label: "The chain rattles", offers: "rattles" },
  { name: "starts", label: "Does it start?", offers: "starts" },
  { name: "accessories", label: "Noise of pump, pulley or belt", offers: "accessory_noises" },
  { name: "oil_state", label: "Oil, its level and age", offers: "oil_states" },
] as const;

export function Intake() {
  const id = Number(useParams().id);
  const job = useJob(id);
  const navigate = useNavigate();
  const { change, trouble, isBusy } = useChange(id);
  const empty: Schemas["Intake"] = {
    complaint: "",
    when: "",
    where: "",
    standing_hours: "",
    oil_state: "unknown",
    oil_note: "",
    hours: "",
    replaced_before: "",
    replaced_parts: [],
    replaced_at: "",
    accessories: "unknown",
    rattle: "unknown",
    starts: "unknown",
    codes: "",
  };
  const form = useDraft<Schemas["Intake"]>(`intake ${id}`, job.data?.intake ?? empty);
  const v = form.value;
  const isFixed = job.data?.is_signed ?? false;

  async function onSave() {
    const done = await change((version) =>
      take(
        client.PUT("/api/jobs/{job_id}/intake", {
          params: { path: { job_id: id } },
          body: { ...empty, ...v, version },
        }),
      ),
    );
    if (done) {
      form.forget(v);
      void navigate(`/jobs/${id}/readings`);
    }
  }
  return (
    <>
      <StageHead title="What brings it in?">
        {form.isDirty && <Soft role="status">Typed, not saved yet.</Soft>}
      </StageHead>
      <ServerForm
        trouble={trouble}
        onSubmit={() => {
          if (!isBusy && !isFixed) void onSave();
        }}
      >
        <Columns $of="minmax(0, 3fr) minmax(0, 2fr)">
          <Sheet>
            <Field
              name="complaint"
              label="Complaint, in the words of who brought it"
              value={v.complaint}
              onChange={(complaint) => form.set({ complaint })}
              isLong
              isDisabled={isFixed}
            />
            <Columns $of="1fr 1fr">
              {SHORT.map(({ name, label, hint }) => (
                <Field
                  key={name}
                  name={name}
                  label={label}
                  value={v[name]}
                  onChange={(typed) => form.set({ [name]: typed })}
                  hint={hint}
                  isDisabled={isFixed}
                />
              ))}
            </Columns>
            <Field
              name="replaced_before"
              label="Replaced before"
              value={v.replaced_before}
              onChange={(replaced_before) => form.set({ replaced_before })}
              isDisabled={isFixed}
            />
            <PutIn
              offered={job.data?.replaceable ?? []}
              parts={v.replaced_parts}
              at={v.replaced_at}
              hours={v.hours}
              onChange={form.set}
              isDisabled={isFixed}
            />
          </Sheet>
          <Sheet>
            {CHOICES.map(({ name, label, offers }) => (
              <Choice
                key={name}
                label={label}
                value={v[name]}
                onChange={(code) => form.set({ [name]: code as Told[typeof name] })}
                options={offered(job.data?.[offers])}
                isDisabled={isFixed}
              />
            ))}
            <Field
              name="oil_note"
              label="Oil note"
              value={v.oil_note}
              onChange={(oil_note) => form.set({ oil_note })}
              isDisabled={isFixed}
            />
            {v.accessories !== "excluded" && (
              <CareNote title="Exclude the accessories first">
                A short run with the belt off tells a water pump or pulley from a chain.
              </CareNote>
            )}
          </Sheet>
        </Columns>
        <Line $align="center">
          <Button
            look={form.isDirty || job.data?.stage === "intake" ? "next" : "plain"}
            type="submit"
            isDisabled={isBusy || isFixed}
          >
            {isBusy ? "Saving …" : "Save and go to Readings"}
          </Button>
          <Soft>
            {job.data?.unit.has_baseline
              ? "This engine has a baseline of its own: readings are judged against it."
              : "No baseline of its own yet: readings are judged against the engine book."}
          </Soft>
        </Line>
      </ServerForm>
    </>
  );
}
