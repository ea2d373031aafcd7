import { area, line } from "d3-shape";
import type { Schemas } from "../api/client";
import { PlotFrame } from "./plot/PlotFrame";
import { ticks } from "./plot/ticks";

type Course = Schemas["PartCourse"];
type Point = Course["points"][number];

/**
 * A part's wear over the engine's hours: what was read with its error, the course by all that is
 * known with 90 % of it, the limit, and when it is met. Drawn full where it was measured on the
 * part, hollow where it was read from cams.
 */
export function WearCourse({
  course,
  now,
  height,
}: {
  course: Course;
  now: number;
  height: number;
}) {
  const { trend, points, read } = course;
  const limit = trend.limit;
  const last = points[points.length - 1]?.hours ?? now;
  const x: [number, number] = [Math.min(0, course.since), Math.max(last, now)];
  const here = points.find((p) => p.hours >= now - 1)?.middle ?? 0;
  const top = Math.max(1.35 * limit, 1.15 * here, ...read.map((r) => r.value + r.stderr));
  const y: [number, number] = [0, top];
  const met = course.at_limit_hours;
  const ends = met.middle === null ? "not foreseen" : `about ${round(met.middle)} h`;
  const label =
    `${trend.name}: wear ${trend.wear.middle?.toFixed(2)} ${trend.unit} of ${limit} ${trend.unit} ` +
    `at ${round(now)} h; limit met: ${ends}.`;
  return (
    <PlotFrame
      label={label}
      height={height}
      x={x}
      y={y}
      left={62}
      right={16}
      xTicks={ticks(x, 7, " h")}
      yTicks={ticks(y, height > 160 ? 5 : 3, ` ${trend.unit}`)}
      isRuled={false}
    >
      {(at) => {
        const fan = area<Point>()
          .x((p) => at.x(p.hours))
          .y0((p) => at.y(Math.min(p.low, top)))
          .y1((p) => at.y(Math.min(p.high, top)));
        const middle = line<Point>()
          .x((p) => at.x(p.hours))
          .y((p) => at.y(Math.min(p.middle, top)));
        return (
          <>
            <path d={fan(points) ?? undefined} fill="var(--blue)" fillOpacity={0.16} />
            <path
              d={middle(points.filter((p) => p.hours <= now + 1)) ?? undefined}
              fill="none"
              stroke="var(--blue)"
              strokeWidth={2}
            />
            <path
              d={middle(points.filter((p) => p.hours >= now - 1)) ?? undefined}
              fill="none"
              stroke="var(--blue)"
              strokeWidth={2}
              strokeDasharray="6 5"
            />
            <path
              d={`M${at.inner.left} ${at.y(limit)}H${at.inner.right}`}
              stroke="var(--red)"
              strokeWidth={2}
            />
            <text x={at.inner.left + 6} y={at.y(limit) - 6} fill="var(--red)">
              limit {limit} {trend.unit}
            </text>
            {met.middle !== null && met.middle > now && met.middle <= last && (
              <g stroke="var(--red)" strokeWidth={2}>
                <path
                  d={
                    `M${at.x(Math.max(met.low ?? now, now))} ${at.y(limit)}` +
                    `H${at.x(Math.min(met.high ?? last, last))}`
                  }
                  strokeWidth={7}
                  strokeOpacity={0.45}
                />
                <path d={`M${at.x(met.middle)} ${at.y(limit) - 9}v18`} />
              </g>
            )}
            <path
              d={`M${at.x(now)} ${at.inner.top}V${at.inner.bottom}`}
              stroke="var(--ink)"
              strokeDasharray="3 4"
            />
            <text x={at.x(now) - 5} y={at.inner.top + 12} textAnchor="end" fill="var(--ink)">
              now
            </text>
            {read.map((r, i) => (
              <g key={i} stroke="var(--ink)" strokeWidth={1.6}>
                <path
                  d={
                    `M${at.x(r.hours)} ${at.y(Math.max(0, r.value - r.stderr))}` +
                    `V${at.y(Math.min(top, r.value + r.stderr))}`
                  }
                />
                <circle
                  cx={at.x(r.hours)}
                  cy={at.y(Math.max(0, Math.min(top, r.value)))}
                  r={5}
                  fill={r.how === "measured" ? "var(--ink)" : "var(--sheet)"}
                />
              </g>
            ))}
          </>
        );
      }}
    </PlotFrame>
  );
}

const round = (hours: number) => Math.round(hours / 10) * 10;
