const WAIST = 0.24; // of a quadratic's control point: the sides draw in to 0.62 at the middle

/**
 * A link plate between two pins, as an SVG path: a half circle of half the width round each pin,
 * joined by sides that draw in to 0.62 of the width at the middle.
 */
export function plate(ax: number, ay: number, bx: number, by: number, width: number): string {
  const long = Math.hypot(bx - ax, by - ay) || 1;
  const r = width / 2;
  const [px, py] = [(-(by - ay) / long) * r, ((bx - ax) / long) * r];
  const [mx, my] = [(ax + bx) / 2, (ay + by) / 2];
  const [wx, wy] = [px * WAIST, py * WAIST];
  const end = `A${cut(r)} ${cut(r)} 0 0 1 `;
  return (
    `M${cut(ax - px)} ${cut(ay - py)}Q${cut(mx - wx)} ${cut(my - wy)} ${cut(bx - px)} ` +
    `${cut(by - py)}${end}${cut(bx + px)} ${cut(by + py)}Q${cut(mx + wx)} ${cut(my + wy)} ` +
    `${cut(ax + px)} ${cut(ay + py)}${end}${cut(ax - px)} ${cut(ay - py)}Z`
  );
}

const cut = (v: number) => Math.round(v * 10) / 10;
