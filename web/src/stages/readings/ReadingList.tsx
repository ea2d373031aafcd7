import { useState } from "react";
import styled from "styled-components";
import { client, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button, Choice, Field } from "../../kit/controls";
import { Line, Sheet, Soft, TroubleNote } from "../../kit/page";
import { clock } from "../../kit/words";
import { PHASER_STATES, type PhaserWord } from "./CaptureSheet";

const Photo = styled.img`
  height: 84px;
  display: block;
`;
const Changes = styled.div`
  grid-column: 2 / -1;
  display: grid;
  gap: 10px;
`;
const Item = styled.li<{ $out: boolean }>`
  display: grid;
  grid-template-columns: 62px minmax(0, 1fr) auto;
  gap: 4px 12px;
  align-items: center;
  padding: 8px 0;
  border-top: 1px solid var(--line);
  ${({ $out }) => $out && "color: var(--soft); & strong { text-decoration: line-through; }"}
`;
const Items = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;

/** Every reading with what it came from; strike out with a reason, never erase. */
export function ReadingList({
  id,
  readings,
  isFixed,
}: {
  id: number;
  readings: Schemas["ReadingOut"][];
  isFixed: boolean;
}) {
  const { change, trouble, isBusy } = useChange(id);
  const [open, setOpen] = useState<number | null>(null);
  const [reason, setReason] = useState("");
  const counted = readings.filter((r) => r.counts || r.struck).reverse();

  async function onStrike(reading: number) {
    const path = { params: { path: { job_id: id, reading_id: reading } } };
    const done = await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/readings/{reading_id}/strike", {
          ...path,
          body: { version, reason },
        }),
      ),
    );
    if (done) {
      setOpen(null);
      setReason("");
    }
  }
  function onPhaser(reading: number, state: PhaserWord) {
    const path = { params: { path: { job_id: id, reading_id: reading } } };
    void change((version) =>
      take(
        client.PUT("/api/jobs/{job_id}/readings/{reading_id}/phaser", {
          ...path,
          body: { version, state, command_deg: 0 },
        }),
      ),
    );
  }
  return (
    <Sheet>
      <h2>Readings taken</h2>
      <TroubleNote trouble={trouble} />
      <Items>
        {counted.map((r) => (
          <Item key={r.id} $out={r.struck !== null}>
            <span>R{r.id}</span>
            <div>
              <strong>{r.name}</strong> {r.figure}
              {r.words && <div>{r.words}</div>}
              {r.photos.length > 0 && (
                <Line>
                  {r.photos.map((p) => (
                    <a
                      key={p}
                      href={`/api/jobs/${id}/photos/${p}`}
                      target="_blank"
                      rel="noreferrer"
                    >
                      <Photo src={`/api/jobs/${id}/photos/${p}`} alt={`Photograph of ${r.name}`} />
                    </a>
                  ))}
                </Line>
              )}
              <Soft>
                {r.half_90 !== null && (
                  <>
                    ± {r.half_90.toFixed(2)} (90 %){r.is_assumed && ", taken for granted"}
                    {r.cycles
                      ? `, scatter ${r.scatter_deg?.toFixed(2)}° over ${r.cycles} cycles`
                      : ""}
                    {" · "}
                  </>
                )}
                {r.instrument}
                {r.as_typed ? ` · typed “${r.as_typed}”` : ""} · {r.taken_by}, {clock(r.taken_at)}
                {r.has_phaser ? ` · phaser ${r.phaser_state}` : ""}
                {r.struck ? ` · struck out: ${r.struck}` : ""}
              </Soft>
            </div>
            {!r.struck && !isFixed && (
              <Button
                onPress={() => setOpen(open === r.id ? null : r.id)}
                aria-expanded={open === r.id}
                aria-label={`Change R${r.id}`}
              >
                Change
              </Button>
            )}
            {open === r.id && (
              <Changes>
                {r.has_phaser && (
                  <Choice
                    label="The phaser was"
                    value={r.phaser_state as PhaserWord}
                    onChange={(s) => onPhaser(r.id, s)}
                    options={PHASER_STATES.filter((s) => s.value !== "commanded")}
                  />
                )}
                <Line>
                  <Field label="Strike out because" value={reason} onChange={setReason} />
                  <Button
                    look="stop"
                    onPress={() => void onStrike(r.id)}
                    isDisabled={isBusy || reason.trim().length < 3}
                  >
                    Strike out
                  </Button>
                </Line>
              </Changes>
            )}
          </Item>
        ))}
      </Items>
    </Sheet>
  );
}
