import { useEffect, useMemo, useRef, type KeyboardEvent, type PointerEvent } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { CountedLinks, type Counted } from "./CountedLinks";
import { apart, markOffset, motions, NEAR_DEG, wheelClock } from "./motion";
import { SafeRing } from "./SafeRing";
import { between, body, markShape, most, pinDots, pointer, ring, teeth } from "./shapes";
import type { Turn } from "./turn";

const Picture = styled.svg`
  width: 100%;
  height: 100%;
  display: block;
  touch-action: none;
  cursor: grab;
  user-select: none;
  &[data-still] {
    cursor: default;
    touch-action: auto;
  }
  [role="button"] {
    cursor: pointer;
    outline-offset: 1px;
  }
  path.chosen {
    stroke: var(--pen);
    stroke-width: 4;
  }
  .meets {
    fill: var(--pen);
    stroke: var(--on-pen);
  }
`;
const LINKS: Record<string, string> = {
  blue: "var(--blue)",
  copper: "#B4672B",
  yellow: "var(--pen)",
  "white line": "#FFFFFF",
};

interface Props {
  picture: Schemas["DrivePicture"];
  lobes: Schemas["Lobe"][];
  plane: string;
  turn: Turn;
  safe?: { loose: number[][]; piston: number[][]; isKnown: boolean };
  chosen?: string | null;
  onChoose?: (part: string) => void;
  counted?: Counted;
  isStill?: boolean;
  label: string;
}

/**
 * One end of the engine, drawn from the book and turned by dragging. React draws it once; turning
 * only moves what moves, straight on the elements, so that it keeps up with a hand.
 */
