import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useBookId } from "./bookId";
import styled from "styled-components";
import { faceQuery } from "../../api/bookQueries";
import type { Schemas } from "../../api/client";
import { useKeys } from "../../app/keys";
import { Turn } from "../../drawing/turn/turn";
import { TurningDrive } from "../../drawing/turn/TurningDrive";
import { Button, Field } from "../../kit/controls";
import {
  CareNote,
  Columns,
  Line,
  Sheet,
  Soft,
  Stack,
  StageHead,
  StopNote,
  Unit,
  Waiting,
} from "../../kit/page";
import { Select } from "../../kit/Select";
import { Told } from "../../kit/text";

const Stage = styled.div`
  height: calc(100vh - 160px);
  min-height: 430px;
`;
const Counted = styled.output`
  font-size: var(--figure);
  line-height: 1;
  font-weight: 700;
`;

/** Counting links between two marked teeth, link by link on the picture. */
export function CountPage() {
  const id = useBookId();
  const book = useQuery(faceQuery(id));
  if (!book.data) return <Waiting error={book.error} what="the link counts" />;
  if (!book.data.counts.length)
    return (
      <CareNote title="Nothing to count">
        No link can be counted here: this engine is timed by its marks alone.
      </CareNote>
    );
  return <Counting face={book.data} />;
}

function Counting({ face }: { face: Schemas["TurningFace"] }) {
  const turn = useMemo(() => new Turn(face.picture.service_deg), [face]);
  const [which, setWhich] = useState(0);
  const [upTo, setUpTo] = useState(0);
  const [mine, setMine] = useState("");
  const count = face.counts[which] ?? face.counts[0];
  const chain = face.picture.chains.find((c) => c.part === count?.chain_id);
  const driver = face.counts.find((c) => c.chain_id === count?.chain_id)?.start_id;
  const step = (by: number) => setUpTo((n) => Math.max(0, Math.min(count?.links ?? 0, n + by)));
  useKeys({
    ArrowRight: () => step(1),
    ArrowLeft: () => step(-1),
    ArrowUp: () => step(5),
    ArrowDown: () => step(-5),
    Home: () => setUpTo(0),
    End: () => setUpTo(count?.links ?? 0),
  });
  if (!count || !chain) return null;
  const from =
    count.start_id === driver
      ? 0
      : (face.counts.find(
          (c) =>
            c.chain_id === count.chain_id && c.start_id === driver && c.end_id === count.start_id,
        )?.links ?? 0);
  const left = count.links - upTo;
  function choose(value: string) {
    setWhich(Number(value));
    setUpTo(0);
    setMine("");
  }
  return (
    <>
      <StageHead title="Link counts">
        <Soft>
          Counting is the check when marks are gone or colours differ. Keys: → one link, ↑ five,
          Home back.
        </Soft>
      </StageHead>
      <Columns $of="minmax(0, 1fr) 360px">
        <Stage>
          <TurningDrive
            picture={face.picture}
            lobes={[]}
            plane={chain.plane}
            turn={turn}
            isStill
            chosen={null}
            counted={{ chain: chain.part, from, upTo }}
            label={`Counting links of the ${chain.name}`}
          />
        </Stage>
        <Stack $gap={12}>
          <Sheet>
            <Select
              label="Count from mark to mark, in running direction"
              value={String(which)}
              onChange={choose}
              options={face.counts.map((c, i) => ({
                value: String(i),
                label: `${c.start} → ${c.end}`,
              }))}
            />
            <Soft>
              {count.chain}, {count.along}.
            </Soft>
            <div>
              <Counted aria-label="Links counted">{upTo}</Counted>
              <Unit $size={20}>
                of {count.links} {chain.is_belt ? "teeth" : "links"}
              </Unit>
            </div>
            <div role="status">
              {left > 0 ? (
                `${left} more to the mark of the ${count.end}. The mark itself counts nought.`
              ) : (
                <strong>
                  That is the mark of the {count.end}: {count.links} is right.
                </strong>
              )}
            </div>
            <Line>
              <Button onPress={() => step(-1)}>One back</Button>
              <Button look="main" onPress={() => step(1)}>
                Next link
              </Button>
              <Button onPress={() => step(5)}>Five</Button>
            </Line>
          </Sheet>
          <Sheet>
            <Field
              label="I counted on the engine"
              value={mine}
              onChange={setMine}
              inputMode="numeric"
            />
            <Meaning mine={mine} count={count} />
          </Sheet>
          <Sheet>
            <h2>One more, one less</h2>
            <div>
              <strong>{count.links + 1}</strong>: {count.more}.
            </div>
            <div>
              <strong>{count.links - 1}</strong>: {count.less}.
            </div>
            {count.beside && <Soft>{count.beside}</Soft>}
          </Sheet>
        </Stack>
      </Columns>
    </>
  );
}

function Meaning({ mine, count }: { mine: string; count: Schemas["CountLine"] }) {
  if (!mine.trim()) return <Soft>Type your count to learn what it means.</Soft>;
  const n = Number(mine);
  if (!isCount(n))
    return (
      <Told role="alert" $tone="stop">
        Read “{mine}”, expected a whole number of links.
      </Told>
    );
  const meaning = count.meanings.find((m) => m.counted === n);
  if (meaning?.is_right)
    return (
      <p role="status">
        <strong>{meaning.title}</strong>
      </p>
    );
  return <StopNote title={meaning?.title ?? mine}>{meaning?.words ?? count.far}</StopNote>;
}

function isCount(n: number): boolean {
  return Number.isInteger(n) && n >= 0;
}
