import { useState } from "react";
import type { Schemas } from "../../api/client";

/** What a what-if asks: readings left out, and figures put in the place of others. */
export interface Trying {
  leftOut: string[];
  changed: Record<string, number>;
}

const NOTHING: Trying = { leftOut: [], changed: {} };

/** A what-if that nobody keeps: it ends with the page. */
export function useTrying() {
  const [trying, setTrying] = useState<Trying>(NOTHING);
  const isOn = trying.leftOut.length > 0 || Object.keys(trying.changed).length > 0;
  return {
    trying,
    isOn,
    leave: (id: string, isOut: boolean) =>
      setTrying(({ leftOut, changed }) => ({
        leftOut: isOut ? [...leftOut, id] : leftOut.filter((other) => other !== id),
        changed,
      })),
    put: (id: string, figure: number | null) =>
      setTrying(({ leftOut, changed }) => ({
        leftOut,
        changed: Object.fromEntries([
          ...Object.entries(changed).filter(([key]) => key !== id),
          ...(figure === null ? [] : [[id, figure]]),
        ]) as Record<string, number>,
      })),
    stop: () => setTrying(NOTHING),
  };
}

export const ORDINARY: Schemas["School"] = {
  extent: "measured",
  sprockets: "keep",
  parts: "maker",
  phasers: "renew",
};
