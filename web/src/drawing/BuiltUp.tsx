import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Rows } from "./rows";
import { Upright } from "./Upright";

const Tread = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr) 176px;
  gap: 0 12px;
  align-items: center;
  min-height: 34px;
  border-top: 1px solid var(--line);
  @media (max-width: 900px) {
    grid-template-columns: minmax(0, 1fr) 176px;
  }
`;
const Plate = styled.svg`
  display: block;
  width: 100%;
  height: 26px;
  @media (max-width: 900px) {
    grid-column: 1 / -1;
    grid-row: 2;
  }
`;
const Words = styled.span`
  text-align: right;
  white-space: nowrap;
`;

/**
 * A figure built up from its causes: each plate begins where the one before ended, with its 90 %
 * interval in blue at its end; the tick is what the book allows.
 */
export function BuiltUp({ figure }: { figure: Schemas["OutOfTolerance"] }) {
  const ends = figure.causes.reduce<number[]>(
    (so, cause) => [...so, (so.at(-1) ?? 0) + cause.share],
    [],
  );
  const marks = [0, figure.value, Math.sign(figure.value) * figure.limit, ...ends];
  const low = Math.min(...marks);
  const width = (Math.max(...marks) - low || 1) * 1.06;
  const at = (deg: number) => ((deg - low) / width) * 100;
  const limit = at(Math.sign(figure.value) * figure.limit);
  return (
    <Rows aria-label={figure.words}>
      {figure.causes.map((cause, i) => {
        const begins = ends[i - 1] ?? 0;
        const ended = ends[i] ?? 0;
        return (
          <Tread key={cause.part}>
            <span>{cause.name}</span>
            <Plate viewBox="0 0 100 26" preserveAspectRatio="none" aria-hidden>
              <Upright at={at(0)} high={26} />
              <Upright at={limit} high={26} isNought={false} />
              <rect
                x={at(Math.min(begins, ended))}
                y={9}
                width={Math.max(0.6, (Math.abs(ended - begins) / width) * 100)}
                height={13}
                fill="var(--steel-light)"
              />
              <path
                d={`M${at(begins + cause.low)} 4.5H${at(begins + cause.high)}`}
                stroke="var(--blue)"
                strokeWidth={2}
                vectorEffect="non-scaling-stroke"
              />
            </Plate>
            <Words>{cause.words}</Words>
          </Tread>
        );
      })}
    </Rows>
  );
}
