import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { meQuery } from "../api/queries";

/*
 * What is typed and not yet saved, kept in the browser under who typed it and for what: a form, a
 * worksheet, one occurrence of a step. Nobody finds another person's figures in his own form, and
 * signing out takes them away.
 */
const MARK = "draft ";

function keyOf(person: string, what: string) {
  return `${MARK}${person} ${what}`;
}

export function readDraft<T>(person: string, what: string): Partial<T> {
  try {
    return JSON.parse(localStorage.getItem(keyOf(person, what)) ?? "{}") as Partial<T>;
  } catch {
    return {};
  }
}

function writeDraft(person: string, what: string, value: object) {
  if (Object.keys(value).length) localStorage.setItem(keyOf(person, what), JSON.stringify(value));
  else localStorage.removeItem(keyOf(person, what));
}

/** Drop one draft, saved or put aside. */
export function dropDraft(person: string, what: string) {
  localStorage.removeItem(keyOf(person, what));
}

/** Drop every draft: at sign-out nothing typed stays behind. */
export function dropAllDrafts() {
  for (const key of Object.keys(localStorage))
    if (key.startsWith(MARK)) localStorage.removeItem(key);
}

/** Who is at work, as drafts are kept. */
export function usePerson(): string {
  return useQuery(meQuery).data?.name ?? "";
}

/**
 * Form state that outlives a reload and a server that went away: what is typed stays until it is
 * saved. `saved` fills the form until something is typed; `forget` drops what was sent once the
 * server has it, not what was typed since. Written through at once: a form that goes away with its
 * own success leaves nothing behind.
 */
export function useDraft<T extends object>(what: string, saved: T) {
  const person = usePerson();
  const key = keyOf(person, what);
  const fresh = () => ({ key, value: readDraft<T>(person, what) });
  const [draft, setDraft] = useState(fresh);
  if (draft.key !== key) setDraft(fresh());

  function change(make: (now: Partial<T>) => Partial<T>) {
    const value = make(readDraft<T>(person, what));
    writeDraft(person, what, value);
    setDraft({ key, value });
  }
  return {
    value: { ...saved, ...draft.value },
    set: (part: Partial<T>) => change((now) => ({ ...now, ...part })),
    forget: (sent: T) =>
      change((now) => {
        const left = Object.entries(now).filter(([k, v]) => v !== sent[k as keyof T]);
        return Object.fromEntries(left) as Partial<T>;
      }),
    isDirty: Object.keys(draft.value).length > 0,
  };
}
