import { useEffect, useRef, type KeyboardEvent, type PointerEvent, type RefObject } from "react";
import type { Scale } from "./PlotFrame";

export type Span = readonly [number, number];

/** What of a whole is seen, and how it is changed. */
export interface Stretch {
  seen: Span;
  whole: Span;
  /** The least that can be seen. */
  least: number;
  onSeen: (seen: Span) => void;
}

/** A stretch of some length from a start, kept within the whole. */
export function fitted(start: number, span: number, { whole, least }: Stretch): Span {
  const width = Math.min(Math.max(span, least), whole[1] - whole[0]);
  const from = Math.min(Math.max(start, whole[0]), whole[1] - width);
  return [from, from + width];
}

/** Seen by a factor more or less, keeping one place where it is. */
export function zoomed(stretch: Stretch, factor: number, about: number): Span {
  const [from, to] = stretch.seen;
  const span = to - from;
  return fitted(about - (about - from) * factor, span * factor, stretch);
}

/** Moved by a share of what is seen. */
export function panned(stretch: Stretch, share: number): Span {
  const [from, to] = stretch.seen;
  return fitted(from + share * (to - from), to - from, stretch);
}

const KEYS: Record<string, (stretch: Stretch, about: number) => Span> = {
  ArrowLeft: (s) => panned(s, -0.2),
  ArrowRight: (s) => panned(s, 0.2),
  ArrowUp: (s, about) => zoomed(s, 1 / 1.6, about),
  ArrowDown: (s, about) => zoomed(s, 1.6, about),
  Home: (s) => s.whole,
};
const PRESS_PX = 5;

/** Dragging moves, the wheel stretches, a press points, keys do all of it. */
export function useStretch(
  place: RefObject<HTMLElement | null>,
  x: Scale,
  stretch: Stretch | undefined,
  onPoint: ((x: number) => void) | undefined,
  onKey: ((key: string) => boolean) | undefined,
) {
  const drag = useRef<{ at: number; seen: Span; moved: boolean } | null>(null);
  const atPointer = (clientX: number) =>
    x.invert(clientX - (place.current?.getBoundingClientRect().left ?? 0));
  useEffect(() => {
    const el = place.current;
    if (!el || !stretch) return;
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      stretch.onSeen(
        e.shiftKey
          ? panned(stretch, e.deltaY > 0 ? 0.15 : -0.15)
          : zoomed(stretch, e.deltaY > 0 ? 1.3 : 1 / 1.3, atPointer(e.clientX)),
      );
    };
    el.addEventListener("wheel", onWheel, { passive: false });
    return () => el.removeEventListener("wheel", onWheel);
  });
  if (!stretch) return {};
  return {
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      drag.current = { at: e.clientX, seen: stretch.seen, moved: false };
    },
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      const from = drag.current;
      if (!from) return;
      from.moved ||= Math.abs(e.clientX - from.at) > PRESS_PX;
      if (!from.moved) return;
      const perPx = (from.seen[1] - from.seen[0]) / ((x.range()[1] ?? 1) - (x.range()[0] ?? 0));
      stretch.onSeen(
        fitted(from.seen[0] - (e.clientX - from.at) * perPx, from.seen[1] - from.seen[0], stretch),
      );
    },
    onPointerUp: (e: PointerEvent<HTMLElement>) => {
      if (drag.current && !drag.current.moved) onPoint?.(atPointer(e.clientX));
      drag.current = null;
    },
    onKeyDown: (e: KeyboardEvent) => {
      const act = KEYS[e.key];
      if (act) stretch.onSeen(act(stretch, (stretch.seen[0] + stretch.seen[1]) / 2));
      else if (!onKey?.(e.key)) return;
      e.preventDefault();
    },
  };
}
