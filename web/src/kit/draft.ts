import { useEffect, useState } from "react";

/**
 * Form state that outlives a reload and a server that went away: what is typed stays until it is saved.
 * `saved` fills the form until something is typed; `forget` drops what was sent once the server has it, not what was
 * typed since.
 */
export function useDraft<T extends object>(key: string, saved: T): { value: T; set: (part: Partial<T>) => void; forget: (sent: T) => void; isDirty: boolean } {
  const [draft, setDraft] = useState<{ key: string; value: Partial<T> }>(() => ({ key, value: read<T>(key) }));
  if (draft.key !== key) setDraft({ key, value: read<T>(key) });

  useEffect(() => {
    if (Object.keys(draft.value).length) localStorage.setItem(draft.key, JSON.stringify(draft.value));
    else localStorage.removeItem(draft.key);
  }, [draft]);

  return {
    value: { ...saved, ...draft.value },
    set: (part) => setDraft((d) => ({ key: d.key, value: { ...d.value, ...part } })),
    forget: (sent) =>
      setDraft((d) => ({ key: d.key, value: Object.fromEntries(Object.entries(d.value).filter(([k, v]) => v !== sent[k as keyof T])) as Partial<T> })),
    isDirty: Object.keys(draft.value).length > 0,
  };
}

function read<T>(key: string): Partial<T> {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "{}") as Partial<T>;
  } catch {
    return {};
  }
}
