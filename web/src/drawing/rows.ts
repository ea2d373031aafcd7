import styled from "styled-components";

/** Rows of a drawing with words beside it, ruled apart. */
export const Rows = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
`;

/** One of them: words and figures in columns, its plate below across all of them. */
export const Row = styled.li<{ $columns?: string }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr) ${({ $columns = "auto" }) => $columns};
  gap: 0 12px;
  align-items: baseline;
  padding: 6px 0;
  border-top: 1px solid var(--line);
`;

/** Its plate, drawn from 0 to 100 across. */
export const Plate = styled.svg<{ $high: number }>`
  grid-column: 1 / -1;
  display: block;
  width: 100%;
  height: ${({ $high }) => $high}px;
`;
