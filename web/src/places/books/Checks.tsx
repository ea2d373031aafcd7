import styled from "styled-components";
import type { Schemas } from "../../api/client";

const Row = styled.li<{ $holds: boolean }>`
  display: grid;
  grid-template-columns: 26px minmax(160px, 300px) minmax(0, 1fr);
  gap: 4px 10px;
  padding: 6px 8px;
  border-top: 1px solid var(--line);
  font-size: 15px;
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
    <ul style={{ listStyle: "none", margin: 0, padding: 0 }} aria-label="Checks of the book">
      {sorted.map((c, i) => (
        <Row key={`${c.path}${i}`} $holds={c.holds}>
          <strong style={{ color: c.holds ? "var(--enamel)" : "var(--red)" }}>
            {c.holds ? "✓" : "✕"}
            <span hidden>{c.holds ? "holds" : "fault"}</span>
          </strong>
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
    </ul>
  );
}
