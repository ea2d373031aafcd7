import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { meQuery } from "../../api/queries";
import { Button, Choice, Field } from "../../kit/controls";
import { Dialog } from "../../kit/Dialog";
import { figureOf, wrongFigure } from "../../kit/figures";
import { Columns, Line, Sheet, Soft, TroubleNote } from "../../kit/page";

type School = Schemas["School"];

const WAYS: { [K in keyof School]-?: { label: string; of: Record<School[K] & string, string> } } = {
  extent: {
    label: "Once it is open",
    of: { measured: "only what measured bad", whole_set: "the whole set" },
  },
  sprockets: {
    label: "Sprockets that look good",
    of: { keep: "keep", renew: "renew with the chain" },
  },
  parts: { label: "Parts", of: { maker: "the maker’s", aftermarket: "an aftermarket kit" } },
  phasers: { label: "A phaser at fault", of: { renew: "renew", lock_out: "lock out" } },
};

interface Props {
  jobId: number;
  school: School;
  rates: Schemas["Rates"];
  hasPhasers: boolean;
  onChange: (school: School) => void;
}

/** The ways that are a matter of opinion, and what the shop reckons with. */
export function Schools({ jobId, school, rates, hasPhasers, onChange }: Props) {
  const [isOpen, setOpen] = useState(false);
  const ways = (Object.keys(WAYS) as (keyof School)[]).filter(
    (way) => way !== "phasers" || hasPhasers,
  );
  return (
    <Sheet aria-label="Schools">
      <h2>By which school</h2>
      <Columns $of="1fr 1fr">
        {ways.map((way) => (
          <Choice
            key={way}
            label={WAYS[way].label}
            value={school[way]}
            onChange={(value) => onChange({ ...school, [way]: value })}
            options={Object.entries(WAYS[way].of).map(([value, label]) => ({ value, label }))}
          />
        ))}
      </Columns>
      <Line $align="center">
        <Button onPress={() => setOpen(true)}>What the shop reckons with</Button>
        <Soft>
          {rates.labour_per_h} an hour of work, {rates.comeback} a comeback, {rates.failure} an
          engine lost
        </Soft>
      </Line>
      <Dialog title="What the shop reckons with" isOpen={isOpen} onLeave={() => setOpen(false)}>
        <Rates key={JSON.stringify(rates)} jobId={jobId} rates={rates} />
      </Dialog>
    </Sheet>
  );
}

const RATES: [keyof Schemas["Rates"], string, number?][] = [
  ["labour_per_h", "An hour of work"],
  ["downtime_per_h", "An hour that the unit stands"],
  ["comeback", "A comeback, beside the work"],
  ["failure", "An engine lost: valves bent, towed, another fitted"],
  ["failure_free", "The same where no valve meets a piston"],
  ["over_limit", "To answer for a part left in over its limit"],
  ["another_engine", "Another engine, fitted and running"],
  ["lockout_price", "A fixed lockout"],
  ["lockout_loss", "What a unit loses by a cam that is not moved"],
  ["remeasure", "Having the unit in to measure again"],
  ["horizon_h", "Running hours a repair is answered for"],
  ["maker_fails", "How often the maker’s parts fail in those hours, 0 to 1", 1],
  ["aftermarket_fails", "How often aftermarket parts do, 0 to 1", 1],
  ["aftermarket_price", "Their price, as a share of the maker’s, 0 to 1", 1],
  ["slip", "How often opening a drive has to be done again, 0 to 1", 1],
];

function Rates({ jobId, rates }: { jobId: number; rates: Schemas["Rates"] }) {
  const isLead = useQuery(meQuery).data?.role === "lead";
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const wrong = RATES.map(([key, , most]) =>
    key in typed ? wrongFigure(typed[key] ?? "", 0, most ?? 1e7) : undefined,
  );
  async function onKeep() {
    const told = Object.fromEntries(
      Object.entries(typed).map(([key, text]) => [key, figureOf(text)]),
    );
    try {
      await take(client.PUT("/api/shop/rates", { body: { rates: { ...rates, ...told } } }));
      await queries.invalidateQueries({ queryKey: ["job", jobId, "advice"] });
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  return (
    <>
      <Soft>
        Every cost on this page follows from these. What was decided stays as it was reckoned then.
      </Soft>
      <Columns $of="1fr 1fr">
        {RATES.map(([key, label], i) => (
          <Field
            key={key}
            label={label}
            value={typed[key] ?? String(rates[key])}
            onChange={(text) => setTyped({ ...typed, [key]: text })}
            isDisabled={!isLead}
            inputMode="decimal"
            wrong={wrong[i]}
          />
        ))}
      </Columns>
      <TroubleNote trouble={trouble} />
      {isLead ? (
        <Line>
          <Button
            look="main"
            isDisabled={!Object.keys(typed).length || wrong.some(Boolean)}
            onPress={() => void onKeep()}
          >
            Keep it so
          </Button>
        </Line>
      ) : (
        <Soft>A lead changes this.</Soft>
      )}
    </>
  );
}
