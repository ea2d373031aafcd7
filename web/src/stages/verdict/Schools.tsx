import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { meQuery } from "../../api/queries";
import { Button, Choice, Field } from "../../kit/controls";
import { Dialog } from "../../kit/Dialog";
import { figureOf, wrongFigure } from "../../kit/figures";
import { Columns, Line, Sheet, Soft, TroubleNote } from "../../kit/page";
import { offered } from "../../kit/words";

type School = Schemas["School"];

interface Props {
  jobId: number;
  school: School;
  found: Schemas["AdviceOut"];
  onChange: (school: School) => void;
}

/** The ways that are a matter of opinion, and what the shop reckons with. */
export function Schools({ jobId, school, found, onChange }: Props) {
  const [isOpen, setOpen] = useState(false);
  const { rates } = found;
  return (
    <Sheet aria-label="Schools">
      <h2>By which school</h2>
      <Columns $of="1fr 1fr">
        {found.ways.map((way) => (
          <Choice
            key={way.key}
            label={way.words}
            value={school[way.key as keyof School]}
            onChange={(code) => onChange({ ...school, [way.key]: code })}
            options={offered(way.choices)}
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
      <Soft>
        {found.learned.length
          ? `From parts that came out here: ${found.learned.join(" ")} The verdict reckons with it.`
          : "Wear is reckoned by the book: no closed job has measured a part that came out yet."}
      </Soft>
      <Dialog title="What the shop reckons with" isOpen={isOpen} onLeave={() => setOpen(false)}>
        <Rates key={JSON.stringify(rates)} jobId={jobId} found={found} />
      </Dialog>
    </Sheet>
  );
}

function Rates({ jobId, found }: { jobId: number; found: Schemas["AdviceOut"] }) {
  const isLead = useQuery(meQuery).data?.role === "lead";
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const rates = found.rates as Record<string, number>;
  const bands = found.bands as Record<string, number | null>;
  const hasTyped = (asked: { key: string }[]) => asked.some(({ key }) => key in typed);
  function wrong(key: string, most: number, mayBeEmpty: boolean) {
    const text = typed[key];
    if (text === undefined || (mayBeEmpty && !text.trim())) return undefined;
    return text.trim() ? wrongFigure(text, 0, most) : "Expected: a number.";
  }
  const isWrong =
    found.rates_asked.some(({ key, most }) => wrong(key, most, false)) ||
    found.bands_asked.some(({ key, most }) => wrong(key, most, true));
  const told = (asked: { key: string }[]) =>
    Object.fromEntries(
      asked
        .filter(({ key }) => key in typed)
        .map(({ key }) => [key, typed[key]?.trim() ? figureOf(typed[key]) : null]),
    );
  async function onKeep() {
    try {
      if (hasTyped(found.bands_asked)) {
        const body = { bands: { ...found.bands, ...told(found.bands_asked) } };
        await take(client.PUT("/api/shop/bands", { body }));
      }
      if (hasTyped(found.rates_asked)) {
        const body = { rates: { ...found.rates, ...told(found.rates_asked) } };
        await take(client.PUT("/api/shop/rates", { body }));
      }
      await queries.invalidateQueries({ queryKey: ["job", jobId] });
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  const field = (key: string, words: string, value: string, trouble?: string) => (
    <Field
      key={key}
      label={words}
      value={typed[key] ?? value}
      onChange={(text) => setTyped({ ...typed, [key]: text })}
      isDisabled={!isLead}
      inputMode="decimal"
      wrong={trouble}
    />
  );
  return (
    <>
      <Soft>
        Every cost on this page follows from these. What was decided stays as it was reckoned then.
      </Soft>
      <Columns $of="1fr 1fr">
        {found.rates_asked.map(({ key, words, most }) =>
          field(key, words, String(rates[key]), wrong(key, most, false)),
        )}
      </Columns>
      <h3>Where a book gives no limit</h3>
      <Soft>
        {openHere(found.bands_asked)} Left empty, what was measured is judged by nothing, and the
        page says so.
      </Soft>
      <Columns $of="1fr 1fr">
        {found.bands_asked.map(({ key, words, most }) =>
          field(key, words, bands[key] == null ? "" : String(bands[key]), wrong(key, most, true)),
        )}
      </Columns>
      <TroubleNote trouble={trouble} />
      {isLead ? (
        <Line>
          <Button
            look="main"
            isDisabled={!Object.keys(typed).length || isWrong}
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

function openHere(asked: Schemas["BandOut"][]) {
  const left = asked.filter((band) => band.is_open);
  if (!left.length)
    return "This engine's book gives all of them, and they stand before the shop's.";
  return left.length === asked.length
    ? "This engine's book gives none of them."
    : `This engine's book leaves ${String(left.length)} of them open.`;
}
