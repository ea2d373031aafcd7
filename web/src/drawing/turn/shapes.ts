import type { Schemas } from "../../api/client";
import { tenth } from "./walk";

type Wheel = Schemas["WheelPicture"];

export const rad = (deg: number) => (deg * Math.PI) / 180;
const point = (r: number, clock: number) =>
  `${tenth(r * Math.sin(rad(clock)))} ${tenth(r * Math.cos(rad(clock)))}`;

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
  return `M${point(r, from)}A${tenth(r)} ${tenth(r)} 0 ${Math.abs(sweep) > 180 ? 1 : 0} ${sweep > 0 ? 0 : 1} ${point(r, to)}`;
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
      return `M${point(inner * 0.75, offset - 14)}L${point(inner * 1.25, offset - 9)}L${point(inner * 1.25, offset + 9)}L${point(inner * 0.75, offset + 14)}Z`;
    case "notch":
      return `M${point(r - 0.35 * pitch, offset - 5)}L${point(r * 0.78, offset)}L${point(r - 0.35 * pitch, offset + 5)}`;
    case "flat":
      return `M${point(r * 0.6, offset - 20)}L${point(r * 0.6, offset + 20)}`;
    case "rotor":
      return `M${point(4, offset + 180)}L${point(r * 0.85, offset)}M${point(r * 0.7, offset - 7)}L${point(r * 0.85, offset)}L${point(r * 0.7, offset + 7)}`;
    case "dowel":
      return dot(inner * 1.2, offset, 2.2);
    default:
      return dot(r - 0.85 * pitch, offset, Math.max(2, Math.min(3.4, r * 0.07)));
  }
}

function dot(r: number, clock: number, size: number): string {
  const [x, y] = [r * Math.sin(rad(clock)), r * Math.cos(rad(clock))];
  return `M${tenth(x - size)} ${tenth(y)}a${size} ${size} 0 1 0 ${2 * size} 0a${size} ${size} 0 1 0 ${-2 * size} 0Z`;
}

/** A pointer outside a wheel, showing where a mark must stand. */
export function pointer(wheel: Wheel, clock: number): string {
  const pitch = (2 * Math.PI * wheel.radius) / wheel.teeth;
  const near = wheel.radius + 0.75 * pitch;
  return `M${point(near, clock)}L${point(near + 9, clock - 4)}L${point(near + 9, clock + 4)}Z`;
}
