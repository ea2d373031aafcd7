import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Soft } from "../kit/page";
import { Said } from "../kit/text";

const Steps = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Step = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 12px;
  align-items: baseline;
  padding: 6px 0;
  border-top: 1px solid var(--line);
`;
const Way = styled.svg`
  grid-column: 1 / -1;
  display: block;
  width: 100%;
  height: 12px;
`;
// Odds of a thousand to one reach the end.
const FARTHEST = Math.log(1000);

/**
 * What each reading does to a suspect's odds, the others known: from the middle to the right where
 * it speaks for it, to the left where it speaks against it.
 */
export function Walk({ evidence }: { evidence: Schemas["Evidence"][] }) {
  if (!evidence.length) return <Soft>No reading moves its odds.</Soft>;
  return (
    <Steps>
      {evidence.map((e) => {
        const far = (Math.min(Math.abs(e.log_factor), FARTHEST) / FARTHEST) * 50;
        return (
          <Step key={e.reading + e.about}>
            <span>
              {e.about} <Soft as="span">{e.number}</Soft>
            </span>
            <Said $isWhole>{e.words}</Said>
            <Way viewBox="0 0 100 12" preserveAspectRatio="none" aria-hidden>
              <rect
                x={e.is_for ? 50 : 50 - far}
                y={2}
                width={far}
                height={8}
                fill={e.is_for ? "var(--ink)" : "var(--steel-light)"}
              />
              <path
                d="M50 0V12"
                stroke="var(--edge)"
                strokeWidth={1.4}
                vectorEffect="non-scaling-stroke"
              />
            </Way>
          </Step>
        );
      })}
    </Steps>
  );
}
