import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { bandOf, Gauge, type Band } from "../../drawing/Gauge";
import { Sheet, Soft } from "../../kit/page";
import { Told } from "../../kit/text";

const Board = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(205px, 1fr));
  gap: 4px 26px;
`;
const Tile = styled(Link)`
  display: grid;
  gap: 3px;
  align-content: start;
  height: 100%;
  min-height: 92px;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
  color: inherit;
  text-decoration: none;
  &:hover strong:first-child {
    text-decoration: underline;
  }
`;
const Value = styled.strong`
  font-size: var(--bench);
  line-height: 1.1;
`;
/**
 * What can be measured by hand, and what was: the last answer of each sheet is the largest thing on
 * its tile.
 */
export function SheetBoard({
  id,
  sheets,
  readings,
}: {
  id: number;
  sheets: Schemas["Worksheet"][];
  readings: Schemas["ReadingOut"][];
}) {
  return (
    <Sheet>
      <h2>By hand and by eye</h2>
      <Board>
        {sheets.map((s) => {
          const taken = readings.filter((r) => r.kind === s.kind && r.struck === null);
          const last = taken[taken.length - 1];
          const band = bandOf(last?.band);
          return (
            <li key={s.kind}>
              <Tile to={`/jobs/${id}/readings/sheet/${s.kind}`}>
                <strong>{s.title}</strong>
                {last ? (
                  <>
                    <Value>{last.figure || band?.word}</Value>
                    <Soft>
                      {last.part_name}
                      {taken.length > 1 ? ` and ${taken.length - 1} more` : ""}
                    </Soft>
                    {last.of_limit !== null && (
                      <Gauge share={last.of_limit} band={last.band as Band} />
                    )}
                    {band && last.figure && last.band !== "unknown" && (
                      <Told $size={15} $tone={band.tone}>
                        {band.word}
                      </Told>
                    )}
                  </>
                ) : (
                  <Soft>not done, about {s.minutes} min</Soft>
                )}
              </Tile>
            </li>
          );
        })}
      </Board>
    </Sheet>
  );
}
