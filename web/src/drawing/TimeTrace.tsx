import styled from "styled-components";
import type { Schemas } from "../api/client";

const WIDTH = 780;
const LEFT = 120;
const LANE = 58;
const TOP = 22;
export const TRACE = { width: WIDTH, left: LEFT, right: 10 };

interface Props {
  seen: Schemas["WindowOut"];
  view: [number, number];
  cursor: number | null;
  mark: number | null;
  leftOut: Schemas["LeftOut"][];
  channel: string;
}

const Ground = styled.svg`
  display: block;
  touch-action: none;
`;

/**
 * Channels along time: the book's edges as ghosts, found edges as ticks, the cursor, and what is
 * measured or left out.
 */
export function TimeTrace({ seen, view, cursor, mark, leftOut, channel }: Props) {
  const [start, stop] = view;
  const at = (t: number) =>
    LEFT + ((t - start) / (stop - start || 1)) * (WIDTH - LEFT - TRACE.right);
  const bottom = TOP + LANE * seen.channels.length;
  const inView = (t: number) => t >= start && t <= stop;
  const step = tick(stop - start);
  const times = Array.from({ length: 12 }, (_, i) => (Math.ceil(start / step) + i) * step).filter(
    (t) => t <= stop,
  );
  return (
    <Ground viewBox={`0 0 ${WIDTH} ${bottom + 24}`} width="100%" aria-hidden>
      <clipPath id="lanes">
        <rect x={LEFT} y={0} width={WIDTH - LEFT - TRACE.right} height={bottom + 24} />
      </clipPath>
      {times.map((t) => (
        <g key={t}>
          <line
            x1={at(t)}
            x2={at(t)}
            y1={TOP - 6}
            y2={bottom}
            stroke="var(--line)"
            strokeWidth={0.7}
          />
          <text
            x={at(t)}
            y={bottom + 16}
            textAnchor={at(t) > WIDTH - 40 ? "end" : "middle"}
            fontSize={12}
            fill="var(--soft)"
          >
            {words(t, step)}
          </text>
        </g>
      ))}
      <g clipPath="url(#lanes)">
        {leftOut.map((s, i) => (
          <g key={i}>
            <rect
              x={at(s.start_s)}
              y={TOP - 8}
              width={Math.max(2, at(s.stop_s) - at(s.start_s))}
              height={bottom - TOP + 8}
              fill="var(--red-tint)"
            />
            <text x={at(s.start_s) + 4} y={TOP + 2} fontSize={11} fill="var(--red)">
              left out
            </text>
          </g>
        ))}
        {mark !== null && cursor !== null && (
          <rect
            x={Math.min(at(mark), at(cursor))}
            y={TOP - 8}
            width={Math.abs(at(cursor) - at(mark))}
            height={bottom - TOP + 8}
            fill="var(--pen)"
            opacity={0.25}
          />
        )}
        {seen.channels.map((c, i) => (
          <Lane
            key={c.channel}
            lane={c}
            times={seen.times_s}
            top={TOP + LANE * i}
            at={at}
            inView={inView}
          />
        ))}
        {cursor !== null && (
          <line
            x1={at(cursor)}
            x2={at(cursor)}
            y1={TOP - 10}
            y2={bottom}
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
        )}
        {mark !== null && (
          <line
            x1={at(mark)}
            x2={at(mark)}
            y1={TOP - 10}
            y2={bottom}
            stroke="var(--ink)"
            strokeWidth={1.5}
            strokeDasharray="5 4"
          />
        )}
      </g>
      {seen.channels.map((c, i) => (
        <text
          key={c.channel}
          x={0}
          y={TOP + LANE * i + LANE / 2 + 2}
          fontSize={13}
          fontWeight={c.channel === channel ? 700 : 400}
          fill="var(--ink)"
        >
          {c.channel === channel ? "▸ " : ""}
          {c.short}
        </text>
      ))}
    </Ground>
  );
}

function Lane({
  lane,
  times,
  top,
  at,
  inView,
}: {
  lane: Schemas["WindowChannel"];
  times: number[];
  top: number;
  at: (t: number) => number;
  inView: (t: number) => boolean;
}) {
  const low = lane.low_v.reduce((a, b) => Math.min(a, b), Infinity);
  const high = lane.high_v.reduce((a, b) => Math.max(a, b), -Infinity);
  const y = (v: number) => top + LANE - 12 - ((v - low) / (high - low || 1)) * (LANE - 24);
  const upper = times.map((t, i) => `${at(t).toFixed(1)} ${y(lane.high_v[i] ?? 0).toFixed(1)}`);
  const lower = times
    .map((t, i) => `${at(t).toFixed(1)} ${y(lane.low_v[i] ?? 0).toFixed(1)}`)
    .reverse();
  return (
    <g>
      <line
        x1={LEFT}
        x2={WIDTH}
        y1={top + LANE - 4}
        y2={top + LANE - 4}
        stroke="var(--line)"
        strokeWidth={0.6}
      />
      {lane.expected
        .filter((e) => inView(e.time_s))
        .map((e) => (
          <line
            key={`${e.time_s}`}
            x1={at(e.time_s)}
            x2={at(e.time_s)}
            y1={top + 2}
            y2={top + LANE - 6}
            stroke="var(--enamel)"
            strokeWidth={1.6}
            strokeDasharray="4 3"
          />
        ))}
      <path
        d={`M${upper.join("L")}L${lower.join("L")}Z`}
        fill="var(--blue)"
        fillOpacity={0.3}
        stroke="var(--blue)"
        strokeWidth={1.1}
        strokeLinejoin="round"
      />
      {lane.found_s.filter(inView).map((t) => (
        <path key={t} d={`M${at(t)} ${top + LANE - 10} v6`} stroke="var(--ink)" strokeWidth={1.2} />
      ))}
    </g>
  );
}

function tick(span: number): number {
  const rough = span / 7;
  const power = 10 ** Math.floor(Math.log10(rough));
  return [1, 2, 5, 10].map((k) => k * power).find((s) => s >= rough) ?? rough;
}

function words(t: number, step: number): string {
  if (step < 0.001) return `${(t * 1000).toFixed(step < 0.0001 ? 3 : 2)} ms`;
  return step < 0.1
    ? `${(t * 1000).toFixed(step < 0.01 ? 1 : 0)} ms`
    : `${t.toFixed(step < 1 ? 1 : 0)} s`;
}
