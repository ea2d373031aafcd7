import { useState, type KeyboardEvent } from "react";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { markShape } from "./turn/shapes";
import { outline } from "./turn/walk";
import { Told } from "../kit/text";

const Picture = styled.svg`
  width: 100%;
  display: block;
  [role="button"] {
    cursor: pointer;
    outline-offset: 1px;
  }
`;
const LOOK: Record<Schemas["PartState"], { color: string; mark: string; isWorth: boolean }> = {
  over: { color: "var(--red)", mark: "✕", isWorth: true },
  suspected: { color: "var(--ochre)", mark: "?", isWorth: true },
  to_renew: { color: "var(--ochre)", mark: "↻", isWorth: true },
  renewed: { color: "var(--blue)", mark: "●", isWorth: true },
  within: { color: "var(--enamel)", mark: "✓", isWorth: false },
  unknown: { color: "var(--soft)", mark: "–", isWorth: false },
};
const UNKNOWN = { state: "unknown", words: "unknown" } as const;
const States = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: 14px;
  display: grid;
  gap: 4px;
`;

/**
 * The engine seen from the chain end, drawn from the book; each part says its state when chosen.
 * Ends stand one below the other.
 */
export function DriveFace({
  face,
  states,
}: {
  face: Schemas["DrivePicture"];
  states: Schemas["PartStateOut"][];
}) {
  const [chosen, setChosen] = useState<string | null>(null);
  const stateOf = new Map(states.map((s) => [s.part, s]));
  const names = new Map<string, string>(
    [...face.chains, ...face.faces, ...face.wheels].map((p): [string, string] => [p.part, p.name]),
  );
  const known = (part: string) => stateOf.get(part) ?? { part, ...UNKNOWN };
  const look = (part: string) => LOOK[known(part).state];
  const pick = (part: string) => ({
    role: "button",
    tabIndex: 0,
    "aria-label": `${names.get(part) ?? part}: ${known(part).words}`,
    onClick: () => setChosen(part),
    onKeyDown: (e: KeyboardEvent) => (e.key === "Enter" || e.key === " ") && setChosen(part),
  });
  const worth = states.filter((s) => names.has(s.part) && LOOK[s.state].isWorth);
  const shown = chosen && !worth.some((s) => s.part === chosen) ? [...worth, known(chosen)] : worth;
  return (
    <div>
      {face.planes.map(
        ({ id, box: [x = 0, y = 0, width = 1, height = 1], seen_from, running_direction }) => (
          <Picture
            key={id}
            viewBox={`${x} ${-(y + height)} ${width} ${height}`}
            role="group"
            aria-label={`Drive seen from ${seen_from}, crank turns ${running_direction}`}
          >
            <g transform="scale(1 -1)">
              {face.chains
                .filter((c) => c.plane === id)
                .map((c) => (
                  <path
                    key={c.part}
                    d={outline(c.forward)}
                    fill="none"
                    stroke={look(c.part).color}
                    strokeWidth={chosen === c.part ? 9 : 5}
                    strokeDasharray={c.is_second_bank ? "14 5" : undefined}
                    {...pick(c.part)}
                  />
                ))}
              {face.faces
                .filter((f) => f.plane === id)
                .map((f) => (
                  <path
                    key={f.part}
                    d={through(f.kind === "tensioner" ? f.forward.slice(0, 2) : f.forward)}
                    fill="none"
                    stroke={look(f.part).color}
                    strokeWidth={(f.kind === "tensioner" ? 13 : 8) + (chosen === f.part ? 5 : 0)}
                    {...pick(f.part)}
                  />
                ))}
              {face.wheels
                .filter((w) => w.plane === id && w.kind !== "gear")
                .map((w) => (
                  <g key={w.part}>
                    <circle
                      cx={w.x}
                      cy={w.y}
                      r={w.radius - 8}
                      stroke={look(w.phaser ?? w.part).color}
                      strokeWidth={chosen === w.part ? 7 : 3.5}
                      fill={w.role === "exhaust" ? "var(--sheet)" : "var(--enamel-tint)"}
                      {...pick(w.phaser ?? w.part)}
                    />
                    <g transform={`translate(${w.x} ${w.y}) rotate(${-w.mark_clock_deg})`}>
                      <path
                        d={markShape("dot", { ...w, radius: w.radius - 6 }, 0)}
                        fill="var(--ink)"
                      />
                    </g>
                  </g>
                ))}
            </g>
          </Picture>
        ),
      )}
      <Told $tone="soft" $size={13}>
        Filled: intake and idler. Open: exhaust. Dashed: the second bank.
      </Told>
      {shown.length > 0 && (
        <States aria-label="Parts that matter now">
          {shown.map((s) => (
            <Told as="li" key={s.part} $colour={look(s.part).color}>
              <span aria-hidden>{look(s.part).mark} </span>
              <Told as="span" $tone="ink">
                {names.get(s.part)}
              </Told>
              : <strong>{s.words}</strong>
            </Told>
          ))}
        </States>
      )}
    </div>
  );
}

function through(points: number[][]): string {
  return `M${points.map((p) => p.join(" ")).join("L")}`;
}
