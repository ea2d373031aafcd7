import type { Schemas } from "../../api/client";
import {
  apart,
  MARKED_OF_PITCH,
  markOffset,
  motions,
  NEAR_DEG,
  wheelClock,
  type ChainMotion,
} from "./motion";
import { between, notches, pinDots, through } from "./shapes";
import type { Turn } from "./turn";

type Picture = Schemas["DrivePicture"];
type Wheel = Schemas["WheelPicture"];
/** What draws one element; it is called at once and after every turn. */
type Move = () => void;
/** What React calls with an element that came; the answer is called when it goes. */
export type Joins = (el: SVGElement | null) => (() => void) | undefined;
const PLUNGER_HALF_MM = 4.5;

/**
 * What moves in a picture of the drive, straight on its elements: React draws them once and hands
 * them in, a turn only moves them, so that the picture keeps up with a hand.
 */
export class DriveDrawing {
  readonly chains: ChainMotion[];
  private readonly shafts: Map<string, Schemas["ShaftPicture"]>;
  private readonly moves = new Set<Move>();

  constructor(
    readonly picture: Picture,
    readonly plane: string,
    readonly turn: Turn,
  ) {
    this.chains = motions(picture, plane);
    this.shafts = new Map(picture.shafts.map((s) => [s.id, s]));
    for (const chain of this.chains) chain.place(turn);
  }

  /** Draw everything where the crank stands. */
  draw() {
    for (const chain of this.chains) chain.place(this.turn);
    for (const move of this.moves) move();
  }

  /** Turns with a wheel. */
  spins(wheel: Wheel): Joins {
    const shaft = this.shafts.get(wheel.shaft);
    return this.joins((el) => {
      const clock = wheelClock(wheel, shaft, this.turn);
      el.setAttribute("transform", `rotate(${(-clock).toFixed(3)})`);
    });
  }

  /** Turns with a cam. */
  lobe(lobe: Schemas["Lobe"]): Joins {
    const shaft = this.shafts.get(lobe.cam);
    return this.joins((el) => {
      const { turn } = this;
      const crank = turn.followed(shaft?.lash_deg ?? 0) - turn.service - (shaft?.late_deg ?? 0);
      const nose = lobe.nose_clock_deg + lobe.clock_per_crank * crank;
      el.setAttribute("transform", `rotate(${(-nose).toFixed(3)})`);
    });
  }

  /** Is told by the class `meets` whether a mark stands where it must. */
  meets(mark: Schemas["MarkPicture"], wheel: Wheel): Joins {
    const shaft = this.shafts.get(wheel.shaft);
    const offset = markOffset(mark, wheel, this.picture.service_deg);
    return this.joins((el) => {
      const here = wheelClock(wheel, shaft, this.turn) + offset;
      el.classList.toggle("meets", Math.abs(apart(here, mark.clock_deg)) < NEAR_DEG);
    });
  }

  /** Every second plate of a chain. */
  plates(chain: ChainMotion, odd: 0 | 1): Joins {
    return this.path(() => chain.plates(odd));
  }
  pins(chain: ChainMotion): Joins {
    return this.path(() => pinDots(chain.at));
  }
  /** One coloured link of a chain. */
  marked(chain: ChainMotion, link: number): Joins {
    const width = MARKED_OF_PITCH * chain.chain.pitch_mm;
    return this.path(() => (chain.chain.is_belt ? chain.link(link) : chain.plate(link, width)));
  }
  /** Stands over the middle of a link. */
  over(chain: string, link: number): Joins {
    const motion = this.of(chain);
    return this.joins((el) => {
      const [x, y] = motion?.middle(link) ?? [0, 0];
      el.setAttribute("transform", `translate(${x.toFixed(1)} ${y.toFixed(1)}) scale(1 -1)`);
    });
  }

  /** The rail of a guide or arm, which goes over with its chain's slack. */
  rail(face: Schemas["FacePicture"]): Joins {
    return this.path(() => between(face.forward, face.back, this.gone(face)));
  }
  liner(face: Schemas["FacePicture"]): Joins {
    return this.path(() => between(face.liner, face.liner_back, this.gone(face)));
  }
  /** The plunger of a tensioner, from the mouth of its body to its tip; and its notches. */
  plunger(face: Schemas["FacePicture"]): Joins {
    return this.path(() => through(this.plungerOf(face)));
  }
  notches(face: Schemas["FacePicture"], notch: number): Joins {
    return this.path(() => {
      const [mouth = [], tip = []] = this.plungerOf(face);
      return notches(mouth, tip, notch, PLUNGER_HALF_MM);
    });
  }

  private plungerOf(face: Schemas["FacePicture"]): number[][] {
    const share = this.gone(face);
    const [, mouth = [], tip = []] = face.forward;
    const back = face.back[2] ?? tip;
    return [mouth, tip.map((v, i) => v * (1 - share) + (back[i] ?? v) * share)];
  }

  /** How much of the slack of a face's chain has gone over. */
  private gone(face: Schemas["FacePicture"]): number {
    return this.of(face.chain)?.slackShare(this.turn) ?? 0;
  }
  private of(chain: string): ChainMotion | undefined {
    return this.chains.find((c) => c.chain.part === chain);
  }
  private path(d: () => string): Joins {
    return this.joins((el) => el.setAttribute("d", d()));
  }
  private joins(draw: (el: SVGElement) => void): Joins {
    return (el) => {
      if (!el) return undefined;
      const move = () => draw(el);
      this.moves.add(move);
      move();
      return () => void this.moves.delete(move);
    };
  }
}
