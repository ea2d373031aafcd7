import { useState } from "react";
import type { Schemas } from "../../api/client";

/** What a what-if asks: readings left out, and figures put in the place of others. */
export interface Trying {
  leftOut: string[];
  changed: Record<string, number>;
}

export const NOTHING: Trying = { leftOut: [], changed: {} };

export function leaving({ leftOut, changed }: Trying, id: string, isOut: boolean): Trying {
  const others = leftOut.filter((other) => other !== id);
  return { leftOut: isOut ? [...others, id] : others, changed };
}

/** Another figure for a reading; null puts back what was read. */
export function putting({ leftOut, changed }: Trying, id: string, figure: number | null): Trying {
  const others = Object.entries(changed).filter(([key]) => key !== id);
  const more: [string, number][] = figure === null ? [] : [[id, figure]];
  return { leftOut, changed: Object.fromEntries([...others, ...more]) };
}

export const isTried = ({ leftOut, changed }: Trying) =>
  leftOut.length + Object.keys(changed).length;

/** A what-if that nobody keeps: it ends with the page. */
export function useTrying() {
  const [trying, setTrying] = useState<Trying>(NOTHING);
  return {
    trying,
    count: isTried(trying),
    leave: (id: string, isOut: boolean) => setTrying((now) => leaving(now, id, isOut)),
    put: (id: string, figure: number | null) => setTrying((now) => putting(now, id, figure)),
    stop: () => setTrying(NOTHING),
  };
}

export const ORDINARY: Schemas["School"] = {
  extent: "measured",
  sprockets: "keep",
  parts: "maker",
  phasers: "renew",
};
