import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Soft } from "../kit/page";

const Part = styled.figure`
  margin: 0;
  display: grid;
  gap: 6px;
  & svg {
    display: block;
    width: 100%;
    max-width: 620px;
    max-height: 68vh;
  }
`;
const Lengths = styled.figcaption`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 24px;
  font-size: var(--name);
`;
/** Share of the picture's longer side that a bolt's head takes, and air round the outermost. */
const [HEAD, AIR] = [0.034, 2.2];

/**
 * Which bolt goes where: each at its place with its number in the order of tightening, the long ones
 * filled, and the wheels behind the part for finding one's way.
 */
export function BoltMap({
  map,
  isOff,
  done,
  isUnderWay,
}: {
  map: Schemas["BoltMap"];
  isOff: boolean;
  /** How many of them are through the stage that is worked on. */
  done: number;
  isUnderWay: boolean;
}) {
  const xs = map.bolts.map((b) => b.x_mm);
  const ys = map.bolts.map((b) => -b.y_mm);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const r = Math.max(wide, high) * HEAD;
  const air = r * AIR;
  const box = [left - air, top - air, wide + 2 * air, high + 2 * air];
  const order = isOff
    ? `Loosen them from ${map.bolts.length} back to 1.`
    : `Tighten them from 1 to ${map.bolts.length}.`;
  return (
    <Part>
      <svg viewBox={box.join(" ")} role="img" aria-label={`${map.name}: which goes where`}>
        <polygon
          points={outline(map.bolts)}
          fill="var(--sheet)"
          stroke="var(--edge)"
          strokeWidth={r * 0.2}
          strokeLinejoin="round"
        />
        {map.around.map((wheel) => (
          <circle
            key={wheel.name}
            cx={wheel.x_mm}
            cy={-wheel.y_mm}
            r={wheel.radius_mm}
            fill="none"
            stroke="var(--line)"
            strokeWidth={r * 0.16}
          />
        ))}
        {map.bolts.map((bolt) => (
          <g key={bolt.number} transform={`translate(${bolt.x_mm} ${-bolt.y_mm})`}>
            {isUnderWay && bolt.number === done + 1 && (
              <circle r={r * 1.75} fill="var(--pen)" stroke="var(--ink)" strokeWidth={r * 0.08} />
            )}
            <circle
              r={r}
              fill={bolt.is_long ? "var(--ink)" : "var(--sheet)"}
              stroke="var(--ink)"
              strokeWidth={r * 0.14}
            />
            <text
              textAnchor="middle"
              dy="0.36em"
              fontSize={r * 1.15}
              fontWeight={700}
              fill={bolt.is_long ? "var(--sheet)" : "var(--ink)"}
            >
              {isUnderWay && bolt.number <= done ? "✓" : bolt.number}
            </text>
          </g>
        ))}
      </svg>
      <Lengths>
        {lengths(map).map((said) => (
          <span key={said}>{said}</span>
        ))}
        <Soft as="span">{order}</Soft>
      </Lengths>
    </Part>
  );
}

/** The part as a line from bolt to bolt round its middle. */
function outline(bolts: Schemas["Bolt"][]): string {
  const [x, y] = [mean(bolts.map((b) => b.x_mm)), mean(bolts.map((b) => b.y_mm))];
  const turn = (b: Schemas["Bolt"]) => Math.atan2(b.y_mm - y, b.x_mm - x);
  return [...bolts]
    .sort((a, b) => turn(a) - turn(b))
    .map((b) => `${b.x_mm},${-b.y_mm}`)
    .join(" ");
}

const mean = (values: number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;

/** Where a kind has two lengths, which numbers have which. */
function lengths(map: Schemas["BoltMap"]): string[] {
  const long = map.bolts.filter((b) => b.is_long);
  const short = map.bolts.filter((b) => !b.is_long);
  if (!long.length) return [];
  const mm = (of: Schemas["Bolt"] | undefined) => (of?.length_mm ? `${of.length_mm} mm` : "");
  return [
    `● ${mm(long[0])}: ${long.map((b) => b.number).join(", ")}`,
    `○ ${mm(short[0])}: the other ${short.length}`,
  ];
}
