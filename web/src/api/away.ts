import { shared } from "./shared";

/** Since when the server has been away, as far as this page knows; null while it answers. */
const away = shared<Date | null>(null);

export function sayAway(since: Date | null) {
  if (Boolean(since) !== Boolean(away.get())) away.set(since);
}
export const useAway = away.use;
