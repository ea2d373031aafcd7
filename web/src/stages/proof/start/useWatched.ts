import { useDraft } from "../../../kit/draft";

/** Seconds since the start at which something was pressed; null before. */
type At = number | null;

export interface Watched {
  /** The look at the box these presses are of; null before it. */
  look: string | null;
  standing: string;
  /** What was heard; until somebody says so nothing is known of it. */
  heard: "unsaid" | "none" | "rattle";
  quiet: At;
  pressed: At;
  pressure: string;
  isKept: boolean;
}

const NOTHING: Watched = {
  look: null,
  standing: "",
  heard: "unsaid",
  quiet: null,
  pressed: null,
  pressure: "",
  isKept: false,
};

/**
 * What was pressed and typed at one start of one engine. A reload loses none of it: pressure that
 * was seen is not asked for again. Of another start nothing is taken over.
 */
export function useWatched(job: number, look: string | null) {
  const draft = useDraft(`first start ${job}`, NOTHING);
  const kept = draft.value;
  const isOfAnother = kept.look !== null && kept.look !== look;
  const value = isOfAnother ? NOTHING : kept;
  return {
    value,
    /** What is changed is not yet written down, whatever was before it. */
    set: (part: Partial<Watched>) => draft.set({ ...value, isKept: false, ...part, look }),
    /** What was typed before a start belongs to it, pressed or not. */
    begins: (at: string | null) => draft.set({ ...value, look: at }),
    again: () => draft.set({ ...NOTHING, standing: value.standing, look }),
  };
}
