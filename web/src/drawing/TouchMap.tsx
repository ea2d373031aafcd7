import { scaleLinear } from "d3-scale";
import styled from "styled-components";
import { useMemo, useRef, type KeyboardEvent, type PointerEvent } from "react";
import type { Schemas } from "../api/client";
import { late } from "../kit/words";
import { PlotFrame, type Inner, type Scale } from "./plot/PlotFrame";
import { CYCLE } from "./plot/ticks";

export interface Standing {
  crank: number;
  late: number;
}
interface Props {
  map: Schemas["TouchMap"];
  loose: number[][];
  piston: number[][];
  service: number;
  here: Standing;
  onMove: (to: Standing) => void;
  toothDeg: number | null;
  off: { back: number; on: number } | null;
  span: number;
}
const [HEIGHT, LEFT] = [470, 96];

const Plane = styled.g`
  touch-action: none;
  cursor: crosshair;
`;

/**
 * Crank angle across, cam lateness up: where valves would touch, where you stand, where it is safe
 * to go.
 */
export function TouchMap(props: Props) {
  const { span } = props;
  const lates = Array.from({ length: 5 }, (_, i) => -span + (i * span) / 2);
  return (
    <PlotFrame
      label="Touch map"
      isLive
      height={HEIGHT}
      x={[0, 720]}
      y={[-span, span]}
      left={LEFT}
      top={28}
      xTicks={CYCLE}
      yTicks={lates.map((at) => ({ at, words: lateTick(at), isMain: at === 0 }))}
    >
      {(at) => <Within {...props} {...at} />}
    </PlotFrame>
  );
}

function lateTick(deg: number): string {
  if (deg === 0) return "book";
  return deg > 0 ? `${deg}° late` : `${-deg}° early`;
}

