import { useRef } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useWidth } from "../../drawing/plot/useWidth";
import { Sheet, Soft } from "../../kit/page";
import { PlainList, Told } from "../../kit/text";
import { hours } from "../../kit/words";

type Plan = Schemas["Plan"];
type Step = Schemas["PlanStep"];

const LEAST_WIDE = 240;
const EDGE = 4;
const ROW = 26;
const TOP = 66;
const LETTER = 7.5;
const HOUR_ROOM = 56;
const LONGEST_WAIT = 40;
const TURNS = new Set(["set_position", "hand_turn", "hand_turn_closed", "roll", "turn_to"]);

interface Props {
  plan: Plan;
  components: Schemas["ComponentOut"][];
}

/** The job as a picture: what is off from when until when, a valley down to the part and back. */
export function Course({ plan, components }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const wide = Math.max(LEAST_WIDE, useWidth(place) - 2 * EDGE);
  const at = axis(plan.steps, wide);
  const names = new Map(components.map((c) => [c.id, c.name]));
  const bars = barsOf(plan);
  const end = at.end;
  const x = (minutes: number) => (minutes / end) * wide;
  const height = TOP + bars.length * ROW + 8;
  const returns = plan.steps.filter((s) => s.no_return);
  return (
    <Sheet aria-label="The course of the job">
      <h2>The course of the job</h2>
      <Soft>
        Each bar is a part that is off, from the left to the right. Filled: it is renewed. Above:
        work for two (bars), the crank is turned (↻), what cannot be put back (flags).
      </Soft>
      <div ref={place}>
        <Picture
          viewBox={`${-EDGE} 0 ${wide + 2 * EDGE} ${height}`}
          width={wide + 2 * EDGE}
          height={height}
          role="img"
          aria-label={`${plan.access.length} parts off, ${plan.helper.length} stretches for two`}
        >
          {at.hours.map(({ minutes, hour }) => (
            <g key={hour}>
              <line x1={x(minutes)} x2={x(minutes)} y1={TOP - 14} y2={height} className="hour" />
              <text x={x(minutes) + 3} y={TOP - 4} className="hour">
                {hour} h
              </text>
            </g>
          ))}
          {plan.helper.map((stretch) => (
            <rect
              key={stretch.steps[0]}
              x={x(at.of(stretch.begins))}
              width={Math.max(8, x(stretch.minutes))}
              y={4}
              height={14}
              className="two"
            />
          ))}
          {plan.steps
            .filter((s) => TURNS.has(s.template ?? ""))
            .map((s) => (
              <text key={s.ref} x={x(at.of(s.begins))} y={46} className="turn">
                ↻
              </text>
            ))}
          {returns.map((s, i) => (
            <g key={s.ref}>
              <line
                x1={x(at.of(s.begins))}
                x2={x(at.of(s.begins))}
                y1={14}
                y2={height}
                className="gone"
              />
              <text x={x(at.of(s.begins)) + 3} y={26} className="gone">
                ⚑{i + 1}
              </text>
            </g>
          ))}
          {bars.map((bar, row) => {
            const [from, to] = [x(at.of(bar.from)), x(at.of(bar.to))];
            const name = names.get(bar.key) ?? bar.key;
            const long = name.length * LETTER;
            const isRoomy = to - from > long;
            const isLeft = !isRoomy && to + long > wide;
            return (
              <g key={bar.key}>
                <rect
                  x={from}
                  width={Math.max(4, to - from)}
                  y={TOP + row * ROW + 2}
                  height={ROW - 5}
                  className={bar.isNew ? "new" : "same"}
                />
                <text
                  x={isRoomy ? (from + to) / 2 : isLeft ? from - 5 : to + 5}
                  textAnchor={isRoomy ? "middle" : isLeft ? "end" : "start"}
                  y={TOP + row * ROW + 17}
                  className={isRoomy ? (bar.isNew ? "on-new" : "name") : "beside"}
                >
                  {name}
                </text>
              </g>
            );
          })}
        </Picture>
      </div>
      {returns.length > 0 && (
        <PlainList $gap="4px">
          {returns.map((s, i) => (
            <Told as="li" key={s.ref}>
              ⚑{i + 1} {s.title}: {s.no_return}
            </Told>
          ))}
        </PlainList>
      )}
      {plan.helper.map((stretch) => (
        <Told key={stretch.begins}>
          A second person {hours(at.of(stretch.begins))} after the start, for{" "}
          {hours(stretch.minutes)}.
        </Told>
      ))}
    </Sheet>
  );
}

const Picture = styled.svg`
  display: block;
  max-width: 100%;
  font-size: 14px;
  line.hour {
    stroke: var(--line);
  }
  text.hour {
    fill: var(--soft);
  }
  rect.two {
    fill: var(--blue);
  }
  text.turn {
    fill: var(--ink);
    font-size: 18px;
    text-anchor: middle;
  }
  line.gone {
    stroke: var(--red);
    stroke-dasharray: 3 4;
  }
  text.gone {
    fill: var(--red);
    font-weight: 700;
  }
  rect.new {
    fill: var(--enamel);
  }
  rect.same {
    fill: var(--sheet);
    stroke: var(--edge);
    stroke-width: 1.5;
  }
  text.name,
  text.on-new {
    fill: var(--ink);
  }
  text.on-new {
    fill: var(--on-enamel);
  }
  text.beside {
    fill: var(--ink);
    paint-order: stroke;
    stroke: var(--ground);
    stroke-width: 4px;
  }
`;

interface Axis {
  /** Where on the axis a moment of the plan lies, working minutes with long waits drawn short. */
  of: (begins: number) => number;
  end: number;
  hours: { minutes: number; hour: number }[];
}

/** Long waits would leave the work itself no room: each is drawn as a few minutes. */
export function axis(steps: readonly Step[], wide = 720): Axis {
  const knots = [{ real: 0, drawn: 0 }];
  let drawn = 0;
  let free = 0;
  for (const step of steps) {
    drawn += Math.min(LONGEST_WAIT, Math.max(0, step.begins - free));
    knots.push({ real: step.begins, drawn });
    drawn += step.minutes;
    free = step.begins + step.minutes;
    knots.push({ real: free, drawn });
  }
  const of = (moment: number) => {
    const last = knots.filter((k) => k.real <= moment).at(-1) ?? { real: 0, drawn: 0 };
    return Math.min(last.drawn + moment - last.real, drawn);
  };
  const whole = Math.floor(drawn / 60);
  const every = Math.max(1, Math.ceil((whole * HOUR_ROOM) / wide));
  const marks = Array.from({ length: whole }, (_, i) => i + 1).filter((h) => h % every === 0);
  return {
    of,
    end: Math.max(drawn, 1),
    hours: marks.map((hour) => ({ minutes: hour * 60, hour })),
  };
}

interface Bar {
  key: string;
  from: number;
  to: number;
  isNew: boolean;
}

/** When each part comes off and is on again, torqued; in the order in which they come off. */
export function barsOf(plan: Plan): Bar[] {
  const bars = new Map<string, Bar>();
  for (const step of plan.steps) {
    const key = step.about;
    if (!key) continue;
    const end = step.begins + step.minutes;
    const known = bars.get(key);
    if (known) known.to = end;
    else
      bars.set(key, {
        key,
        from: step.begins,
        to: end,
        isNew: plan.renewed.includes(key),
      });
  }
  return [...bars.values()];
}
