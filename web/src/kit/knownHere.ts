/*
 * Who signed in on this device by password and has a PIN: a shared tablet offers their names, so
 * that nobody types a login with a glove on. The server knows by itself where a PIN is taken.
 */
const KEY = "known here";
const MOST = 8;

export interface KnownHere {
  login: string;
  name: string;
}

export function knownHere(): KnownHere[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? "[]");
    return Array.isArray(kept) ? (kept as KnownHere[]).filter((p) => p.login && p.name) : [];
  } catch {
    return [];
  }
}

/** Offer somebody's name here from now on, or no longer. */
export function remember(login: string, name: string, hasPin: boolean) {
  const others = knownHere().filter((p) => p.login !== login);
  const kept = hasPin ? [{ login, name }, ...others].slice(0, MOST) : others;
  localStorage.setItem(KEY, JSON.stringify(kept));
}
