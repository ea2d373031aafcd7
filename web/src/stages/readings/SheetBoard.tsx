import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Sheet, Soft } from "../../kit/page";
import { Told } from "../../kit/text";

const Board = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(205px, 1fr));
  gap: 10px;
`;
const Tile = styled(Link)`
  display: grid;
  gap: 3px;
  align-content: start;
  height: 100%;
  min-height: 92px;
  padding: 10px 12px;
  border: 1px solid var(--line);
  color: inherit;
  text-decoration: none;
  background: var(--ground);
  &:hover {
    border-color: var(--enamel);
    box-shadow: inset 0 0 0 1px var(--enamel);
  }
`;
const Value = styled.strong`
  font-size: 24px;
  line-height: 1.1;
`;
export const BANDS: Record<string, { mark: string; colour: string; word: string }> = {
  fine: { mark: "○", colour: "var(--enamel)", word: "fine" },
  marginal: { mark: "▲", colour: "var(--ochre)", word: "marginal" },
  replace: { mark: "■", colour: "var(--red)", word: "replace" },
  unknown: { mark: "?", colour: "var(--soft)", word: "not judged" },
};

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
          const band = BANDS[last?.band ?? ""];
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
                    {band && last.figure && last.band !== "unknown" && (
                      <Told $size={14} $colour={band.colour}>
                        {band.mark} {band.word}
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
