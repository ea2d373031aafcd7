import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { PlainList, Said } from "../../kit/text";

const Row = styled.li<{ $holds: boolean }>`
  display: grid;
  grid-template-columns: 26px minmax(160px, 300px) minmax(0, 1fr);
  gap: 4px 10px;
  padding: 6px 8px;
  border-top: 1px solid var(--line);
  font-size: var(--note);
  ${({ $holds }) => !$holds && "background: var(--red-tint);"}
  code {
    font: inherit;
    color: var(--soft);
    overflow-wrap: anywhere;
  }
  @media (max-width: 800px) {
    grid-template-columns: 26px minmax(0, 1fr);
    > :last-child {
      grid-column: 2;
    }
  }
`;

/** Checks of a book, faults first: where, what was found, what was expected. */
export function Checks({ checks }: { checks: Schemas["BookCheckLine"][] }) {
  const sorted = [...checks].sort((a, b) => Number(a.holds) - Number(b.holds));
  return (
    <PlainList aria-label="Checks of the book">
      {sorted.map((c, i) => (
        <Row key={`${c.path}${i}`} $holds={c.holds}>
          <Said $tone={c.holds ? "fine" : "stop"}>
            {c.holds ? "✓" : "✕"}
            <span hidden>{c.holds ? "holds" : "fault"}</span>
          </Said>
          <code>{c.path}</code>
          <span>
            {c.found}
            {!c.holds && c.expected && (
              <>
                <br />
                <strong>expected: {c.expected}</strong>
              </>
            )}
          </span>
        </Row>
      ))}
    </PlainList>
  );
}
