import { lazy, type ComponentType } from "react";

/** A part of Flaneur that did not come: the server is away, or was renewed since. */
export class NotCome extends Error {}

/** A page that comes when somebody first goes there. */
export function page<P extends object>(get: () => Promise<ComponentType<P>>) {
  return lazy(() =>
    get().then(
      (found) => ({ default: found }),
      (error: unknown) => {
        throw new NotCome(String(error));
      },
    ),
  );
}
