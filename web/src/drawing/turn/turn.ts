import { useSyncExternalStore } from "react";

/**
 * Where the crank stands, and where everything stands that follows it with lash. A shaft with lash
 * stays where it is while the crank turns back, until its slack is used up, and again while the
 * crank turns on, until it is taken up. Whoever draws asks to be told of changes, so that a turn
 * redraws no page.
 */
export class Turn {
  deg: number;
  private readonly stands = new Map<number, number>();
  private readonly hears = new Set<() => void>();
  private wanted = 0;

  constructor(readonly service: number) {
    this.deg = service;
  }

  /** Turn on (positive) or back. */
  by(delta: number) {
    this.deg += delta;
    for (const [lash, stood] of this.stands)
      this.stands.set(lash, Math.max(this.deg, Math.min(stood, this.deg + lash)));
    // Hands move faster than a screen draws: whoever listens hears of it once a frame.
    this.wanted ||= requestAnimationFrame(() => {
      this.wanted = 0;
      for (const hear of this.hears) hear();
    });
  }

  /** Go to an angle of the cycle, forwards, as an engine is turned. */
  to(deg: number) {
    this.by(mod(deg - this.deg, 720) || (this.back ? 720 : 0));
  }

  /** The crank angle at which a shaft with this lash stands. */
  followed(lash: number): number {
    const stood = this.stands.get(lash);
    if (stood === undefined) this.stands.set(lash, this.deg);
    return stood ?? this.deg;
  }

  /** Slack that has gone over to the other side, crank degrees: the most of any shaft. */
  get back(): number {
    return Math.max(0, ...[...this.stands.values()].map((stood) => stood - this.deg));
  }

  /** Whole crank turns since the service position. */
  get turns(): number {
    return Math.floor((this.deg - this.service) / 360 + 1e-9);
  }

  /** Draw now, and once a frame after every turn, until the answer is called. */
  draws(draw: () => void): () => void {
    draw();
    return this.listen(draw);
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
  const key = useSyncExternalStore(turn.listen, () => {
    const [deg, back] = [mod(turn.deg, 720) * scale, turn.back * 10].map(Math.round);
    return `${(deg ?? 0) / scale}|${(back ?? 0) / 10}|${turn.turns}`;
  });
  const [deg = 0, back = 0, turns = 0] = key.split("|").map(Number);
  return { deg: deg === 720 ? 0 : deg, back, turns };
}
