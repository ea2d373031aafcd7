import { useState } from "react";
import styled from "styled-components";
import { client, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Pieces, PIECES, type Piece } from "../../drawing/Pieces";
import { Button, Choice, Field } from "../../kit/controls";
import { Line, Sheet, Soft, TroubleNote } from "../../kit/page";
import { PlainList, Told } from "../../kit/text";
import { clock } from "../../kit/words";

const Tray = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px 16px;
  align-items: center;
  padding: 8px 12px;
  background: var(--sheet);
  border: 2px solid var(--ochre);
  & button {
    min-height: var(--bench-target);
  }
  & > svg {
    grid-column: 1 / -1;
    color: var(--ochre);
    max-width: 100%;
  }
`;
const Count = styled.output`
  min-width: 72px;
  text-align: center;
  font-size: var(--figure);
  font-weight: 700;
`;
const Step = styled(Button)`
  min-width: 72px;
  min-height: var(--bench-target);
  font-size: var(--bench);
`;
const USUAL = ["chain case", "sump opening", "oil drillings", "plug holes", "front cover"];

/** Counting pieces in and out: sent at once, seen by everybody on the job. */
function useCount(id: number) {
  const { change, trouble, isBusy } = useChange(id);
  const path = { params: { path: { job_id: id } } };
  const count = (piece: Piece, place: string, n: number) =>
    change(() =>
      take(
        client.POST("/api/jobs/{job_id}/bench/inside", {
          ...path,
          body: { piece, place, count: n },
        }),
      ),
    );
  return { count, trouble, isBusy };
}

/** What lies in the engine by hand, each with the press that counts it out. */
export function LaidIn({ id, laid }: { id: number; laid: Schemas["LaidOut"][] }) {
  const { count, trouble, isBusy } = useCount(id);
  return (
    <>
      <PlainList $gap="8px" aria-label="Laid in by hand">
        {laid.map((e) => (
          <Tray key={e.words}>
            <Pieces piece={e.piece} count={e.count} />
            <div>
              <Told $size={22}>
                <strong>{e.words}</strong>
              </Told>
              <Soft>
                put in by {e.by}, {clock(e.at)}
              </Soft>
            </div>
            <Line $keeps>
              {e.count > 1 && (
                <Button isDisabled={isBusy} onPress={() => void count(e.piece, e.place, -1)}>
                  One out
                </Button>
              )}
              <Button
                look="main"
                isDisabled={isBusy}
                onPress={() => void count(e.piece, e.place, -e.count)}
              >
                {e.count > 2 ? `All ${e.count} out` : e.count > 1 ? "Both out" : "Out again"}
              </Button>
            </Line>
          </Tray>
        ))}
      </PlainList>
      <TroubleNote trouble={trouble} />
    </>
  );
}

/** What is in the engine: what the plan put in, what was laid in by hand, and the next to go in. */
export function Inside({ id, bench }: { id: number; bench: Schemas["BenchOut"] }) {
  const { count, trouble, isBusy } = useCount(id);
  const [isOpen, setOpen] = useState(false);
  const [piece, setPiece] = useState<Piece>("rag");
  const [place, setPlace] = useState("");
  const [n, setN] = useState(1);
  const places = [...new Set([...bench.laid.map((e) => e.place), ...USUAL])];
  async function onIn() {
    if (!(await count(piece, place.trim(), n))) return;
    setPlace("");
    setN(1);
    setOpen(false);
  }
  return (
    <Sheet>
      <h2>In the engine</h2>
      {bench.planned_in.length > 0 && (
        <Told $size={18}>By the plan: {bench.planned_in.join(", ")}.</Told>
      )}
      {bench.laid.length > 0 ? (
        <LaidIn id={id} laid={bench.laid} />
      ) : (
        <Soft>Nothing was laid in by hand. Whatever goes in is counted in, and out again.</Soft>
      )}
      {!isOpen ? (
        <Line>
          <Button onPress={() => setOpen(true)}>Something goes in</Button>
        </Line>
      ) : (
        <>
          <Choice label="What goes in" value={piece} onChange={setPiece} options={PIECES} isBig />
          <Line $align="center">
            <Step aria-label="One fewer" isDisabled={n <= 1} onPress={() => setN((had) => had - 1)}>
              −
            </Step>
            <Count aria-label="How many">{n}</Count>
            <Step aria-label="One more" isDisabled={n >= 50} onPress={() => setN((had) => had + 1)}>
              +
            </Step>
            <Pieces piece={piece} count={n} />
          </Line>
          <Line>
            {places.map((one) => (
              <Button
                key={one}
                aria-pressed={place === one}
                look={place === one ? "main" : "plain"}
                onPress={() => setPlace(one)}
              >
                {one}
              </Button>
            ))}
          </Line>
          <Field label="Where, or in other words" value={place} onChange={setPlace} />
          <TroubleNote trouble={trouble} />
          <Line>
            <Button look="main" isDisabled={isBusy || !place.trim()} onPress={() => void onIn()}>
              Count in: {n} × {piece}
            </Button>
            <Button onPress={() => setOpen(false)}>Nothing goes in</Button>
          </Line>
        </>
      )}
    </Sheet>
  );
}
