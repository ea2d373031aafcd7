import {
  useEffect,
  useMemo,
  useRef,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
} from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Badges, type Badge } from "./Badges";
import { CountedLinks, type Counted } from "./CountedLinks";
import { DriveDrawing } from "./drawing";
import { Labels } from "./Labels";
import { MarkBody } from "./MarkBody";
import { apart } from "./motion";
import { ChainBody, ClockRing, FaceBody, LobeBody, WheelBody } from "./Parts";
import { SafeRing } from "./SafeRing";
import type { Turn } from "./turn";
import { useSeen } from "./useSeen";

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
  .meets {
    fill: var(--pen);
    stroke: var(--on-pen);
  }
  .pale {
    opacity: 0.28;
  }
`;

/** Narrower, names would only lie on what they name. */
const LEAST_LABELLED_PX = 420;

interface Props {
  picture: Schemas["DrivePicture"];
  lobes: Schemas["Lobe"][];
  plane: string;
  turn: Turn;
  safe?: { loose: number[][]; piston: number[][]; isKnown: boolean };
  chosen?: string | null;
  onChoose?: (part: string) => void;
  counted?: Counted;
  /** The parts it is about: all others stand back. */
  about?: readonly string[];
  /** What is said of parts, by a sign on them. */
  badges?: readonly Badge[];
  /** How a part is called by whoever cannot see it; its name where this says nothing. */
  says?: (part: string) => string | undefined;
  isStill?: boolean;
  hasLabels?: boolean;
  label: string;
}

/**
 * One end of the engine, drawn from the book and turned by dragging. React draws it once; its
 * `DriveDrawing` moves what moves.
 */
export function TurningDrive({
  picture,
  lobes,
  plane,
  turn,
  safe,
  chosen = null,
  onChoose,
  counted,
  about,
  badges,
  says,
  isStill,
  hasLabels = true,
  label,
}: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const grip = useRef<{ clock: number; moved: number } | null>(null);
  const drawing = useMemo(() => new DriveDrawing(picture, plane, turn), [picture, plane, turn]);
  const wheels = useMemo(
    () => picture.wheels.filter((w) => w.plane === plane).sort((a, b) => a.row - b.row),
    [picture, plane],
  );
  const faces = picture.faces.filter((f) => f.plane === plane);
  const shown = picture.planes.find((p) => p.id === plane);
  const [left = 0, bottom = 0, width = 1, height = 1] = shown?.box ?? [];
  const look = useSeen(svg, [left, bottom, width, height]);
  const crankWheel = wheels.find(
    (w) => picture.shafts.find((s) => s.id === w.shaft)?.kind === "crank",
  );
  const hub = crankWheel ?? wheels[0];
  useEffect(() => turn.draws(() => drawing.draw()), [turn, drawing]);

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
  const isAbout = (...parts: (string | null)[]) =>
    !about?.length || parts.some((p) => p !== null && about.includes(p));
  const part = (id: string, name: string, at?: string, ...also: (string | null)[]) => ({
    transform: at,
    className: isAbout(id, ...also) ? undefined : "pale",
    ...(onChoose && {
      role: "button",
      tabIndex: 0,
      "aria-label": says?.(id) ?? name,
      onClick: () => (grip.current?.moved ?? 0) < 3 && onChoose(id),
      onKeyDown: (e: KeyboardEvent) => (e.key === "Enter" || e.key === " ") && onChoose(id),
    }),
  });
  const at = (w: { x: number; y: number }) => `translate(${w.x} ${w.y})`;
  const wheelOf = (id: string) => wheels.find((w) => w.part === id);
  return (
    <Picture
      ref={svg}
      viewBox={`${left} ${-(bottom + height)} ${width} ${height}`}
      role="group"
      data-still={isStill || undefined}
      aria-label={`${label}, seen from the ${shown?.seen_from}, crank turns ${shown?.running_direction}`}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={() => setTimeout(() => (grip.current = null))}
      onPointerCancel={() => (grip.current = null)}
    >
      <g transform="scale(1 -1)">
        <JointFace outline={shown?.outline ?? []} />
        {crankWheel && <ClockRing wheel={crankWheel} />}
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
          <g key={f.part} {...part(f.part, f.name)}>
            <FaceBody drawing={drawing} of={f} isChosen={chosen === f.part} />
          </g>
        ))}
        {wheels.map((w) => (
          <g key={w.part} {...part(w.part, w.name, at(w), w.phaser)}>
            <WheelBody drawing={drawing} of={w} isChosen={chosen === w.part} />
          </g>
        ))}
        {lobes.map((lobe, i) => {
          const w = wheelOf(lobe.wheel);
          return (
            w && (
              <g key={i} transform={at(w)} pointerEvents="none">
                <LobeBody drawing={drawing} of={lobe} />
              </g>
            )
          );
        })}
        {drawing.chains.map((motion) => (
          <g key={motion.chain.part} {...part(motion.chain.part, motion.chain.name)}>
            <ChainBody drawing={drawing} of={motion} isChosen={chosen === motion.chain.part} />
          </g>
        ))}
        {picture.marks.map((mark) => {
          const w = wheelOf(mark.wheel);
          return (
            w && (
              <g
                key={mark.id}
                transform={at(w)}
                pointerEvents="none"
                className={isAbout(w.part, w.phaser) ? undefined : "pale"}
              >
                <MarkBody drawing={drawing} of={mark} wheel={w} />
              </g>
            )
          );
        })}
        {hasLabels && look && look.seen.width / look.perPx > LEAST_LABELLED_PX && (
          <Labels drawing={drawing} wheels={wheels} {...look} />
        )}
        {badges && look && <Badges drawing={drawing} badges={badges} perPx={look.perPx} />}
        {counted && <CountedLinks drawing={drawing} counted={counted} perPx={look?.perPx ?? 1} />}
      </g>
    </Picture>
  );
}

/** The joint face of the cover, faintly, for orientation. */
function JointFace({ outline }: { outline: number[][] }): ReactNode {
  if (!outline.length) return null;
  return (
    <path
      d={`M${outline.map((p) => p.join(" ")).join("L")}Z`}
      fill="var(--sheet)"
      stroke="var(--line)"
      strokeWidth={1.4}
      strokeLinejoin="round"
      pointerEvents="none"
    />
  );
}
