import { ticks } from "./ticks";
import { area, line } from "d3-shape";
import { PlotFrame } from "./PlotFrame";

interface Series {
  name: string;
  x: number[];
  y: number[];
  look: "measured" | "book" | "fit" | "dots";
}

interface PlotProps {
  label: string;
  series: Series[];
  xUnit: string;
  yUnit: string;
  height?: number;
  yRange?: [number, number];
  band?: [number, number];
  /** What lies between the first two series is shaded: how far the one is from the other. */
  isBetween?: boolean;
}

const LOOKS = {
  measured: { stroke: "var(--blue)", strokeWidth: 2, strokeDasharray: undefined },
  book: { stroke: "var(--enamel)", strokeWidth: 2, strokeDasharray: "6 4" },
  fit: { stroke: "var(--ink)", strokeWidth: 1.2, strokeDasharray: undefined },
} as const;
type Point = readonly [number, number];

/** A plain plot of a few lines: what was measured solid, what the book says dashed. */
export function Plot({
  label,
  series,
  xUnit,
  yUnit,
  height = 190,
  yRange,
  band,
  isBetween,
}: PlotProps) {
  const xs = series.flatMap((s) => s.x);
  const ys = [...series.flatMap((s) => s.y), ...(band ?? [])].filter(Number.isFinite);
  if (!xs.length || !ys.length) return null;
  const x: [number, number] = [least(xs), most(xs)];
  const pad = 0.08 * (most(ys) - least(ys) || 1);
  const y = yRange ?? ([least(ys) - pad, most(ys) + pad] as [number, number]);
  return (
    <PlotFrame
      label={label}
      height={height}
      x={x}
      y={y}
      left={62}
      xTicks={ticks(x, 8, xUnit)}
      yTicks={ticks(y, height > 120 ? 5 : 3, yUnit)}
      isRuled={false}
    >
      {(at) => (
        <>
          {band && (
            <rect
              x={at.inner.left}
              y={at.y(band[1])}
              width={at.inner.right - at.inner.left}
              height={Math.max(1, at.y(band[0]) - at.y(band[1]))}
              fill="var(--enamel-tint)"
              fillOpacity={0.7}
            />
          )}
          {isBetween && <Between series={series} x={at.x} y={at.y} />}
          {series.map((s) =>
            s.look === "dots" ? (
              <g key={s.name} fill="var(--blue)">
                {points(s)
                  .filter(([, v]) => Number.isFinite(v))
                  .map(([u, v], i) => (
                    <circle key={i} cx={at.x(u)} cy={at.y(v)} r={2.2} />
                  ))}
              </g>
            ) : (
              <path
                key={s.name}
                fill="none"
                {...LOOKS[s.look]}
                d={
                  line<Point>(
                    ([u]) => at.x(u),
                    ([, v]) => at.y(v),
                  ).defined(([, v]) => Number.isFinite(v))(points(s)) ?? undefined
                }
              />
            ),
          )}
        </>
      )}
    </PlotFrame>
  );
}

/** The room between two lines over the same times. */
function Between({
  series: [a, b],
  x,
  y,
}: {
  series: Series[];
  x: (v: number) => number;
  y: (v: number) => number;
}) {
  if (!a || !b) return null;
  const shape = area<number>()
    .x((i) => x(a.x[i] ?? 0))
    .y0((i) => y(a.y[i] ?? 0))
    .y1((i) => y(b.y[i] ?? 0))
    .defined((i) => Number.isFinite(a.y[i]) && Number.isFinite(b.y[i]));
  return <path d={shape([...a.x.keys()]) ?? undefined} fill="var(--blue)" fillOpacity={0.16} />;
}

const points = (s: Series) => s.x.map((v, i): Point => [v, s.y[i] ?? NaN]);
const least = (values: number[]) => values.reduce((a, b) => Math.min(a, b), Infinity);
const most = (values: number[]) => values.reduce((a, b) => Math.max(a, b), -Infinity);
