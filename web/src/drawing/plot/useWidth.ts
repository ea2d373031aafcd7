import { useLayoutEffect, useState, type RefObject } from "react";

/** The width of an element in px, followed; nought until it is measured. */
export function useWidth(place: RefObject<Element | null>): number {
  const [wide, setWide] = useState(0);
  useLayoutEffect(() => {
    const el = place.current;
    if (!el) return;
    const measure = () => setWide(Math.round(el.getBoundingClientRect().width));
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(el);
    return () => watch.disconnect();
  }, [place]);
  return wide;
}
