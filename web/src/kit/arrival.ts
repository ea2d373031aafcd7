import { useEffect, useRef } from "react";

/**
 * A heading that takes the focus when it appears, with all that scrolls above it at its top: what
 * has just opened is looked at, and read out, from its beginning.
 */
export function useArrival() {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    const found = heading.current;
    if (!found) return;
    found.focus({ preventScroll: true });
    const page = found.closest("main");
    if (page) page.scrollTop = 0;
    window.scrollTo(0, 0);
  }, []);
  return heading;
}

/** The same for a part of a page: it comes into view, and the page stays where it is. */
export function useAttention() {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    heading.current?.focus({ preventScroll: true });
    heading.current?.scrollIntoView({ block: "nearest" });
  }, []);
  return heading;
}
