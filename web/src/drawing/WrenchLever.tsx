import type { Schemas } from "../api/client";

const [WIDE, HIGH, ROOM] = [640, 190, 56];

/**
 * A wrench with its adapter, seen along the bolt: from the middle of the grip to the pivot, and
 * from there to the fastener; below it the lever that works.
 */
export function WrenchLever({ setting }: { setting: Schemas["Setting"] }) {
  const { length_mm, offset_mm, angle_deg, lever_mm } = setting;
  const turn = (angle_deg * Math.PI) / 180;
  const tip = { x: offset_mm * Math.cos(turn), y: -offset_mm * Math.sin(turn) };
  const left = Math.min(0, tip.x) - 12;
  const right = Math.max(length_mm, length_mm + tip.x) + 12;
  const scale = (WIDE - 2 * ROOM) / (right - left);
  const middle = HIGH * 0.4;
  // The grip stands left, the wrench points to the right.
  const x = (mm: number) => ROOM + (mm - left) * scale;
  const y = (mm: number) => Math.max(20, Math.min(HIGH - 70, middle + mm * scale));
  const [pivot, end] = [x(length_mm), { x: x(length_mm + tip.x), y: y(tip.y) }];
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} role="img" aria-label="The wrench with its adapter">
      <path
        d={`M${x(0)} ${middle}H${pivot}`}
        stroke="var(--steel)"
        strokeWidth={14}
        strokeLinecap="round"
      />
      <path
        d={`M${x(0) - 26} ${middle}H${x(0) + 26}`}
        stroke="var(--ink)"
        strokeWidth={22}
        strokeLinecap="round"
      />
      <path
        d={`M${pivot} ${middle}L${end.x} ${end.y}`}
        stroke="var(--copper)"
        strokeWidth={12}
        strokeLinecap="round"
      />
      <circle
        cx={pivot}
        cy={middle}
        r={9}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth={3}
      />
      <circle cx={end.x} cy={end.y} r={13} fill="var(--pen)" stroke="var(--ink)" strokeWidth={3} />
      <path
        d={`M${x(0)} ${HIGH - 44}V${HIGH - 24}M${end.x} ${HIGH - 44}V${HIGH - 24}M${x(0)} ${HIGH - 34}H${end.x}`}
        stroke="var(--ink)"
        strokeWidth={2}
        fill="none"
      />
      <text
        x={(x(0) + end.x) / 2}
        y={HIGH - 4}
        textAnchor="middle"
        fontSize={20}
        fontWeight={700}
        fill="var(--ink)"
      >
        {lever_mm.toFixed(0)} mm of lever
      </text>
    </svg>
  );
}
