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
  width?: number;
  yRange?: [number, number];
  band?: [number, number];
}

const LEFT = 58;
const BOTTOM = 26;
const LOOKS = {
  measured: { stroke: "var(--blue)", strokeWidth: 2, strokeDasharray: undefined },
  book: { stroke: "var(--enamel)", strokeWidth: 2, strokeDasharray: "6 4" },
  fit: { stroke: "var(--ochre)", strokeWidth: 1.6, strokeDasharray: undefined },
  dots: { stroke: "none", strokeWidth: 0, strokeDasharray: undefined },
} as const;

/** A plain plot of a few lines: what was measured solid, what the book says dashed. */
export function Plot({
  label,
  series,
  xUnit,
  yUnit,
  height = 190,
  width = 780,
  yRange,
  band,
}: PlotProps) {
  const xs = series.flatMap((s) => s.x);
  const ys = [...series.flatMap((s) => s.y), ...(band ?? [])].filter(Number.isFinite);
  if (!xs.length || !ys.length) return null;
  const [x0, x1] = [least(xs), most(xs)];
  const pad = 0.08 * (most(ys) - least(ys) || 1);
  const [y0, y1] = yRange ?? [least(ys) - pad, most(ys) + pad];
  const atX = (v: number) => LEFT + ((v - x0) / (x1 - x0 || 1)) * (width - LEFT - 12);
  const atY = (v: number) => 10 + (1 - (v - y0) / (y1 - y0 || 1)) * (height - BOTTOM - 14);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width="100%" role="img" aria-label={label}>
      {band && (
        <rect
          x={LEFT}
          y={atY(band[1])}
          width={width - LEFT - 12}
          height={Math.max(1, atY(band[0]) - atY(band[1]))}
          fill="var(--enamel-tint)"
        />
      )}
      {ticks(y0, y1, height > 120 ? 5 : 3).map((v) => (
        <g key={`y${v}`}>
          <line
            x1={LEFT}
            x2={width - 12}
            y1={atY(v)}
            y2={atY(v)}
            stroke="var(--line)"
            strokeWidth={v === 0 ? 1.6 : 0.6}
          />
          <text x={LEFT - 7} y={atY(v) + 4} textAnchor="end" fontSize={12} fill="var(--soft)">
            {short(v)}
            {yUnit}
          </text>
        </g>
      ))}
      {ticks(x0, x1, width > 500 ? 8 : 4).map((v) => (
        <text
          key={`x${v}`}
          x={atX(v)}
          y={height - 8}
          textAnchor="middle"
          fontSize={12}
          fill="var(--soft)"
        >
          {short(v)}
          {xUnit}
        </text>
      ))}
      {series.map((s) =>
        s.look === "dots" ? (
          <g key={s.name} fill="var(--blue)">
            {s.x.map((v, i) =>
              Number.isFinite(s.y[i]) ? (
                <circle key={i} cx={atX(v)} cy={atY(s.y[i] ?? 0)} r={2.2} />
              ) : null,
            )}
          </g>
        ) : (
          <path key={s.name} d={path(s, atX, atY)} fill="none" {...LOOKS[s.look]} />
        ),
      )}
    </svg>
  );
}

function path(s: Series, atX: (v: number) => number, atY: (v: number) => number): string {
  let isDown = false;
  return s.x
    .map((v, i) => {
      const y = s.y[i];
      if (y === undefined || !Number.isFinite(y)) {
        isDown = false;
        return "";
      }
      const point = `${isDown ? "L" : "M"}${atX(v).toFixed(1)} ${atY(y).toFixed(1)}`;
      isDown = true;
      return point;
    })
    .join("");
}

const least = (values: number[]) => values.reduce((a, b) => Math.min(a, b), Infinity);
const most = (values: number[]) => values.reduce((a, b) => Math.max(a, b), -Infinity);
const short = (v: number) => String(Number(v.toFixed(3)));

function ticks(low: number, high: number, count: number): number[] {
  const rough = (high - low) / count || 1;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((k) => k * power).find((s) => s >= rough) ?? rough;
  const first = Math.ceil(low / step);
  return Array.from({ length: Math.max(0, Math.floor(high / step) - first + 1) }, (_, i) =>
    Number(((first + i) * step).toPrecision(12)),
  );
}
