import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Soft } from "../kit/page";
import { Said } from "../kit/text";
import { Plate, Row, Rows } from "./rows";
import { Upright } from "./Upright";

const Figure = styled.strong`
  text-align: right;
  white-space: nowrap;
`;
const Head = styled(Soft)`
  text-align: right;
  white-space: nowrap;
`;
const COLUMNS = "62px 62px";
const degrees = (deg: number) => `${deg < -0.05 ? "−" : ""}${Math.abs(deg).toFixed(1)}°`;

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
      <Row $columns={COLUMNS}>
        <Soft as="span">late, crank degrees</Soft>
        <Head as="span">read</Head>
        <Head as="span">would be</Head>
      </Row>
      {expected.map((e) => (
        <Row $columns={COLUMNS} key={e.reading} title={e.words}>
          <span>
            {e.name}
            {e.is_off && <Said $tone="stop">: does not fit</Said>}
          </span>
          <Figure>{degrees(e.read_deg)}</Figure>
          <Figure>{degrees(e.deg)}</Figure>
          <Plate $high={22} viewBox="0 0 100 22" preserveAspectRatio="none" aria-hidden>
            <Upright at={at(0)} high={22} />
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
          </Plate>
        </Row>
      ))}
      <li>
        <Soft>Plate: as it was read. Blue: where this would put it, nine times in ten.</Soft>
      </li>
    </Rows>
  );
}
