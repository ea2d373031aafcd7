import { useState } from "react";
import type { Schemas, Trouble } from "../../api/client";
import { Button, Check, Choice, Field } from "../../kit/controls";
import { figureOf, wrongFigure } from "../../kit/figures";
import { Day, isDay, today } from "../../kit/Day";
import { ServerForm } from "../../kit/form";
import { Line, Sheet, Soft, TroubleNote } from "../../kit/page";
import { Select } from "../../kit/Select";

type Engine = Schemas["EngineLine"];
const METERS = [
  { value: "h", label: "Hours" },
  { value: "km", label: "Kilometres" },
] as const;

/** What a meter can show; null for anything else. */
function figure(typed: string): number | null {
  const value = figureOf(typed);
  return value !== null && value >= 0 ? value : null;
}

interface NumberAndBookProps {
  number: string;
  onNumber: (number: string) => void;
  book: string;
  onBook: (book: string) => void;
  books: Schemas["BookChoice"][];
}

function NumberAndBook({ number, onNumber, book, onBook, books }: NumberAndBookProps) {
  return (
    <>
      <Field
        name="number"
        label="Engine number"
        value={number}
        onChange={onNumber}
        hint="as it is stamped; no other engine has it"
      />
      <Select
        label="Engine book"
        value={book}
        onChange={onBook}
        options={books.map((b) => ({ value: String(b.id), label: b.name }))}
      />
    </>
  );
}

interface EngineProps {
  trouble: Trouble | null;
  unit: Schemas["UnitLine"];
  books: Schemas["BookChoice"][];
  free: Engine[];
  isBusy: boolean;
  onNew: (body: Schemas["EngineIn"]) => Promise<void>;
  onMount: (engine: number, body: Schemas["MountIn"]) => Promise<void>;
  onLeave: () => void;
}

/** An engine put on a unit: one the shop has, or a new one. */
export function EngineForm({
  trouble,
  unit,
  books,
  free,
  isBusy,
  onNew,
  onMount,
  onLeave,
}: EngineProps) {
  const [which, setWhich] = useState("new");
  const [position, setPosition] = useState("main");
  const [number, setNumber] = useState("");
  const [book, setBook] = useState(String(books[0]?.id ?? ""));
  const [meter, setMeter] = useState<Schemas["Meter"]>("h");
  const [reading, setReading] = useState("");
  const [day, setDay] = useState(today());
  const isNew = which === "new";
  const read = figure(reading);
  const isWhole =
    position.trim() && (!isNew || (number.trim() && book && (!reading.trim() || read !== null)));
  function onSubmit() {
    if (isBusy || !isWhole) return;
    if (!isNew) return onMount(Number(which), { unit_id: unit.id, position: position.trim() });
    return onNew({
      number: number.trim(),
      book_id: Number(book),
      meter,
      unit_id: unit.id,
      position: position.trim(),
      reading: read,
      read_on: isDay(day) ? day : null,
    });
  }
  if (!books.length)
    return (
      <Sheet>
        <h2>An engine for {unit.name}</h2>
        <Soft>No engine book yet. A lead takes one in under Engine books first.</Soft>
        <Line>
          <Button onPress={onLeave}>Leave it</Button>
        </Line>
      </Sheet>
    );
  return (
    <Sheet>
      <h2>An engine for {unit.name}</h2>
      <ServerForm trouble={trouble} onSubmit={() => void onSubmit()}>
        {free.length > 0 && (
          <Select
            label="Which"
            value={which}
            onChange={setWhich}
            options={[
              { value: "new", label: "a new one" },
              ...free.map((e) => ({ value: String(e.id), label: `${e.number}, ${e.book}` })),
            ]}
          />
        )}
        <Field
          name="position"
          label="Where on the unit"
          value={position}
          onChange={setPosition}
          hint="main, port, starboard … What stands there now is taken off."
        />
        {isNew && (
          <>
            <NumberAndBook
              number={number}
              onNumber={setNumber}
              book={book}
              onBook={setBook}
              books={books}
            />
            <Choice label="Its meter counts" value={meter} onChange={setMeter} options={METERS} />
            <Field
              name="reading"
              label={meter === "h" ? "Hours it shows" : "Kilometres it shows"}
              value={reading}
              onChange={setReading}
              inputMode="decimal"
              wrong={wrongFigure(reading, 0)}
              hint="leave empty when nobody has read it"
            />
            <Day name="read_on" label="Read on" value={day} onChange={setDay} />
          </>
        )}
        <Line>
          <Button look="main" type="submit" isDisabled={isBusy || !isWhole}>
            Mount it
          </Button>
          <Button onPress={onLeave}>Leave it</Button>
        </Line>
      </ServerForm>
    </Sheet>
  );
}

interface MountProps {
  trouble: Trouble | null;
  engine: Engine;
  units: Schemas["UnitLine"][];
  books: Schemas["BookChoice"][];
  isBusy: boolean;
  onMount: (body: Schemas["MountIn"]) => Promise<void>;
  onTakeOff: () => Promise<void>;
  onChange: (body: Schemas["EngineChange"]) => Promise<void>;
  onLeave: () => void;
}

