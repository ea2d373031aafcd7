import styled from "styled-components";
import type { Schemas } from "../api/client";

const Part = styled.svg`
  display: block;
  width: 100%;
  max-height: 190px;
  background: var(--sheet);
  border: 1px solid var(--line);
`;
const [WIDE, HIGH, LEFT, LOW] = [560, 190, 46, 26];

export interface Curve {
  angle_deg: readonly number[];
  torque_nm: readonly number[];
}
interface Props {
  /** The bolt that is tightened, or was tightened last. */
  curve: Curve;
  judged: Schemas["Judged"] | undefined;
  /** Those of the same part that were tightened before. */
  others: readonly Curve[];
  target: number;
}

/** Torque over the angle turned on: this bolt, its neighbours behind it, and what it is to reach. */
export function Tightening({ curve, judged, others, target }: Props) {
  const all = [curve, ...others];
  const most = Math.max(target * 1.15, ...all.map((c) => Math.max(0, ...c.torque_nm)));
  const far = Math.max(60, ...all.map((c) => Math.max(0, ...c.angle_deg)));
  const x = (deg: number) => LEFT + (deg / far) * (WIDE - LEFT - 8);
  const y = (nm: number) => HIGH - LOW - (nm / most) * (HIGH - LOW - 8);
  const line = (c: Curve) =>
    c.angle_deg
      .map((deg, i) => `${x(deg).toFixed(1)},${y(c.torque_nm[i] ?? 0).toFixed(1)}`)
      .join(" ");
  const points = judged
    ? ([
        ["snug", judged.snug],
        ["yield", judged.yields],
      ] as const)
    : [];
  return (
    <Part viewBox={`0 0 ${WIDE} ${HIGH}`} role="img" aria-label="Torque over angle">
      <line
        x1={LEFT}
        x2={WIDE}
        y1={y(target)}
        y2={y(target)}
        stroke="var(--enamel)"
        strokeDasharray="6 4"
      />
      <text x={LEFT - 4} y={y(target) + 5} textAnchor="end" fontSize="15" fill="var(--ink)">
        {target}
      </text>
      <line x1={LEFT} x2={WIDE} y1={y(0)} y2={y(0)} stroke="var(--edge)" />
      <text x={LEFT} y={HIGH - 6} fontSize="15" fill="var(--soft)">
        Nm over degrees turned on
      </text>
      <text x={WIDE - 4} y={HIGH - 6} fontSize="15" fill="var(--soft)" textAnchor="end">
        {Math.round(far)}°
      </text>
      {others.map((c, i) => (
        <polyline key={i} points={line(c)} fill="none" stroke="var(--line)" strokeWidth="2" />
      ))}
      <polyline
        points={line(curve)}
        fill="none"
        stroke={judged && !judged.sound ? "var(--red)" : "var(--blue)"}
        strokeWidth="3"
      />
      {points.map(
        ([name, at]) =>
          at && (
            <g key={name}>
              <circle cx={x(at.angle_deg)} cy={y(at.torque_nm)} r="5" fill="var(--ink)" />
              <text
                x={x(at.angle_deg) + 9}
                y={y(at.torque_nm) + 16}
                fontSize="15"
                fill="var(--ink)"
              >
                {name}
              </text>
            </g>
          ),
      )}
    </Part>
  );
}
