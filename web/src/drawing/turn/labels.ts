export interface Named {
  id: string;
  words: string;
  x: number;
  y: number;
  /** What the words must keep clear of round their own place. */
  radius: number;
}
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}
export interface Spot {
  x: number;
  y: number;
  radius: number;
}
export interface Placed extends Named {
  box: Box;
}

const LETTER_PX = 7.6;
export const LABEL_PX = 13.5;
const TALL_PX = 17;

/**
 * Where the names of wheels stand: beside their wheel, outwards where there is room, clear of
 * chains, faces, other wheels and each other, within what is seen. Millimetres, y upwards;
 * `perPx` is the millimetres of a pixel.
 */
export function placeLabels(
  named: readonly Named[],
  spots: readonly Spot[],
  seen: Box,
  perPx: number,
): Placed[] {
  const middle = { x: seen.x + seen.width / 2, y: seen.y + seen.height / 2 };
  const placed: Placed[] = [];
  for (const item of named) {
    const size = {
      width: (item.words.length * LETTER_PX + 8) * perPx,
      height: TALL_PX * perPx,
    };
    const outwards = Math.atan2(item.y - middle.y, item.x - middle.x);
    let best: { box: Box; cost: number } | null = null;
    for (let gap = 0; gap < 6; gap++)
      for (let k = 0; k < 24; k++) {
        const aside = Math.ceil(k / 2) * (k % 2 ? 1 : -1);
        const angle = outwards + (aside * Math.PI) / 12;
        const box = beside(item, angle, size, gap * 8 * perPx);
        const cost = troubles(box, item, spots, placed, seen) * 100 + gap * 2 + Math.abs(aside);
        if (!best || cost < best.cost) best = { box, cost };
      }
    if (best) placed.push({ ...item, box: best.box });
  }
  return placed;
}

/** The box whose nearest edge lies `gap` outside an item's circle in a direction. */
function beside(
  item: Named,
  angle: number,
  { width, height }: { width: number; height: number },
  gap: number,
): Box {
  const [ux, uy] = [Math.cos(angle), Math.sin(angle)];
  const far = item.radius + gap + Math.min(width / 2 / Math.abs(ux), height / 2 / Math.abs(uy));
  return {
    x: item.x + ux * far - width / 2,
    y: item.y + uy * far - height / 2,
    width,
    height,
  };
}

function troubles(
  box: Box,
  own: Named,
  spots: readonly Spot[],
  placed: readonly Placed[],
  seen: Box,
): number {
  const outside =
    Math.max(0, seen.x - box.x) +
    Math.max(0, seen.y - box.y) +
    Math.max(0, box.x + box.width - seen.x - seen.width) +
    Math.max(0, box.y + box.height - seen.y - seen.height);
  const hit = spots.filter((s) => distance(box, s) < s.radius).length;
  const ownHit = distance(box, own) < own.radius - 0.5 ? 5 : 0;
  const crossed = placed.filter((p) => overlap(box, p.box)).length * 20;
  return outside * 2 + hit + ownHit + crossed;
}

/** How far a box is from a point; nought within it. */
export function distance(box: Box, { x, y }: { x: number; y: number }): number {
  return Math.hypot(
    Math.max(box.x - x, 0, x - box.x - box.width),
    Math.max(box.y - y, 0, y - box.y - box.height),
  );
}

export function overlap(a: Box, b: Box): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}
