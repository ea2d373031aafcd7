import type { Schemas } from "../api/client";
import { PlotFrame, type Scale, type Tick } from "./plot/PlotFrame";
import type { Stretch } from "./plot/stretch";
import { ticks } from "./plot/ticks";
import { Comb, Strip } from "./Strip";

const LANE = 64;

interface Props {
  seen: Schemas["WindowOut"];
  stretch: Stretch;
  cursor: number | null;
  mark: number | null;
  leftOut: Schemas["LeftOut"][];
  channel: string;
  /** By how much the strip of the channel at work was slid, crank degrees; later is positive. */
  slidDeg: number;
  label: string;
  onPoint: (at: number) => void;
  onKey: (key: string) => boolean;
}

/**
 * Channels along the crank's turns: each a strip over the book's comb, found edges as ticks, the
 * cursor, and what is measured or left out. The strip of the channel at work can be slid.
 */
export function TimeTrace({
  seen,
  stretch,
  cursor,
  mark,
  leftOut,
  channel,
  slidDeg,
  label,
  onPoint,
  onKey,
}: Props) {
  return (
    <PlotFrame
      label={label}
      height={LANE * seen.channels.length + 40}
      x={stretch.seen}
      left={124}
      xTicks={(x) => turnTicks(seen, x)}
      stretch={stretch}
      onPoint={onPoint}
      onKey={onKey}
    >
      {({ x, inner }) => {
        const tall = inner.bottom - inner.top;
        return (
          <>
            <clipPath id="lanes">
              <rect
                x={inner.left}
                y={0}
                width={inner.right - inner.left}
                height={inner.bottom + 4}
              />
            </clipPath>
            <g clipPath="url(#lanes)">
              {leftOut.map((s, i) => (
                <g key={i}>
                  <rect
                    x={x(s.start_s)}
                    y={inner.top}
                    width={Math.max(2, x(s.stop_s) - x(s.start_s))}
                    height={tall}
                    fill="var(--red-tint)"
                  />
                  <text x={x(s.start_s) + 4} y={inner.top + 14} fill="var(--red)">
                    left out
                  </text>
                </g>
              ))}
              {mark !== null && cursor !== null && (
                <rect
                  x={Math.min(x(mark), x(cursor))}
                  y={inner.top}
                  width={Math.abs(x(cursor) - x(mark))}
                  height={tall}
                  fill="var(--pen)"
                  opacity={0.25}
                />
              )}
              {seen.channels.map((c, i) => (
                <Lane
                  key={c.channel}
                  lane={c}
                  seen={seen}
                  top={inner.top + LANE * i}
                  x={x}
                  slid_s={c.channel === channel ? secondsOf(slidDeg, seen) : 0}
                />
              ))}
              {[cursor, mark].map(
                (at, i) =>
                  at !== null && (
                    <path
                      key={i}
                      d={`M${x(at)} ${inner.top - 4}V${inner.bottom}`}
                      stroke="var(--ink)"
                      strokeWidth={1.6}
                      strokeDasharray={i ? "5 4" : undefined}
                    />
                  ),
              )}
            </g>
            {seen.channels.map((c, i) => (
              <text
                key={c.channel}
                y={inner.top + LANE * i + LANE / 2 + 5}
                fontSize={15}
                fontWeight={c.channel === channel ? 700 : 400}
                fill="var(--ink)"
              >
                {c.channel === channel ? "▸ " : ""}
                {c.short}
              </text>
            ))}
          </>
        );
      }}
    </PlotFrame>
  );
}

function Lane({
  lane,
  seen,
  top,
  x,
  slid_s,
}: {
  lane: Schemas["WindowChannel"];
  seen: Schemas["WindowOut"];
  top: number;
  x: Scale;
  slid_s: number;
}) {
  return (
    <g>
      <path
        d={`M0 ${top + LANE - 1}H${x.range()[1] ?? 0}`}
        stroke="var(--line)"
        strokeWidth={0.7}
      />
      <Comb at={lane.expected.map((e) => x(e.time_s))} top={top + 4} height={LANE - 10} />
      <Strip
        at={(i) => x((seen.times_s[i] ?? 0) + slid_s)}
        low={lane.low_v}
        high={lane.high_v}
        top={top + 12}
        height={LANE - 26}
      />
      <path
        d={lane.found_s.map((t) => `M${x(t + slid_s)} ${top + LANE - 12}v7`).join("")}
        stroke="var(--ink)"
        strokeWidth={1.3}
      />
    </g>
  );
}

/** How long a part of a turn takes here. */
function secondsOf(deg: number, { rpm }: Schemas["WindowOut"]): number {
  const speed = rpm[Math.floor(rpm.length / 2)] ?? 0;
  return speed > 0 ? deg / (6 * speed) : 0;
}

const STEPS_DEG = [1, 2, 5, 10, 30, 90, 180, 360, 720, 1440, 3600, 7200, 14400];

/** The crank's turns along time: whole ones by number, parts of one in degrees. */
export function turnTicks(
  { angle_s: at, theta_deg: theta }: Schemas["WindowOut"],
  x: Scale,
): Tick[] {
  const [from = 0, to = 0] = x.domain();
  const first = theta[0];
  const last = theta[theta.length - 1];
  if (first === undefined || last === undefined || theta.length < 2)
    return ticks([from, to], 6, " s");
  const seen = ((last - first) * (to - from)) / ((at[at.length - 1] ?? 1) - (at[0] ?? 0) || 1);
  const step = STEPS_DEG.find((s) => seen / s <= 9) ?? 36000;
  const marks: Tick[] = [];
  let k = 0;
  for (let deg = Math.ceil(first / step) * step; deg <= last; deg += step) {
    while (k < theta.length - 2 && (theta[k + 1] ?? 0) < deg) k += 1;
    const [a = 0, b = 0, ta = 0, tb = 0] = [theta[k], theta[k + 1], at[k], at[k + 1]];
    const time = ta + ((deg - a) / (b - a || 1)) * (tb - ta);
    const turn = Math.floor(deg / 360 + 1e-9);
    const rest = Math.round(deg - turn * 360);
    if (time >= from && time <= to)
      marks.push({ at: time, words: rest ? `${rest}°` : `turn ${turn}`, isMain: !rest });
  }
  return marks;
}
