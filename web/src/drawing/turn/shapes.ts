import type { Schemas } from "../../api/client";
import { tenth } from "./walk";

type Wheel = Schemas["WheelPicture"];

export const rad = (deg: number) => (deg * Math.PI) / 180;
const point = (r: number, clock: number) =>
  `${tenth(r * Math.sin(rad(clock)))} ${tenth(r * Math.cos(rad(clock)))}`;

const line = (...points: string[]) => `M${points.join("L")}`;

/** A toothed wheel about its own centre, its marked tooth at twelve o'clock. */
export function teeth(wheel: Wheel): string {
  const step = 360 / wheel.teeth;
  const pitch = (2 * Math.PI * wheel.radius) / wheel.teeth;
  const [tip, root] =
    wheel.kind === "gear"
      ? [wheel.radius + 0.25 * pitch, wheel.radius - 0.32 * pitch]
      : [wheel.radius + 0.1 * pitch, wheel.radius - 0.34 * pitch];
  const corners: string[] = [];
  for (let k = 0; k < wheel.teeth; k++) {
    const at = k * step;
    corners.push(
      point(root, at - 0.3 * step),
      point(tip, at - 0.14 * step),
      point(tip, at + 0.14 * step),
      point(root, at + 0.3 * step),
    );
  }
  return `M${corners.join("L")}Z`;
}

/** An arc of a ring about the origin, by clock positions. */
export function ring(r: number, from: number, to: number): string {
  const sweep = to - from;
  if (Math.abs(sweep) >= 359.9)
    return `${ring(r, from, from + 180)}${ring(r, from + 180, from + 359.8)}`;
  // In a picture with y upwards a clockwise arc runs against the drawing's own sense of rotation.
  const [isLong, sense] = [Math.abs(sweep) > 180 ? 1 : 0, sweep > 0 ? 0 : 1];
  return `M${point(r, from)}A${tenth(r)} ${tenth(r)} 0 ${isLong} ${sense} ${point(r, to)}`;
}

/** The shape of a mark on a wheel, at `offset` from the marked tooth. */
export function markShape(form: string, wheel: Wheel, offset: number): string {
  const r = wheel.radius;
  const pitch = (2 * Math.PI * r) / wheel.teeth;
  const inner = Math.max(6, r * 0.3);
  switch (form) {
    case "line":
      return `M${point(r * 0.72, offset)}L${point(r - 0.3 * pitch, offset)}`;
    case "keyway":
      return `${line(
        point(inner * 0.75, offset - 14),
        point(inner * 1.25, offset - 9),
        point(inner * 1.25, offset + 9),
        point(inner * 0.75, offset + 14),
      )}Z`;
    case "notch":
      return line(
        point(r - 0.35 * pitch, offset - 5),
        point(r * 0.78, offset),
        point(r - 0.35 * pitch, offset + 5),
      );
    case "flat":
      return `M${point(r * 0.6, offset - 20)}L${point(r * 0.6, offset + 20)}`;
    case "rotor":
      return (
        line(point(4, offset + 180), point(r * 0.85, offset)) +
        line(point(r * 0.7, offset - 7), point(r * 0.85, offset), point(r * 0.7, offset + 7))
      );
    case "dowel":
      return dot(inner * 1.2, offset, 2.2);
    default:
      return dot(r - 0.85 * pitch, offset, Math.max(2, Math.min(3.4, r * 0.07)));
  }
}

function dot(r: number, clock: number, size: number): string {
  const [x, y] = [r * Math.sin(rad(clock)), r * Math.cos(rad(clock))];
  const half = (to: number) => `a${size} ${size} 0 1 0 ${to} 0`;
  return `M${tenth(x - size)} ${tenth(y)}${half(2 * size)}${half(-2 * size)}Z`;
}

/** A pointer outside a wheel, showing where a mark must stand. */
export function pointer(wheel: Wheel, clock: number): string {
  const pitch = (2 * Math.PI * wheel.radius) / wheel.teeth;
  const near = wheel.radius + 0.75 * pitch;
  return `M${point(near, clock)}L${point(near + 9, clock - 4)}L${point(near + 9, clock + 4)}Z`;
}

/** Pins as small squares: round ends would cost a third of the frames. */
export function pinDots(at: Float64Array): string {
  let d = "";
  for (let i = 0; i < at.length; i += 2)
    d += `M${tenth((at[i] ?? 0) - 0.7)} ${tenth(at[i + 1] ?? 0)}h1.4`;
  return d;
}

/** A line through points. */
export function through(points: number[][]): string {
  return points.length ? line(...points.map((p) => p.map((v) => v.toFixed(1)).join(" "))) : "";
}

/** Notches across a plunger from its mouth to its tip, every `notch` mm, half as wide as it is. */
export function notches(mouth: number[], tip: number[], notch: number, half: number): string {
  const [x0 = 0, y0 = 0] = mouth;
  const [dx, dy] = [(tip[0] ?? 0) - x0, (tip[1] ?? 0) - y0];
  const long = Math.hypot(dx, dy);
  if (long < notch) return "";
  const [ux, uy] = [dx / long, dy / long];
  return Array.from({ length: Math.floor(long / notch) }, (_, i) => {
    const [x, y] = [x0 + ux * notch * (i + 0.5), y0 + uy * notch * (i + 0.5)];
    return `M${tenth(x)} ${tenth(y)}L${tenth(x - uy * half)} ${tenth(y + ux * half)}`;
  }).join("");
}

/** A line that has gone over from `a` to `b` by `share`. */
export function between(a: number[][], b: number[][], share: number): string {
  return through(
    share > 0 && a.length === b.length
      ? a.map((p, i) => p.map((v, j) => v * (1 - share) + (b[i]?.[j] ?? v) * share))
      : share > 0.5
        ? b
        : a,
  );
}
