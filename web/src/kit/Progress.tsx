import { ProgressBar } from "react-aria-components";
import styled from "styled-components";

const Track = styled.svg`
  display: block;
  width: 100%;
  height: 14px;
  border: 1.5px solid var(--enamel);
  background: var(--sheet);
  rect {
    fill: var(--enamel);
    transition: width 0.3s;
  }
`;

/** How far something is that takes a while; `share` from nought to one. */
export function Progress({ label, share }: { label: string; share: number }) {
  const percent = Math.round(100 * Math.min(1, Math.max(0, share)));
  return (
    <ProgressBar aria-label={label} value={percent}>
      <Track viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden>
        <rect width={percent} height="10" />
      </Track>
    </ProgressBar>
  );
}
