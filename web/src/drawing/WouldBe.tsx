import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Soft } from "../kit/page";
import { Said } from "../kit/text";

const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Row = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 12px;
  align-items: baseline;
  padding: 6px 0;
  border-top: 1px solid var(--line);
`;
const Line = styled.svg`
  grid-column: 1 / -1;
  display: block;
  width: 100%;
  height: 22px;
`;

/**
 * Every cam on one scale: where a suspect would put it (blue, nine times in ten, with a tick in the
 * middle) and where it was read (the plate from nought).
 */
export function WouldBe({ expected }: { expected: Schemas["WouldBe"][] }) {
  const marks = expected.flatMap((e) => [0, e.read_deg, e.low_deg, e.high_deg]);
  const low = Math.min(...marks);
  const width = Math.max(...marks) - low || 1;
  const at = (deg: number) => 1 + ((deg - low) / width) * 98;
  return (
    <Rows>
      {expected.map((e) => (
        <Row key={e.reading}>
          <span>{e.name}</span>
          <Said $isWhole $tone={e.is_off ? "stop" : undefined}>
            {e.words}
          </Said>
          <Line viewBox="0 0 100 22" preserveAspectRatio="none" aria-hidden>
            <path
              d={`M${at(0)} 0V22`}
              stroke="var(--edge)"
              strokeWidth={1}
              vectorEffect="non-scaling-stroke"
            />
            <rect
              x={at(Math.min(0, e.read_deg))}
              y={11}
              width={Math.max(0.6, at(Math.abs(e.read_deg)) - at(0))}
              height={9}
              fill="var(--steel-light)"
            />
            <path
              d={`M${at(e.low_deg)} 5H${at(e.high_deg)}M${at(e.deg)} 0.5V9.5`}
              stroke="var(--blue)"
              strokeWidth={2.2}
              vectorEffect="non-scaling-stroke"
            />
          </Line>
        </Row>
      ))}
      <li>
        <Soft>Plate: as it was read. Blue: where this would put it, nine times in ten.</Soft>
      </li>
    </Rows>
  );
}
