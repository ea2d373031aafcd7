import type { Schemas } from "../../api/client";

type Piece = Schemas["Piece"];

/** A closed path that can be walked along in links. */
export interface Walk {
  pieces: Piece[];
  ends: number[];
  total: number;
}

export function walkOf(pieces: Piece[]): Walk {
  let total = 0;
  const ends = pieces.map((p) => (total += p.links));
  return { pieces, ends, total };
}

/** Points of a chain's pins: pin k stands half a link before link k. `at` gets x and y of each. */
export function pins(walk: Walk, count: number, first: number, at: Float64Array): void {
  const scale = walk.total / count;
  let s = (((first % count) + count) % count) * scale;
  let piece = walk.ends.findIndex((end) => s < end);
  if (piece < 0) piece = 0;
  for (let k = 0; k < count; k++) {
    while (s >= (walk.ends[piece] ?? Infinity)) {
      piece += 1;
      if (piece === walk.pieces.length) {
        piece = 0;
        s -= walk.total;
      }
    }
    const p = walk.pieces[piece];
    if (!p) return;
    const share = p.links > 0 ? 1 - ((walk.ends[piece] ?? 0) - s) / p.links : 0;
    if (p.arc) {
      const [cx = 0, cy = 0, r = 0, from = 0, to = 0] = p.arc;
      const angle = from + (to - from) * share;
      at[2 * k] = cx + r * Math.cos(angle);
      at[2 * k + 1] = cy + r * Math.sin(angle);
    } else if (p.line) {
      const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = p.line;
      at[2 * k] = x0 + (x1 - x0) * share;
      at[2 * k + 1] = y0 + (y1 - y0) * share;
    }
    s += scale;
  }
}

export const tenth = (v: number) => Math.round(v * 10) / 10;
