import type { Schemas } from "../api/client";

type Face = Schemas["DrivePicture"];
type Point = readonly [number, number];
/** The nearest a picture comes: this share of the engine's width and height. */
const LEAST = 0.5;
const AIR_MM = 45;
/** Arcs round a wheel; a larger one is a chain along a guide, and its circle far away. */
const WHEEL_MM = 120;

/** The same face, its planes drawn as near as the parts the work is about allow. */
export function nearTo(face: Face, about: readonly string[]): Face {
  if (!about.length) return face;
  const planes = face.planes.flatMap((plane) => {
    const points = pointsOf(face, plane.id, about);
    return points.length ? [{ ...plane, box: around(plane.box as Box, points) }] : [];
  });
  return planes.length ? { ...face, planes } : face;
}

type Box = [number, number, number, number];

function around([left, low, wide, high]: Box, points: readonly Point[]): Box {
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => p[1]);
  const span = (values: number[], start: number, whole: number): [number, number] => {
    const [a, b] = [Math.min(...values) - AIR_MM, Math.max(...values) + AIR_MM];
    const size = Math.min(whole, Math.max(b - a, whole * LEAST));
    const from = (a + b) / 2 - size / 2;
    return [Math.max(start, Math.min(from, start + whole - size)), size];
  };
  const [x, w] = span(xs, left, wide);
  const [y, h] = span(ys, low, high);
  return [x, y, w, h];
}

function pointsOf(face: Face, plane: string, about: readonly string[]): Point[] {
  const points: Point[] = [];
  for (const wheel of face.wheels)
    if (
      wheel.plane === plane &&
      (about.includes(wheel.part) || (wheel.phaser && about.includes(wheel.phaser)))
    ) {
      for (const k of [-1, 1])
        points.push([wheel.x + k * wheel.radius, wheel.y + k * wheel.radius]);
    }
  for (const part of face.faces)
    if (part.plane === plane && about.includes(part.part))
      for (const [x, y] of [...part.forward, ...part.liner] as [number, number][])
        points.push([x, y]);
  for (const chain of face.chains)
    if (chain.plane === plane && about.includes(chain.part))
      for (const piece of chain.forward) {
        if (piece.line) {
          const [x1, y1, x2, y2] = piece.line as [number, number, number, number];
          points.push([x1, y1], [x2, y2]);
        }
        if (piece.arc) {
          const [x, y, r] = piece.arc as [number, number, number];
          if (r < WHEEL_MM) points.push([x - r, y - r], [x + r, y + r]);
        }
      }
  return points;
}
