import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { useBookId } from "./bookId";
import { PAPER } from "../../app/theme";
import styled from "styled-components";
import { bookQuery, faceQuery } from "../../api/bookQueries";
import { Turn } from "../../drawing/turn/turn";
import { TurningDrive } from "../../drawing/turn/TurningDrive";
import { Button } from "../../kit/controls";
import { Stack, StageHead, Waiting } from "../../kit/page";

const Page = styled.article`
  border: 1px solid var(--line);
  padding: 22px;
  display: grid;
  gap: 12px;
  max-width: 1000px;
  font-size: var(--note);
  line-height: 1.35;
  ${PAPER}
  background: var(--sheet);
  color: var(--ink);
  h1 {
    font-size: 22px;
  }
  h2 {
    font-size: var(--note);
    border-bottom: 1px solid var(--ink);
  }
  ul {
    margin: 0;
    padding: 0;
    list-style: none;
  }
  li {
    padding: 1px 0;
  }
  @media print {
    border: none;
    padding: 0;
    max-width: none;
    font-size: 10.5px;
    gap: 6px;
    h1 {
      font-size: var(--body);
    }
    h2 {
      font-size: var(--least);
    }
  }
`;
const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 4fr);
  gap: 16px;
  align-items: start;
  @media (max-width: 800px) {
    grid-template-columns: minmax(0, 1fr);
  }
  @media print {
    grid-template-columns: minmax(0, 5fr) minmax(0, 4fr);
    gap: 10px;
  }
`;
const Pictures = styled.div<{ $count: number }>`
  display: grid;
  gap: 8px;
  svg {
    height: ${({ $count }) => ($count > 1 ? 270 : 470)}px;
  }
  @media print {
    svg {
      height: ${({ $count }) => ($count > 1 ? 210 : 380)}px;
    }
  }
`;
const NoPrint = styled.div`
  @media print {
    display: none;
  }
`;
const PrintRules = styled.div`
  @media print {
    @page {
      size: A4 portrait;
      margin: 11mm;
    }
  }
`;

/** Everything about the timed position on one page to print and hang at the bench. */
export function PositionSheet() {
  const id = useBookId();
  const book = useQuery(bookQuery(id));
  const face = useQuery(faceQuery(id));
  const turn = useMemo(
    () => (face.data ? new Turn(face.data.picture.service_deg) : null),
    [face.data],
  );
  if (!book.data || !face.data || !turn)
    return <Waiting error={book.error ?? face.error} what="the position sheet" />;
  const b = book.data;
  const { picture, lobes } = face.data;
  return (
    <>
      <NoPrint>
        <StageHead title="Position sheet">
          <Button look="main" onPress={() => window.print()}>
            Print on one page
          </Button>
        </StageHead>
      </NoPrint>
      <PrintRules />
      <Page aria-label={`Timed position of the ${b.name}`}>
        <div>
          <h1>
            {b.name}: timed position, crank {picture.service_deg}°
          </h1>
          <div>
            {b.kind}. Book revision {b.revision}. {b.service}
          </div>
        </div>
        <Two>
          <Pictures $count={picture.planes.length}>
            {picture.planes.map((p) => (
              <div key={p.id}>
                <TurningDrive
                  picture={picture}
                  lobes={lobes}
                  plane={p.id}
                  turn={turn}
                  isStill
                  chosen={null}
                  label={`${b.name} in its service position`}
                />
                <div>
                  Seen from {p.seen_from}; crank runs {p.running_direction}.
                </div>
              </div>
            ))}
          </Pictures>
          <Stack $gap={10}>
            <section>
              <h2>Marks</h2>
              <ul>
                {b.marks
                  .filter((m) => m.is_timing)
                  .map((m) => (
                    <li key={m.name}>
                      <strong>{m.name}</strong>, {m.clock}
                      {m.at_deg !== picture.service_deg ? ` (crank ${m.at_deg}°)` : ""}: meets{" "}
                      {m.meets}; may miss {m.miss_before_deg}° / {m.miss_after_deg}° before / after
                      release
                    </li>
                  ))}
              </ul>
            </section>
            <section>
              <h2>Not timing marks</h2>
              <ul>
                {b.marks
                  .filter((m) => !m.is_timing)
                  .map((m) => (
                    <li key={m.name}>
                      {m.name}: {m.purpose}
                    </li>
                  ))}
              </ul>
            </section>
            <section>
              <h2>Lobes</h2>
              <ul>
                {lobes.length ? (
                  lobes.map((l) => <li key={l.words}>{l.words}</li>)
                ) : (
                  <li>unknown: the book gives no valve data</li>
                )}
              </ul>
            </section>
          </Stack>
        </Two>
        <Two>
          <section>
            <h2>Link counts, in running direction from mark to mark</h2>
            <ul>
              {b.counts
                .filter((c) => c.is_next)
                .map((c) => (
                  <li key={c.chain_id + c.start_id}>
                    {c.chain}: {c.start} to {c.end} <strong>{c.links}</strong>
                  </li>
                ))}
            </ul>
            <h2>Marks agree again after</h2>
            <ul>
              {b.turns.map((t) => (
                <li key={t.part}>
                  {t.name}: <strong>{t.turns}</strong> crank turns
                </li>
              ))}
              <li>
                all together: <strong>{b.turns_for_all}</strong>
              </li>
            </ul>
          </section>
          <section>
            <h2>Check positions</h2>
            <ul>
              {b.positions.map((p) => (
                <li key={p.name}>
                  <strong>
                    {p.name}, {p.crank_deg}°
                  </strong>
                  {p.tool ? ` with ${p.tool}` : ""}: {p.text}
                </li>
              ))}
            </ul>
            <h2>Loose cams</h2>
            <div>{b.clearance}</div>
          </section>
        </Two>
        <div>
          {b.notice} Hands clear of chain and sprockets while anybody turns the crank; plugs out;
          forwards only; a hard stop is a valve.
        </div>
      </Page>
    </>
  );
}
