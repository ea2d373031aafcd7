import { useLayoutEffect, useState, type RefObject } from "react";
import type { Box } from "./labels";

/**
 * What of a drawing is seen, in its own units (y upwards), and how many of them a pixel is:
 * `viewBox` is fitted into whatever the element's size is.
 */
export function useSeen(
  svg: RefObject<SVGSVGElement | null>,
  [left, bottom, width, height]: readonly [number, number, number, number],
): { seen: Box; perPx: number } | null {
  const [size, setSize] = useState<{ w: number; h: number } | null>(null);
  useLayoutEffect(() => {
    const el = svg.current;
    if (!el) return;
    const measure = () => {
      const box = el.getBoundingClientRect();
      setSize((now) =>
        now?.w === box.width && now.h === box.height ? now : { w: box.width, h: box.height },
      );
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(el);
    return () => watch.disconnect();
  }, [svg]);
  if (!size?.w || !size.h) return null;
  const perPx = Math.max(width / size.w, height / size.h);
  const [wide, tall] = [size.w * perPx, size.h * perPx];
  return {
    perPx,
    seen: {
      x: left - (wide - width) / 2,
      y: bottom - (tall - height) / 2,
      width: wide,
      height: tall,
    },
  };
}