export function TurningDrive({
  picture,
  lobes,
  plane,
  turn,
  safe,
  chosen,
  onChoose,
  counted,
  isStill,
  label,
}: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const grip = useRef<{ clock: number; moved: number } | null>(null);
  const chains = useMemo(() => motions(picture, plane), [picture, plane]);
  const shafts = useMemo(() => new Map(picture.shafts.map((s) => [s.id, s])), [picture]);
  const wheels = picture.wheels.filter((w) => w.plane === plane).sort((a, b) => a.row - b.row);
  const faces = picture.faces.filter((f) => f.plane === plane);
  const marks = picture.marks.filter((m) => wheels.some((w) => w.part === m.wheel));
  const box = picture.planes.find((p) => p.id === plane)?.box ?? [0, 0, 1, 1];
  const crankWheel = wheels.find((w) => shafts.get(w.shaft)?.kind === "crank");
  const hub = crankWheel ?? wheels[0];
  const [left = 0, bottom = 0, width = 1, tall = 1] = box;
  const low = safe && crankWheel ? Math.min(bottom, crankWheel.y - crankWheel.radius - 36) : bottom;
  const height = tall + (bottom - low);

  useEffect(() => {
    const root = svg.current;
    if (!root) return;
    const all = (name: string) => [...root.querySelectorAll<SVGElement>(`[data-${name}]`)];
    const spun = all("spin").flatMap((el) =>
      wheels.filter((w) => w.part === el.dataset.spin).map((w) => ({ el, w })),
    );
    const lobed = all("lobe").flatMap((el) =>
      lobes.filter((_, i) => String(i) === el.dataset.lobe).map((lobe) => ({ el, lobe })),
    );
    const met = all("meet").flatMap((el) =>
      marks.filter((m) => m.id === el.dataset.meet).map((mark) => ({ el, mark })),
    );
    const strokes = all("chain").map((el) => ({
      el,
      motion: chains.find((c) => c.chain.part === el.dataset.chain),
      what: el.dataset.what ?? "",
    }));
    const bent = all("bend").map((el) => {
      const face = faces.find((f) => f.part === el.dataset.bend);
      return { el, face, motion: chains.find((c) => c.chain.part === face?.chain) };
    });
    const spotted = all("count").map((el) => ({
      el,
      motion: chains.find((c) => c.chain.part === counted?.chain),
      k: Number(el.dataset.count),
    }));
    function draw() {
      for (const { el, w } of spun)
        el.setAttribute(
          "transform",
          `rotate(${(-wheelClock(w, shafts.get(w.shaft), turn)).toFixed(3)})`,
        );
      for (const { el, lobe } of lobed) {
        const shaft = shafts.get(lobe.cam);
        const crank = turn.followed(shaft?.lash_deg ?? 0) - turn.service - (shaft?.late_deg ?? 0);
        el.setAttribute(
          "transform",
          `rotate(${(-(lobe.nose_clock_deg + lobe.clock_per_crank * crank)).toFixed(3)})`,
        );
      }
      for (const { el, mark } of met) {
        const w = wheels.find((x) => x.part === mark.wheel);
        if (!w) continue;
        const here =
          wheelClock(w, shafts.get(w.shaft), turn) + markOffset(mark, w, picture.service_deg);
        el.classList.toggle("meets", Math.abs(apart(here, mark.clock_deg)) < NEAR_DEG);
      }
      for (const motion of chains) motion.place(turn);
      for (const { el, motion, what } of strokes) {
        if (!motion) continue;
        el.setAttribute(
          "d",
          what === "even"
            ? motion.plates(0)
            : what === "odd"
              ? motion.plates(1)
              : what === "pins"
                ? pinDots(motion.at)
                : motion.link(Number(what)),
        );
      }
      for (const { el, face, motion } of bent)
        if (face)
          el.setAttribute("d", between(face.forward, face.back, motion?.slackShare(turn) ?? 0));
      for (const { el, motion, k } of spotted) {
        const at = motion?.middle(k);
        if (at)
          el.setAttribute(
            "transform",
            `translate(${at[0].toFixed(1)} ${at[1].toFixed(1)}) scale(1 -1)`,
          );
      }
    }
    return turn.draws(draw);
  });

  /** Clock position of the pointer about the crank (or the first wheel of this end). */
  function clockOf(event: PointerEvent): number {
    const matrix = svg.current?.getScreenCTM();
    if (!matrix || !hub) return 0;
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return (Math.atan2(p.x - hub.x, -p.y - hub.y) * 180) / Math.PI;
  }
  function onDown(event: PointerEvent) {
    if (!isStill && event.button === 0) grip.current = { clock: clockOf(event), moved: 0 };
  }
  function onMove(event: PointerEvent) {
    const held = grip.current;
    if (!held || !hub) return;
    const here = clockOf(event);
    const delta = apart(here, held.clock);
    held.clock = here;
    held.moved += Math.abs(delta);
    if (held.moved > 1.5) {
      svg.current?.setPointerCapture(event.pointerId);
      turn.by(delta / hub.clock_per_crank);
    }
  }
  const pick = (part: string, name: string) => ({
    role: "button",
    tabIndex: onChoose ? 0 : -1,
    "aria-label": name,
    onClick: () => (grip.current?.moved ?? 0) < 3 && onChoose?.(part),
    onKeyDown: (e: KeyboardEvent) => (e.key === "Enter" || e.key === " ") && onChoose?.(part),
  });
  const still = (part: string, name: string) => (onChoose ? pick(part, name) : {});
  const seen = picture.planes.find((p) => p.id === plane);
  const from = seen?.seen_from ?? "";
  const way = `seen from the ${from}, crank turns ${seen?.running_direction ?? ""}`;
  return (
    <Picture
      ref={svg}
      viewBox={`${left} ${-(low + height)} ${width} ${height}`}
      role="group"
      data-still={isStill || undefined}
      aria-label={`${label}, ${way}`}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={() => setTimeout(() => (grip.current = null))}
      onPointerCancel={() => (grip.current = null)}
    >
      <g transform="scale(1 -1)">
        {safe && crankWheel && (
          <SafeRing
            wheel={crankWheel}
            loose={safe.loose}
            piston={safe.piston}
            isKnown={safe.isKnown}
            turn={turn}
          />
        )}
        {faces.map((f) => (
          <g
            key={f.part}
            fill="none"
            stroke={
              chosen === f.part ? "var(--pen)" : f.kind === "guide" ? "var(--soft)" : "var(--ink)"
            }
            {...still(f.part, f.name)}
          >
            <path
              data-bend={f.part}
              strokeLinecap={f.kind === "tensioner" ? "butt" : "round"}
              strokeWidth={f.kind === "tensioner" ? 5 : f.kind === "arm" ? 9 : 7}
              strokeOpacity={f.kind === "tensioner" ? 1 : 0.75}
            />
            {f.kind === "tensioner" && <path d={body(f.forward)} strokeWidth={15} />}
          </g>
        ))}
        {wheels.map((w) => (
          <g key={w.part} transform={`translate(${w.x} ${w.y})`} {...still(w.part, w.name)}>
            <g data-spin={w.part}>
              <path
                d={teeth(w)}
                fill={w.role === "exhaust" ? "var(--sheet)" : "var(--enamel-tint)"}
                stroke="var(--enamel)"
                strokeWidth={w.row ? 0.8 : 1.2}
                className={chosen === w.part ? "chosen" : undefined}
              />
              {w.travel_clock_deg !== 0 && (
                <path
                  d={ring(w.radius * 0.62, 0, w.travel_clock_deg)}
                  fill="none"
                  stroke="var(--blue)"
                  strokeWidth={4}
                  strokeOpacity={0.55}
                />
              )}
              <circle
                r={Math.max(4, w.radius * 0.18)}
                fill="var(--sheet)"
                stroke="var(--enamel)"
                strokeWidth={1}
              />
            </g>
          </g>
        ))}
        {lobes.map((lobe, i) => {
          const w = wheels.find((x) => x.part === lobe.wheel);
          return (
            w && (
              <g key={i} transform={`translate(${w.x} ${w.y})`} pointerEvents="none">
                <path
                  data-lobe={i}
                  d={`M${lobe.outline.map((p) => p.join(" ")).join("L")}Z`}
                  fill={
                    lobe.is_first
                      ? lobe.kind === "intake"
                        ? "var(--ochre)"
                        : "var(--sheet)"
                      : "none"
                  }
                  fillOpacity={0.75}
                  stroke="var(--ochre)"
                  strokeWidth={1.4}
                  strokeDasharray={lobe.is_first ? undefined : "3 3"}
                />
              </g>
            )
          );
        })}
        {chains.map(({ chain }) => (
          <g key={chain.part} {...still(chain.part, chain.name)} fill="none">
            <path
              data-chain={chain.part}
              data-what="even"
              stroke={chosen === chain.part ? "var(--pen)" : "var(--ink)"}
              strokeWidth={0.5 * chain.pitch_mm}
              strokeLinecap={chain.is_belt ? "butt" : "round"}
            />
            <path
              data-chain={chain.part}
              data-what="odd"
              stroke={chain.is_belt ? "var(--ink)" : "var(--soft)"}
              strokeWidth={(chain.is_belt ? 0.5 : 0.36) * chain.pitch_mm}
              strokeLinecap={chain.is_belt ? "butt" : "round"}
            />
            {!chain.is_belt && (
              <path
                data-chain={chain.part}
                data-what="pins"
                stroke="var(--ground)"
                strokeWidth={1.4}
              />
            )}
            {chain.coloured.map((c) => (
              <g key={c.link}>
                <path
                  data-chain={chain.part}
                  data-what={c.link}
                  stroke="var(--ink)"
                  strokeWidth={0.98 * chain.pitch_mm}
                  strokeLinecap="round"
                />
                <path
                  data-chain={chain.part}
                  data-what={c.link}
                  stroke={LINKS[c.colour] ?? "var(--pen)"}
                  strokeWidth={0.72 * chain.pitch_mm}
                  strokeLinecap="round"
                />
              </g>
            ))}
          </g>
        ))}
        {marks.map((m) => {
          const w = wheels.find((x) => x.part === m.wheel);
          return (
            w && (
              <g key={m.id} transform={`translate(${w.x} ${w.y})`} pointerEvents="none">
                <g data-spin={w.part}>
                  <path
                    d={markShape(m.form, w, markOffset(m, w, picture.service_deg))}
                    fill={m.is_timing && m.form !== "line" ? "var(--ink)" : "none"}
                    stroke={m.is_timing ? "var(--ink)" : "var(--soft)"}
                    strokeWidth={m.is_timing ? 1.8 : 1}
                    strokeDasharray={m.is_timing ? undefined : "2 1.5"}
                  />
                </g>
                {m.is_timing && m.form !== "keyway" && (
                  <path
                    data-meet={m.id}
                    d={pointer(w, m.clock_deg)}
                    fill="var(--sheet)"
                    stroke="var(--ink)"
                    strokeWidth={1.2}
                  />
                )}
              </g>
            )
          );
        })}
        <g aria-hidden pointerEvents="none">
          {wheels
            .filter((w) => w.label && w.radius === most(wheels, w.shaft))
            .map((w) => (
              <text
                key={w.part}
                transform={`translate(${w.x} ${w.y}) scale(1 -1)`}
                textAnchor="middle"
                fontSize={Math.min(13, w.radius * 0.26)}
                fill="var(--ink)"
              >
                {w.label.split(" ").map((word, i, words) => (
                  <tspan
                    key={word}
                    x={0}
                    y={
                      w.radius * (words.length > 1 ? 0.5 : 0.6) + i * Math.min(13, w.radius * 0.26)
                    }
                  >
                    {word}
                  </tspan>
                ))}
              </text>
            ))}
        </g>
        {counted && <CountedLinks counted={counted} />}
      </g>
    </Picture>
  );
}
