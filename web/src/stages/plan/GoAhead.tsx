import { useState } from "react";
import { client, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button, Choice, Field } from "../../kit/controls";
import { Day } from "../../kit/Day";
import { figureOf } from "../../kit/figures";
import { ServerForm } from "../../kit/form";
import { CareNote, Columns, Line } from "../../kit/page";
import { Told } from "../../kit/text";

interface Props {
  id: number;
  page: Schemas["EstimateOut"];
  isFixed: boolean;
}

/** The owner's yes: who, how, when and up to what; without it the bench does not start. */
export function GoAhead({ id, page, isFixed }: Props) {
  const { go } = page;
  const [asksAgain, setAsksAgain] = useState(false);
  if (go.agreed && (go.may_start || isFixed) && !asksAgain)
    return (
      <>
        <h2>The owner said yes</h2>
        <Told $tone="fine">✓ {go.agreed_words}</Told>
        {!isFixed && (
          <Line>
            <Button onPress={() => setAsksAgain(true)}>Write it down anew</Button>
          </Line>
        )}
      </>
    );
  return (
    <>
      <h2>Has the owner said yes?</h2>
      {go.why_not && (
        <CareNote title="Ask again">
          {go.agreed_words} Since then: {go.why_not}.
        </CareNote>
      )}
      <Asking id={id} page={page} onDone={() => setAsksAgain(false)} />
    </>
  );
}

function Asking({
  id,
  page,
  onDone,
}: {
  id: number;
  page: Schemas["EstimateOut"];
  onDone: () => void;
}) {
  const { change, trouble, isBusy } = useChange(id);
  const [owner, setOwner] = useState(page.go.agreed?.owner ?? "");
  const [how, setHow] = useState<Schemas["Agreeing"] | null>(null);
  const [on, setOn] = useState(page.today);
  const [most, setMost] = useState(String(Math.ceil(page.estimate.high_price)));
  const figure = figureOf(most);
  async function onSubmit() {
    if (!how || figure === null) return;
    const done = await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/plan/agreed", {
          params: { path: { job_id: id } },
          body: { version, owner, how, on, most: figure },
        }),
      ),
    );
    if (done) onDone();
  }
  return (
    <ServerForm trouble={trouble} onSubmit={() => void onSubmit()}>
      <Field label="Who said yes" name="owner" value={owner} onChange={setOwner} />
      <Choice
        label="How"
        value={how}
        onChange={setHow}
        options={page.go.ways_to_agree.map((w) => ({
          value: w.code as Schemas["Agreeing"],
          label: w.words,
        }))}
      />
      <Columns $of="1fr 1fr">
        <Day label="On" name="on" value={on} onChange={setOn} />
        <Field
          label="Up to"
          hint="more needs another yes"
          name="most"
          value={most}
          onChange={setMost}
          inputMode="decimal"
          {...(figure === null ? { wrong: "A figure, such as 1200" } : {})}
        />
      </Columns>
      <Line>
        <Button
          look="next"
          type="submit"
          isDisabled={isBusy || owner.trim().length < 2 || !how || figure === null}
        >
          The owner said yes
        </Button>
      </Line>
    </ServerForm>
  );
}
