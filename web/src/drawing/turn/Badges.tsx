import type { DriveDrawing } from "./drawing";

export interface Badge {
  part: string;
  /** A sign of one letter's width, and the colour of what it says. */
  sign: string;
  colour: string;
}

/** Signs on parts: what is out of its limit, suspected, to renew, renewed. */
export function Badges({
  drawing,
  badges,
  perPx,
}: {
  drawing: DriveDrawing;
  badges: readonly Badge[];
  perPx: number;
}) {
  return (
    <g aria-hidden pointerEvents="none" fontSize={13.5 * perPx} fontWeight={700}>
      {badges.map(({ part, sign, colour }) => {
        const at = placeOf(drawing, part);
        return (
          at && (
            <g key={part} transform={`translate(${at[0]} ${at[1]}) scale(1 -1)`}>
              <circle
                r={9.5 * perPx}
                fill="var(--sheet)"
                stroke={colour}
                strokeWidth={2.2 * perPx}
              />
              <text y={4.8 * perPx} textAnchor="middle" fill={colour}>
                {sign}
              </text>
            </g>
          )
        );
      })}
    </g>
  );
}

/** Where a part's sign stands: on a wheel, in the middle of a face, on a chain's free strand. */
function placeOf({ picture, plane, chains }: DriveDrawing, part: string): [number, number] | null {
  const wheel = picture.wheels.find(
    (w) => w.plane === plane && (w.part === part || w.phaser === part),
  );
  if (wheel) return [wheel.x, wheel.y];
  const face = picture.faces.find((f) => f.plane === plane && f.part === part);
  const line = face?.kind === "tensioner" ? face.forward.slice(0, 1) : face?.forward;
  const point = line?.[Math.floor(line.length / 2)];
  if (point) return [point[0] ?? 0, point[1] ?? 0];
  const strand = chains
    .find((c) => c.chain.part === part)
    ?.chain.forward.reduce((a, b) => (a.line && (!b.line || a.links > b.links) ? a : b)).line;
  return strand ? [mean(strand[0], strand[2]), mean(strand[1], strand[3])] : null;
}
const mean = (a = 0, b = 0) => (a + b) / 2;
