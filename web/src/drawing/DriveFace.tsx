import { useMemo, useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Told } from "../kit/text";
import { Turn } from "./turn/turn";
import { TurningDrive } from "./turn/TurningDrive";

type State = Schemas["PartState"];
const LOOK: Record<State, { color: string; mark: string; isWorth: boolean }> = {
  over: { color: "var(--red)", mark: "■", isWorth: true },
  suspected: { color: "var(--ochre)", mark: "?", isWorth: true },
  to_renew: { color: "var(--ink)", mark: "↻", isWorth: true },
  renewed: { color: "var(--blue)", mark: "✓", isWorth: true },
  within: { color: "var(--enamel)", mark: "–", isWorth: false },
  unknown: { color: "var(--soft)", mark: "–", isWorth: false },
};
const UNKNOWN = { state: "unknown", words: "unknown" } as const;
const States = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  font-size: var(--note);
  display: grid;
  gap: 4px;
`;
const Frame = styled.div<{ $most: string; $shape: string }>`
  aspect-ratio: ${({ $shape }) => $shape};
  max-height: ${({ $most }) => $most};
  width: 100%;
`;

interface Props {
  face: Schemas["DrivePicture"];
  states: Schemas["PartStateOut"][];
  /** What the work is about: all else stands back. */
  about?: readonly string[];
  isLarge?: boolean;
}

/**
 * The engine seen from the chain end, drawn from the book; each part says its state when chosen.
 * Ends stand one below the other.
 */
export function DriveFace({ face, states, about, isLarge }: Props) {
  const [chosen, setChosen] = useState<string | null>(null);
  const turn = useMemo(() => new Turn(face.service_deg), [face]);
  const stateOf = new Map(states.map((s) => [s.part, s]));
  const names = new Map<string, string>(
    [...face.chains, ...face.faces, ...face.wheels].map((p): [string, string] => [p.part, p.name]),
  );
  for (const w of face.wheels) if (w.phaser && w.phaser_name) names.set(w.phaser, w.phaser_name);
  // What is known of a wheel with a phaser is known of the phaser.
  const keyOf = (part: string) => face.wheels.find((w) => w.part === part)?.phaser ?? part;
  const known = (part: string) =>
    stateOf.get(keyOf(part)) ?? stateOf.get(part) ?? { part: keyOf(part), ...UNKNOWN };
  const worth = states.filter((s) => names.has(s.part) && LOOK[s.state].isWorth);
  const shown =
    chosen && !worth.some((s) => s.part === known(chosen).part) ? [...worth, known(chosen)] : worth;
  const badges = worth.map((s) => ({
    part: s.part,
    sign: LOOK[s.state].mark,
    colour: LOOK[s.state].color,
  }));
  const most = isLarge
    ? `calc((100vh - 190px) / ${face.planes.length})`
    : `${face.planes.length > 1 ? 190 : 300}px`;
  return (
    <div>
      {face.planes.map((p) => (
        <Frame key={p.id} $most={most} $shape={`${p.box[2]} / ${p.box[3]}`}>
          <TurningDrive
            picture={face}
            lobes={[]}
            plane={p.id}
            turn={turn}
            isStill
            hasLabels={Boolean(isLarge)}
            chosen={chosen}
            onChoose={setChosen}
            about={about}
            badges={badges}
            says={(part) => `${names.get(keyOf(part)) ?? part}: ${known(part).words}`}
            label="Drive"
          />
        </Frame>
      ))}
      {shown.length > 0 && (
        <States aria-label="Parts that matter now">
          {shown.map((s) => (
            <Told as="li" key={s.part} $colour={LOOK[s.state].color}>
              <span aria-hidden>{LOOK[s.state].mark} </span>
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
