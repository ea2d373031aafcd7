import { useState, type KeyboardEvent } from "react";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Soft } from "../kit/page";

const Picture = styled.svg`
  width: 100%; display: block;
  [role="button"] { cursor: pointer; outline-offset: 1px; }
`;
const LOOK: Record<string, { color: string; mark: string }> = {
  "over the limit": { color: "var(--red)", mark: "✕" },
  suspected: { color: "var(--ochre)", mark: "?" },
  "to renew": { color: "var(--ochre)", mark: "↻" },
  renewed: { color: "var(--blue)", mark: "●" },
  "within limit": { color: "var(--enamel)", mark: "✓" },
  unknown: { color: "var(--soft)", mark: "–" },
};
const States = styled.ul`list-style: none; margin: 0; padding: 0; font-size: 14px; display: grid; gap: 4px;`;

type Line = Schemas["FaceLine"];

/** The engine seen from the chain end, drawn from the book; each part says its state when chosen. */
export function DriveFace({ face, states }: { face: Schemas["DriveFace"]; states: Schemas["PartState"][] }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const stateOf = new Map(states.map((s) => [s.part, s.state]));
  const names = new Map<string, string>([...face.lines.map((l): [string, string] => [l.part, l.name]), ...face.discs.map((d): [string, string] => [d.part, d.name])]);
  const { x, y, width, height } = face.box;
  const look = (part: string) => LOOK[stateOf.get(part) ?? "unknown"] ?? { color: "var(--soft)", mark: "–" };
  const pick = (part: string) => ({
    role: "button",
    tabIndex: 0,
    "aria-label": `${names.get(part) ?? part}: ${stateOf.get(part) ?? "unknown"}`,
    onClick: () => setChosen(part),
    onKeyDown: (e: KeyboardEvent) => (e.key === "Enter" || e.key === " ") && setChosen(part),
  });
  const worth = states.filter((s) => names.has(s.part) && !["unknown", "within limit"].includes(s.state));
  const shown = chosen && !worth.some((s) => s.part === chosen) ? [...worth, { part: chosen, state: stateOf.get(chosen) ?? "unknown" }] : worth;
  return (
    <div>
      <Picture viewBox={`${x} ${-(y + height)} ${width} ${height}`} role="group" aria-label={`Drive seen from ${face.seen_from}, crank turns ${face.running_direction}`}>
        <g transform="scale(1 -1)">
          {face.lines.map((line) => (
            <path
              key={line.part} d={outline(line)} fill="none" stroke={look(line.part).color} {...pick(line.part)} {...stroke(line, chosen === line.part)}
            />
          ))}
          {face.discs.map((d) => (
            <g key={d.part}>
              <circle
                cx={d.x} cy={d.y} r={d.radius - 8} stroke={look(d.phaser ?? d.part).color} strokeWidth={chosen === d.part ? 7 : 3.5}
                fill={d.role === "exhaust" ? "var(--sheet)" : "var(--enamel-tint)"} {...pick(d.phaser ?? d.part)}
              />
              <circle cx={d.x + (d.radius - 14) * Math.sin(rad(d.mark_clock_deg))} cy={d.y + (d.radius - 14) * Math.cos(rad(d.mark_clock_deg))} r={4} fill="var(--ink)" />
            </g>
          ))}
        </g>
      </Picture>
      <Soft style={{ fontSize: 12 }}>Filled: intake and idler. Open: exhaust. Dashed: bank B.</Soft>
      {shown.length > 0 && (
        <States aria-label="Parts that matter now">
          {shown.map((s) => (
            <li key={s.part} style={{ color: look(s.part).color }}>
              <span aria-hidden>{look(s.part).mark} </span>
              <span style={{ color: "var(--ink)" }}>{names.get(s.part)}</span>: <strong>{s.state}</strong>
            </li>
          ))}
        </States>
      )}
    </div>
  );
}

function rad(deg: number) {
  return (deg * Math.PI) / 180;
}

function outline(line: Line): string {
  return `M${line.points.map((p) => p.join(" ")).join("L")}${line.closed ? "Z" : ""}`;
}

function stroke(line: Line, isChosen: boolean) {
  if (line.kind === "chain") return { strokeWidth: isChosen ? 9 : 5, strokeDasharray: line.bank === "B" ? "14 5" : undefined };
  if (line.kind === "tensioner") return { strokeWidth: isChosen ? 18 : 13 };
  return { strokeWidth: isChosen ? 13 : 8 };
}