function Within({
  map,
  loose,
  piston,
  service,
  here,
  onMove,
  toothDeg,
  off,
  span,
  x,
  y,
  inner,
}: Props & { x: Scale; y: Scale; inner: Inner }) {
  const plane = useRef<SVGRectElement>(null);
  const [wide, tall] = [inner.right - inner.left, inner.bottom - inner.top];
  const drawn = useMemo(() => {
    const [atX, atY] = [
      scaleLinear([0, 720], [LEFT, LEFT + wide]),
      scaleLinear([-span, span], [inner.top + tall, inner.top]),
    ];
    return {
      touches: outline(map.rows, span, atX, atY, (r) => r.touches),
      near: outline(map.rows, span, atX, atY, (r) => r.near),
    };
  }, [map, span, wide, tall, inner.top]);

  function onPoint(event: PointerEvent) {
    const box = plane.current?.getBoundingClientRect();
    if (!box || (event.type === "pointermove" && event.buttons !== 1)) return;
    const crank = Math.round(x.invert(event.clientX - box.left + inner.left));
    const late = Math.round(y.invert(event.clientY - box.top + inner.top));
    onMove({
      crank: Math.max(0, Math.min(719, crank)),
      late: Math.max(-span, Math.min(span, late)),
    });
  }
  function onKey(event: KeyboardEvent) {
    const by = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[
      event.key
    ];
    if (!by) return;
    event.preventDefault();
    const [dx = 0, dy = 0] = by;
    onMove({
      crank: (here.crank + dx + 720) % 720,
      late: Math.max(-span, Math.min(span, here.late + dy)),
    });
  }
  const teeth = toothDeg
    ? [-3, -2, -1, 1, 2, 3]
        .map((k) => ({ k, late: k * toothDeg }))
        .filter((t) => Math.abs(t.late) < span)
    : [];
  return (
    <Plane onPointerDown={onPoint} onPointerMove={onPoint}>
      <defs>
        <pattern
          id="touch"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="7" height="7" fill="var(--red-tint)" />
          <line x1="0" y1="0" x2="0" y2="7" stroke="var(--red)" strokeWidth="3" />
        </pattern>
        <pattern id="near" width="6" height="6" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="var(--ochre-tint)" />
          <circle cx="3" cy="3" r="1.1" fill="var(--ochre)" />
        </pattern>
      </defs>
      <rect
        ref={plane}
        x={LEFT}
        y={inner.top}
        width={wide}
        height={tall}
        fill="var(--sheet)"
        stroke="var(--edge)"
      />
      {map.is_known &&
        bands(loose).map(([a = 0, b = 0]) => (
          <rect
            key={a}
            x={x(a)}
            y={inner.top}
            width={x(b) - x(a)}
            height={tall}
            fill="var(--enamel-tint)"
          />
        ))}
      {map.is_known ? (
        <>
          <path d={drawn.near} fill="url(#near)" />
          <path d={drawn.touches} fill="url(#touch)" />
        </>
      ) : (
        <rect x={LEFT} y={inner.top} width={wide} height={tall} fill="url(#touch)" />
      )}
      {!map.is_known && (
        <text
          x={LEFT + wide / 2}
          y={inner.top + tall / 2}
          textAnchor="middle"
          fontSize={24}
          fontWeight={700}
          fill="var(--ink)"
          stroke="var(--sheet)"
          strokeWidth={5}
          paintOrder="stroke"
        >
          unknown: treat as touching
        </text>
      )}
      {map.is_known &&
        loose.length === 0 &&
        bands(piston)
          .flatMap((band) => band)
          .map((at) => (
            <line
              key={at}
              x1={x(at)}
              x2={x(at)}
              y1={inner.top}
              y2={inner.bottom}
              stroke="var(--ink)"
              strokeWidth={1.4}
              strokeDasharray="2 4"
            />
          ))}
      <line x1={LEFT} x2={inner.right} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth={1} />
      {teeth.map((t) => (
        <g key={t.k}>
          <line
            x1={LEFT}
            x2={inner.right}
            y1={y(t.late)}
            y2={y(t.late)}
            stroke="var(--blue)"
            strokeWidth={0.8}
            strokeDasharray="3 5"
          />
          {span < 200 && (
            <text
              x={inner.right - 4}
              y={y(t.late) - 3}
              textAnchor="end"
              fill="var(--blue)"
              stroke="var(--sheet)"
              strokeWidth={3}
              paintOrder="stroke"
            >
              {Math.abs(t.k)} {Math.abs(t.k) === 1 ? "tooth" : "teeth"} {t.k > 0 ? "late" : "early"}
            </text>
          )}
        </g>
      ))}
      {off &&
        [0, 720, -720].map((turn) => (
          <line
            key={turn}
            x1={x(service + off.back + turn)}
            y1={y(off.back)}
            x2={x(service + off.on + turn)}
            y2={y(off.on)}
            stroke="var(--blue)"
            strokeWidth={4}
            clipPath="url(#frame)"
          />
        ))}
      <clipPath id="frame">
        <rect x={LEFT} y={inner.top} width={wide} height={tall} />
      </clipPath>
      <line
        x1={x(service)}
        x2={x(service)}
        y1={inner.top - 4}
        y2={inner.bottom}
        stroke="var(--enamel)"
        strokeWidth={1.4}
        strokeDasharray="6 4"
      />
      <text x={Math.max(x(service) + 4, LEFT + 4)} y={inner.top - 9} fill="var(--enamel)">
        service position {service}°
      </text>
      <g
        role="slider"
        tabIndex={0}
        aria-label="Where you stand"
        aria-valuemin={0}
        aria-valuemax={719}
        aria-valuenow={here.crank}
        aria-valuetext={`crank ${here.crank}°, cam ${late(here.late, 0)}`}
        onKeyDown={onKey}
        transform={`translate(${x(here.crank)} ${y(here.late)})`}
      >
        <circle r={11} fill="var(--pen)" stroke="var(--on-pen)" strokeWidth={2} />
        <path d="M-17 0h34M0 -17v34" stroke="var(--ink)" strokeWidth={1.6} />
      </g>
    </Plane>
  );
}

/** Stretches of all rows within a span as one path. */
function outline(
  rows: Schemas["RowOutline"][],
  span: number,
  atX: Scale,
  atY: Scale,
  of: (row: Schemas["RowOutline"]) => number[][],
): string {
  const tall = atY(0) - atY(3);
  return rows
    .filter((r) => Math.abs(r.late_deg) <= span)
    .flatMap((r) =>
      of(r).map(([a = 0, b = 0]) => {
        const [left, top] = [atX(a).toFixed(1), (atY(r.late_deg) - tall / 2).toFixed(1)];
        const wide = atX(b) - atX(a);
        const down = (tall + 0.2).toFixed(1);
        return `M${left} ${top}h${wide.toFixed(1)}v${down}h${(-wide).toFixed(1)}z`;
      }),
    )
    .join("");
}

/** Windows of one turn over both turns of the cycle. */
function bands(windows: number[][]): number[][] {
  return [0, 360].flatMap((turn) => windows.flatMap(([a = 0, b = 0]) => spans(a + turn, b + turn)));
}

/** A window within 0 to 720, in two where it runs past the end. */
function spans(a: number, b: number): number[][] {
  if (a >= 720) return [];
  return b <= 720
    ? [[a, b]]
    : [
        [a, 720],
        [0, b - 720],
      ];
}
