import type { Schemas } from "../../api/client";
import { plate } from "../chain/plate";
import { mod, type Turn } from "./turn";
import { pins, tenth, walkOf, type Walk } from "./walk";

type Picture = Schemas["DrivePicture"];
type Chain = Schemas["ChainPicture"];

export const NEAR_DEG = 1.2;
const PLATE_OF_PITCH = 0.78;
export const MARKED_OF_PITCH = 0.95;

/** Where a wheel's marked tooth stands, degrees clockwise from twelve. */
export function wheelClock(
  wheel: Schemas["WheelPicture"],
  shaft: Schemas["ShaftPicture"] | undefined,
  turn: Turn,
): number {
  const crank = turn.followed(shaft?.lash_deg ?? 0) - turn.service - (shaft?.late_deg ?? 0);
  return wheel.mark_clock_deg + wheel.clock_per_crank * crank;
}

/** Where a mark stands relative to its wheel's marked tooth. */
export function markOffset(
  mark: Schemas["MarkPicture"],
  wheel: Schemas["WheelPicture"],
  service: number,
): number {
  return mark.clock_deg - wheel.clock_per_crank * (mark.at_deg - service) - wheel.mark_clock_deg;
}

/** How far a clock position is from another, −180 to 180. */
export const apart = (a: number, b: number) => mod(a - b + 180, 360) - 180;

/** Moves one chain's links: paths for outer plates, inner plates, pins and coloured links. */
export class ChainMotion {
  private readonly ahead: Walk;
  private readonly behind: Walk;
  readonly at: Float64Array;
  private readonly other: Float64Array;

  constructor(
    readonly chain: Chain,
    private readonly driver: Schemas["ShaftPicture"] | undefined,
  ) {
    this.ahead = walkOf(chain.forward);
    this.behind = walkOf(chain.back);
    this.at = new Float64Array(2 * chain.links);
    this.other = new Float64Array(2 * chain.links);
  }

  /**
   * How much of this chain's slack has gone over: nought when driven forwards, one when wholly
   * turned back.
   */
  slackShare(turn: Turn): number {
    const before = this.driver?.lash_deg ?? 0;
    if (this.chain.lash_deg < 1e-6) return 0;
    return Math.min(
      1,
      Math.max(
        0,
        (turn.followed(before + this.chain.lash_deg) - turn.followed(before)) / this.chain.lash_deg,
      ),
    );
  }

  /** Evaluate where every pin stands. */
  place(turn: Turn) {
    const { chain, driver } = this;
    const crank = turn.followed(driver?.lash_deg ?? 0) - turn.service - (driver?.late_deg ?? 0);
    const first = chain.links_per_crank_deg * crank - chain.mark_links - 0.5;
    const share = this.slackShare(turn);
    pins(share < 1 ? this.ahead : this.behind, chain.links, first, this.at);
    if (share > 0 && share < 1) {
      pins(this.behind, chain.links, first, this.other);
      for (let i = 0; i < this.at.length; i++)
        this.at[i] = (this.at[i] ?? 0) * (1 - share) + (this.other[i] ?? 0) * share;
    }
  }

  /** Link k as a stroke. */
  link(k: number): string {
    const n = this.chain.links;
    const [a, b] = [2 * mod(k, n), 2 * mod(k + 1, n)];
    const pin = (i: number) => `${tenth(this.at[i] ?? 0)} ${tenth(this.at[i + 1] ?? 0)}`;
    return `M${pin(a)}L${pin(b)}`;
  }

  /** The middle of link k. */
  middle(k: number): [number, number] {
    const n = this.chain.links;
    const [a, b] = [2 * mod(k, n), 2 * mod(k + 1, n)];
    return [
      ((this.at[a] ?? 0) + (this.at[b] ?? 0)) / 2,
      ((this.at[a + 1] ?? 0) + (this.at[b + 1] ?? 0)) / 2,
    ];
  }

  /** Link k as a plate of this width. */
  plate(k: number, width: number): string {
    const n = this.chain.links;
    const [a, b] = [2 * mod(k, n), 2 * mod(k + 1, n)];
    const { at } = this;
    return plate(at[a] ?? 0, at[a + 1] ?? 0, at[b] ?? 0, at[b + 1] ?? 0, width);
  }

  /** Every second link as one path: plates of a chain, strokes of a belt. */
  plates(odd: 0 | 1): string {
    const { chain } = this;
    const width = PLATE_OF_PITCH * chain.pitch_mm;
    let d = "";
    for (let k = odd; k < chain.links; k += 2)
      d += chain.is_belt ? this.link(k) : this.plate(k, width);
    return d;
  }
}

export function motions(picture: Picture, plane: string): ChainMotion[] {
  const shafts = new Map(picture.shafts.map((s) => [s.id, s]));
  return picture.chains
    .filter((c) => c.plane === plane)
    .map((c) => new ChainMotion(c, shafts.get(c.driver_shaft)));
}
