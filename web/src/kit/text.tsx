import styled from "styled-components";

/** What a colour says; the theme says which colour it is. */
export type Tone = "ink" | "soft" | "fine" | "care" | "stop" | "measured";
const COLOUR: Record<Tone, string> = {
  ink: "var(--ink)",
  soft: "var(--soft)",
  fine: "var(--enamel)",
  care: "var(--ochre)",
  stop: "var(--red)",
  measured: "var(--blue)",
};

interface Looks {
  $tone?: Tone;
  /** A colour that a table of states gave. */
  $colour?: string;
  $size?: number;
  $isWhole?: boolean;
}

/** Words that weigh: in the colour of what they say, on a line of their own where asked. */
export const Said = styled.strong<Looks>`
  color: ${({ $tone, $colour }) => $colour ?? ($tone ? COLOUR[$tone] : "inherit")};
  ${({ $size }) => $size && `font-size: ${$size}px;`}
  ${({ $isWhole }) => $isWhole && "white-space: nowrap;"}
`;
/** The same on a line of its own. */
export const SaidAlone = styled(Said)`
  display: block;
`;
/** Words of ordinary weight in a colour or size. */
export const Told = styled.div<Looks>`
  color: ${({ $tone, $colour }) => $colour ?? ($tone ? COLOUR[$tone] : "inherit")};
  ${({ $size }) => $size && `font-size: ${$size}px;`}
  ${({ $isWhole }) => $isWhole && "white-space: nowrap;"}
`;
/** A list that shows no marks. */
export const PlainList = styled.ul<{ $gap?: string }>`
  list-style: none;
  margin: 0;
  padding: 0;
  ${({ $gap }) => $gap && `display: grid; gap: ${$gap};`}
`;
/** Two things at the ends of a line. */
export const Ends = styled.div<{ $align?: "center" | "baseline"; $keeps?: boolean }>`
  display: flex;
  flex-wrap: ${({ $keeps }) => ($keeps ? "nowrap" : "wrap")};
  justify-content: space-between;
  align-items: ${({ $align }) => $align ?? "baseline"};
  gap: 8px 12px;
`;
/** As many columns of at least so many px as there is room for. */
export const Tiles = styled.div<{ $least: number; $gap?: string; $fits?: boolean }>`
  display: grid;
  grid-template-columns: repeat(
    ${({ $fits }) => ($fits ? "auto-fit" : "auto-fill")},
    minmax(min(100%, ${({ $least }) => $least}px), 1fr)
  );
  gap: ${({ $gap }) => $gap ?? "12px"};
`;
/** What takes the whole width of the grid it stands in. */
export const Across = styled.div`
  grid-column: 1 / -1;
  min-width: 0;
`;
/** One of several told below each other, under a line. */
export const Ruled = styled.div`
  border-top: 1px solid var(--line);
  padding-top: 6px;
`;
/** What takes the width that is left in a line. */
export const Rest = styled.div<{ $least?: number }>`
  flex: 1 1 ${({ $least }) => $least ?? 0}px;
  min-width: 0;
`;