/** An engine moved to another unit or place, taken off, or told of anew. */
export function MountForm(props: MountProps) {
  const { trouble } = props;
  const isOfNumber = trouble?.detail.field === "number";
  return (
    <>
      {!isOfNumber && <TroubleNote trouble={trouble} />}
      {!props.engine.is_retired && <Move {...props} />}
      <Tell {...props} trouble={isOfNumber ? trouble : null} />
    </>
  );
}

/** The engine's number and book, where they were entered wrong; and its retirement. */
function Tell({ trouble, engine, books, isBusy, onChange, onLeave }: MountProps) {
  const [number, setNumber] = useState(engine.number);
  const [book, setBook] = useState(String(engine.book_id));
  const [isRetired, setRetired] = useState(engine.is_retired);
  const others = books.filter((b) => b.name !== engine.book);
  function onSubmit() {
    if (isBusy || !number.trim()) return;
    void onChange({ number: number.trim(), book_id: Number(book), is_retired: isRetired });
  }
  return (
    <Sheet>
      <h2>{engine.number} itself</h2>
      <ServerForm trouble={trouble} onSubmit={onSubmit}>
        <NumberAndBook
          number={number}
          onNumber={setNumber}
          book={book}
          onBook={setBook}
          books={[{ id: engine.book_id, name: engine.book }, ...others]}
        />
        {engine.unit_id === null && (
          <Check isSelected={isRetired} onChange={setRetired}>
            Retired: it is mounted no more
          </Check>
        )}
        <Line>
          <Button type="submit" isDisabled={isBusy || !number.trim()}>
            Keep it so
          </Button>
          {engine.is_retired && <Button onPress={onLeave}>Leave it</Button>}
        </Line>
      </ServerForm>
    </Sheet>
  );
}

function Move({ engine, units, isBusy, onMount, onTakeOff, onLeave }: MountProps) {
  const [unit, setUnit] = useState(String(engine.unit_id ?? units[0]?.id ?? ""));
  const [position, setPosition] = useState(engine.position ?? "main");
  return (
    <Sheet>
      <h2>Move {engine.number}</h2>
      <Soft>
        {engine.book}, {engine.run_words}. Its baseline and readings go with it.
      </Soft>
      <Select
        label="To"
        value={unit}
        onChange={setUnit}
        options={units.map((u) => ({ value: String(u.id), label: `${u.name}, ${u.tag}` }))}
      />
      <Field
        label="Where on the unit"
        value={position}
        onChange={setPosition}
        hint="What stands there now is taken off."
      />
      <Line>
        <Button
          look="main"
          isDisabled={isBusy || !unit || !position.trim()}
          onPress={() => void onMount({ unit_id: Number(unit), position: position.trim() })}
        >
          Mount it there
        </Button>
        {engine.unit_id !== null && (
          <Button look="stop" isDisabled={isBusy} onPress={() => void onTakeOff()}>
            Take it off
          </Button>
        )}
        <Button onPress={onLeave}>Leave it</Button>
      </Line>
    </Sheet>
  );
}

interface MeterProps {
  trouble: Trouble | null;
  engine: Engine;
  isBusy: boolean;
  onRead: (body: Schemas["MeterIn"]) => Promise<void>;
  onStrike: () => Promise<void>;
  onLeave: () => void;
}

/** What the meter shows today, or that it was replaced. */
export function MeterForm({ trouble, engine, isBusy, onRead, onStrike, onLeave }: MeterProps) {
  const [typed, setTyped] = useState("");
  const [day, setDay] = useState(today());
  const [isNew, setNew] = useState(false);
  const value = figure(typed);
  return (
    <Sheet>
      <h2>Meter of {engine.number}</h2>
      <Soft>
        {engine.reading === null
          ? "Nobody has read it yet."
          : `Showed ${engine.reading} ${engine.meter} on ${engine.read_on}.`}{" "}
        {engine.reading !== null && `Run in all: ${engine.run_words}.`}
      </Soft>
      <ServerForm
        trouble={trouble}
        onSubmit={() => {
          if (value !== null && isDay(day) && !isBusy)
            void onRead({ value, read_on: day, is_new_meter: isNew });
        }}
      >
        <Field
          name="value"
          label={engine.meter === "h" ? "Hours it shows" : "Kilometres it shows"}
          value={typed}
          onChange={setTyped}
          inputMode="decimal"
          wrong={wrongFigure(typed, 0)}
          autoFocus
        />
        <Day name="read_on" label="Read on" value={day} onChange={setDay} />
        {engine.reading !== null && (
          <Check isSelected={isNew} onChange={setNew}>
            The meter was replaced: it began with this
          </Check>
        )}
        <Line>
          <Button look="main" type="submit" isDisabled={isBusy || value === null || !isDay(day)}>
            Keep the reading
          </Button>
          {engine.reading !== null && (
            <Button look="stop" isDisabled={isBusy} onPress={() => void onStrike()}>
              Strike out the {engine.reading} of {engine.read_on}
            </Button>
          )}
          <Button onPress={onLeave}>Leave it</Button>
        </Line>
      </ServerForm>
    </Sheet>
  );
}
