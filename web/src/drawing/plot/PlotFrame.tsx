import { scaleLinear, type ScaleLinear } from "d3-scale";
import { useRef, type ReactNode } from "react";
import styled from "styled-components";
import { useStretch, type Stretch } from "./stretch";
import { useWidth } from "./useWidth";

export type Scale = ScaleLinear<number, number>;
export const LETTER_PX = 13.5;

const Ground = styled.div<{ $moves: boolean }>`
  min-width: 0;
  /* As wide as its place, never as its picture was before. */
  contain: inline-size;
  overflow: hidden;
  outline-offset: 2px;
  user-select: none;
  touch-action: ${({ $moves }) => ($moves ? "none" : "auto")};
  cursor: ${({ $moves }) => ($moves ? "crosshair" : "auto")};
  & > svg {
    display: block;
  }
`;

export interface Tick {
  at: number;
  words: string;
  isMain?: boolean;
}
interface Props {
  label: string;
  height: number;
  x: readonly [number, number];
  /** Only for pictures whose height is a scale too. */
  y?: readonly [number, number];
  /** Room at the left for names or figures. */
  left: number;
  right?: number;
  top?: number;
  bottom?: number;
  xTicks: readonly Tick[] | ((x: Scale) => readonly Tick[]);
  yTicks?: readonly Tick[];
  /** Something in it can be pressed or moved: it is no mere picture. */
  isLive?: boolean;
  /** Lines from the ticks across the picture. */
  isRuled?: boolean;
  /** Where the picture can be moved and stretched along x. */
  stretch?: Stretch;
  onKey?: (key: string) => boolean;
  onPoint?: (x: number) => void;
  children: (scales: { x: Scale; y: Scale; width: number; inner: Inner }) => ReactNode;
}
export interface Inner {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/**
 * The frame of every picture with axes: drawn at its real size, so that letters keep theirs; moved
 * and stretched along x by dragging, wheel and keys where it says so.
 */
export function PlotFrame({
  label,
  height,
  x,
  y = [0, 1],
  left,
  right = 14,
  top = 8,
  bottom = 26,
  xTicks,
  yTicks = [],
  isRuled = true,
  isLive,
  stretch,
  onKey,
  onPoint,
  children,
}: Props) {
  const place = useRef<HTMLDivElement>(null);
  const width = useWidth(place);
  const inner = { left, right: Math.max(left + 40, width - right), top, bottom: height - bottom };
  const xs = scaleLinear([...x], [inner.left, inner.right]);
  const ys = scaleLinear([...y], [inner.bottom, inner.top]);
  const moves = useStretch(place, xs, stretch, onPoint, onKey);
  const ticks = spaced(typeof xTicks === "function" ? xTicks(xs) : xTicks, xs);
  return (
    <Ground
      ref={place}
      $moves={Boolean(stretch)}
      {...(stretch ? { role: "group", tabIndex: 0, "aria-label": label, ...moves } : {})}
    >
      {width > 0 && (
        <svg
          width={width}
          height={height}
          fontSize={LETTER_PX}
          {...(stretch
            ? { "aria-hidden": true }
            : { role: isLive ? "group" : "img", "aria-label": label })}
        >
          {yTicks.map((t) => (
            <g key={t.at}>
              <path
                d={`M${inner.left} ${ys(t.at)}H${inner.right}`}
                stroke="var(--line)"
                strokeWidth={t.isMain ? 1.6 : 0.7}
              />
              <text x={left - 8} y={ys(t.at) + 5} textAnchor="end" fill="var(--soft)">
                {t.words}
              </text>
            </g>
          ))}
          {ticks.map((t) => (
            <g key={t.at}>
              <path
                d={`M${xs(t.at)} ${isRuled ? inner.top : inner.bottom}V${inner.bottom + 4}`}
                stroke="var(--line)"
                strokeWidth={t.isMain ? 1.6 : 0.7}
              />
              <text
                x={Math.min(Math.max(xs(t.at), inner.left), width - 22)}
                y={height - 7}
                textAnchor="middle"
                fill="var(--soft)"
              >
                {t.words}
              </text>
            </g>
          ))}
          {children({ x: xs, y: ys, width, inner })}
        </svg>
      )}
    </Ground>
  );
}

/** Ticks whose words do not run into each other. */
function spaced(ticks: readonly Tick[], x: Scale): Tick[] {
  let free = -Infinity;
  return ticks.filter((t) => {
    const half = (t.words.length * 7.4) / 2;
    if (x(t.at) - half < free) return false;
    free = x(t.at) + half + 8;
    return true;
  });
}
