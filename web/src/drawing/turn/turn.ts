import { useSyncExternalStore } from "react";
import type { Schemas } from "../../api/client";

/**
 * Where the crank stands and how far it was turned back since it last ran forwards. Everything drawn follows from these
 * two numbers and the server's tables; whoever draws asks to be told of changes, so that a turn redraws no page.
 */
export class Turn {
  deg: number;
  back = 0;
  private readonly hears = new Set<() => void>();

  constructor(
    readonly service: number,
    private readonly mostBack: number,
  ) {
    this.deg = service;
  }

  /** Turn on (positive) or back; turning back first takes up the lash. */
  by(delta: number) {
    this.deg += delta;
    this.back = Math.min(this.mostBack, Math.max(0, this.back - delta));
    for (const hear of this.hears) hear();
  }

  /** Go to an angle of the cycle, forwards, as an engine is turned. */
  to(deg: number) {
    this.by(((deg - this.deg) % 720 + 720) % 720);
    this.back = 0;
    for (const hear of this.hears) hear();
  }

  /** The crank angle that a shaft with this lash still follows. */
  followed(lash: number): number {
    return this.deg + Math.min(this.back, lash);
  }

  /** Whole crank turns since the service position. */
  get turns(): number {
    return Math.floor((this.deg - this.service) / 360 + 1e-9);
  }

  readonly listen = (hear: () => void) => {
    this.hears.add(hear);
    return () => {
      this.hears.delete(hear);
    };
  };
}

export const mod = (value: number, by: number) => ((value % by) + by) % by;

/** The crank angle within its cycle, rounded, for words beside the picture. */
export function useCrank(turn: Turn, digits = 1): { deg: number; back: number; turns: number } {
  const scale = 10 ** digits;
  const key = useSyncExternalStore(turn.listen, () => `${Math.round(mod(turn.deg, 720) * scale) / scale}|${Math.round(turn.back * 10) / 10}|${turn.turns}`);
  const [deg = 0, back = 0, turns = 0] = key.split("|").map(Number);
  return { deg: deg === 720 ? 0 : deg, back, turns };
}

export function mostLash(picture: Schemas["DrivePicture"]): number {
  return Math.max(0, ...picture.shafts.map((s) => s.lash_deg));
}
