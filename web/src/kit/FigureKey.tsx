import { Button as Key } from "react-aria-components";
import styled from "styled-components";

/** One key of a pad of figures, for a hand in a glove. */
export const Press = styled(Key)`
  min-height: 64px;
  border: 1.5px solid var(--edge);
  background: var(--ground);
  font-size: 28px;
  font-weight: 700;
  cursor: pointer;
  &[data-pressed] {
    background: var(--enamel-tint);
  }
  &[data-wide] {
    font-size: var(--name);
    grid-column: span 2;
  }
  &[data-focus-visible] {
    outline: 3px solid var(--blue);
  }
  &[data-back] {
    font-size: var(--name);
  }
`;
