import { useMemo } from "react";
import type { Schemas } from "../../api/client";
import { LABEL_PX, placeLabels, type Box, type Spot } from "./labels";
import type { DriveDrawing } from "./drawing";
import { rad } from "./shapes";

interface Props {
  drawing: DriveDrawing;
  wheels: readonly Schemas["WheelPicture"][];
  seen: Box;
  perPx: number;
}

/** The name of every shaft beside its largest wheel: cams by role and cylinders. */
export function Labels({ drawing, wheels, seen, perPx }: Props) {
  const { picture, plane } = drawing;
  const placed = useMemo(() => {
    const shafts = new Map(picture.shafts.map((s) => [s.id, s.name]));
    const largest = wheels.filter(
      (w) => !wheels.some((o) => o.shaft === w.shaft && o.radius > w.radius),
    );
    const once = largest.filter((w, i) => largest.findIndex((o) => o.shaft === w.shaft) === i);
    const named = once.map((w) => ({
      id: w.part,
      words: w.label || shafts.get(w.shaft) || w.name,
      x: w.x,
      y: w.y,
      radius: w.radius + (picture.shafts.find((s) => s.id === w.shaft)?.kind === "crank" ? 34 : 6),
    }));
    const spots: Spot[] = [
      ...wheels.map((w) => ({ x: w.x, y: w.y, radius: w.radius + 5 })),
      ...drawing.chains.flatMap(({ at, chain }) =>
        Array.from({ length: chain.links }, (_, k) => ({
          x: at[2 * k] ?? 0,
          y: at[2 * k + 1] ?? 0,
          radius: 0.7 * chain.pitch_mm,
        })),
      ),
      ...picture.marks.flatMap((m) => {
        const w = wheels.find((o) => o.part === m.wheel);
        return m.is_timing && w ? [pointedAt(w, m.clock_deg)] : [];
      }),
      ...picture.faces
        .filter((f) => f.plane === plane)
        .flatMap((f) =>
          dense(f.forward).map(([x, y]) => ({ x, y, radius: f.kind === "tensioner" ? 13 : 9 })),
        ),
    ];
    return placeLabels(named, spots, seen, perPx);
  }, [drawing, picture, plane, wheels, seen, perPx]);
  return (
    <g aria-hidden pointerEvents="none" data-labels fontSize={LABEL_PX * perPx} fill="var(--ink)">
      {placed.map(({ id, words, box }) => (
        <text
          key={id}
          transform={`translate(${box.x + box.width / 2} ${box.y + box.height * 0.28}) scale(1 -1)`}
          textAnchor="middle"
          stroke="var(--sheet)"
          strokeWidth={4 * perPx}
          paintOrder="stroke"
        >
          {words}
        </text>
      ))}
    </g>
  );
}

/** Where the pointer of a mark stands, outside its wheel. */
function pointedAt(w: Schemas["WheelPicture"], clock: number): Spot {
  const far = w.radius + (1.5 * Math.PI * w.radius) / w.teeth + 5;
  return { x: w.x + far * Math.sin(rad(clock)), y: w.y + far * Math.cos(rad(clock)), radius: 7 };
}

/** Points along a line, no further than 8 mm apart. */
function dense(line: number[][]): [number, number][] {
  return line.flatMap(([x = 0, y = 0], i): [number, number][] => {
    const [x1 = x, y1 = y] = line[i + 1] ?? [x, y];
    const n = Math.max(1, Math.ceil(Math.hypot(x1 - x, y1 - y) / 8));
    return Array.from({ length: n }, (_, k): [number, number] => [
      x + ((x1 - x) * k) / n,
      y + ((y1 - y) * k) / n,
    ]);
  });
}
