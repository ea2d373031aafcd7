import styled from "styled-components";
import type { Schemas } from "../api/client";

const Tray = styled.figure`
  margin: 0 0 10px;
  & svg {
    display: block;
    width: 100%;
    max-height: 40vh;
  }
  & figcaption {
    font-size: var(--name);
  }
`;
/** Width and height of a slot, the air between, and what the row's name takes. */
const [WIDE, HIGH, AIR, NAME] = [64, 84, 8, 26];
/** A follower from above: its pad, its neck, its seat. */
const FOLLOWER =
  "M-9 -26 H9 V-10 L6 4 V14 A8 8 0 1 1 -6 14 V4 L-9 -10 Z M-5 20 A5 5 0 1 0 5 20 A5 5 0 1 0 -5 20";

/** What is laid out in order and direction, each at the place it has in the head. */
export function OrderTray({ rows, isOut }: { rows: Schemas["TrayRow"][]; isOut: boolean }) {
  const most = Math.max(...rows.map((r) => r.slots.length));
  const [w, h] = [most * (WIDE + AIR) + AIR + 34, rows.length * (HIGH + NAME + AIR) + AIR];
  return (
    <Tray>
      <svg viewBox={`0 0 ${w} ${h}`} role="img" aria-label="The tray, front end to the left">
        <rect
          x={34}
          width={w - 34}
          height={h}
          fill="var(--sheet)"
          stroke="var(--edge)"
          strokeWidth={2}
        />
        <path d={`M28 ${h / 2} H8 M16 ${h / 2 - 8} L8 ${h / 2} L16 ${h / 2 + 8}`} {...LINE} />
        {rows.map((row, i) => (
          <g key={row.name} transform={`translate(${34 + AIR} ${AIR + i * (HIGH + NAME + AIR)})`}>
            <text y={19} fontSize={18} fill="var(--ink)">
              {row.name}
            </text>
            {row.slots.map((slot, n) => (
              <g key={slot} transform={`translate(${n * (WIDE + AIR)} ${NAME})`}>
                <rect
                  width={WIDE}
                  height={HIGH}
                  fill="var(--ground)"
                  stroke="var(--edge)"
                  strokeDasharray={isOut ? undefined : "5 4"}
                />
                <path d={FOLLOWER} transform={`translate(${WIDE / 2} 50)`} {...LINE} />
                <text x={6} y={20} fontSize={18} fontWeight={700} fill="var(--ink)">
                  {slot}
                </text>
              </g>
            ))}
          </g>
        ))}
      </svg>
      <figcaption>
        {isOut ? "Laid out" : "From the tray"} cylinder by cylinder, the front end to the left, each
        in its own direction.
      </figcaption>
    </Tray>
  );
}

const LINE = {
  fill: "none",
  stroke: "var(--ink)",
  strokeWidth: 2,
  strokeLinejoin: "round",
} as const;
