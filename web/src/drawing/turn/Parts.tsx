import type { Schemas } from "../../api/client";
import type { DriveDrawing } from "./drawing";
import type { ChainMotion } from "./motion";
import { ring, teeth, through } from "./shapes";

const LINKS: Record<string, string> = {
  blue: "var(--blue)",
  copper: "var(--copper)",
  yellow: "var(--pen)",
  "white line": "#FFFFFF",
};
const RAIL_MM = 11;
const BORE_MM = 20;
const PLUNGER_MM = 9;
/** What shows that a part is chosen: a pale ring round it, never the colour of marks. */
const RING = { stroke: "var(--ink)", strokeWidth: 3, fill: "none", className: "ring" } as const;

interface Of<T> {
  drawing: DriveDrawing;
  of: T;
  isChosen: boolean;
}

/** A sprocket, pulley or gear: teeth, rim, a web with five holes, a dark hub. */
export function WheelBody({ drawing, of: w, isChosen }: Of<Schemas["WheelPicture"]>) {
  const pitch = (2 * Math.PI * w.radius) / w.teeth;
  const rim = w.radius - 0.9 * pitch;
  const isWebbed = rim > 17;
  return (
    <>
      {isChosen && <circle r={w.radius + 8} {...RING} />}
      <g data-spin={w.part} ref={drawing.spins(w)}>
        <path
          d={teeth(w)}
          fill={w.role === "exhaust" ? "var(--sheet)" : "var(--steel-pale)"}
          stroke="var(--steel)"
          strokeWidth={1.1}
        />
        <circle r={rim} fill="none" stroke="var(--steel-light)" strokeWidth={1.2} />
        {isWebbed &&
          [0, 72, 144, 216, 288].map((at) => (
            <circle
              key={at}
              cy={rim * 0.64}
              r={rim * 0.13}
              transform={`rotate(${at + 36})`}
              fill="var(--sheet)"
              stroke="var(--steel-light)"
              strokeWidth={1}
            />
          ))}
        {w.travel_clock_deg !== 0 && (
          <>
            <circle r={rim * 0.42} fill="none" stroke="var(--steel)" strokeWidth={1.1} />
            <path
              d={ring(rim * 0.42, 0, w.travel_clock_deg)}
              fill="none"
              stroke="var(--blue)"
              strokeWidth={4}
            />
          </>
        )}
        <circle r={Math.max(4, w.radius * 0.16)} fill="var(--steel)" />
        <circle r={Math.max(1.6, w.radius * 0.05)} fill="var(--sheet)" />
      </g>
    </>
  );
}

/** A guide or arm: rail and what is left of its liner; a roller; a tensioner with its plunger. */
export function FaceBody({ drawing, of: f, isChosen }: Of<Schemas["FacePicture"]>) {
  if (f.kind === "tensioner") return <Tensioner drawing={drawing} of={f} isChosen={isChosen} />;
  const wide = f.liner_mm === null ? 6 : RAIL_MM;
  const rail = { fill: "none", strokeLinecap: "round", strokeLinejoin: "round" } as const;
  return (
    <>
      {isChosen && (
        <path
          ref={drawing.rail(f)}
          {...rail}
          stroke="var(--ink)"
          strokeOpacity={0.35}
          strokeWidth={wide + 12}
        />
      )}
      <path
        data-bend={f.part}
        ref={drawing.rail(f)}
        {...rail}
        stroke="var(--steel)"
        strokeWidth={wide}
        strokeDasharray={f.is_second_bank ? "16 12" : undefined}
      />
      {f.is_second_bank && (
        <path
          ref={drawing.rail(f)}
          {...rail}
          stroke="var(--steel)"
          strokeOpacity={0.5}
          strokeWidth={wide - 3}
        />
      )}
      {f.liner_mm !== null && (
        <path
          data-liner={f.part}
          ref={drawing.liner(f)}
          fill="none"
          stroke="var(--steel-light)"
          strokeWidth={Math.max(0.4, f.liner_mm)}
        />
      )}
      {f.pivot && (
        <g transform={`translate(${f.pivot.join(" ")})`}>
          <circle r={8} fill="var(--steel)" />
          <circle r={3.4} fill="var(--sheet)" />
        </g>
      )}
    </>
  );
}

function Tensioner({ drawing, of: f, isChosen }: Of<Schemas["FacePicture"]>) {
  const body = through(f.forward.slice(0, 2));
  return (
    <>
      {isChosen && (
        <path d={body} stroke="var(--ink)" strokeOpacity={0.35} strokeWidth={BORE_MM + 12} />
      )}
      <path
        data-bend={f.part}
        ref={drawing.plunger(f)}
        stroke="var(--steel-light)"
        strokeWidth={PLUNGER_MM}
      />
      {f.notch_mm !== null && (
        <path
          ref={drawing.notches(f, f.notch_mm)}
          stroke="var(--ink)"
          strokeWidth={0.7}
          fill="none"
        />
      )}
      <path d={body} stroke="var(--steel)" strokeWidth={BORE_MM} />
      <path d={body} stroke="var(--steel-light)" strokeWidth={1} strokeDasharray="5 3" />
    </>
  );
}

/** A chain, plate by plate: outer over inner, light pins, marked links in their colour; or a belt. */
export function ChainBody({ drawing, of: motion, isChosen }: Of<ChainMotion>) {
  const { chain } = motion;
  const name = { "data-chain": chain.part };
  if (chain.is_belt) return <Belt drawing={drawing} of={motion} isChosen={isChosen} />;
  return (
    <>
      {isChosen && <Halo drawing={drawing} of={motion} />}
      <path
        {...name}
        data-what="odd"
        ref={drawing.plates(motion, 1)}
        fill="var(--steel)"
        stroke="var(--ink)"
        strokeWidth={0.5}
      />
      <path
        {...name}
        data-what="even"
        ref={drawing.plates(motion, 0)}
        fill={chain.is_second_bank ? "var(--steel-pale)" : "var(--steel-light)"}
        stroke="var(--ink)"
        strokeWidth={0.7}
      />
      <path
        {...name}
        data-what="pins"
        ref={drawing.pins(motion)}
        stroke="var(--sheet)"
        strokeWidth={1.8}
      />
      {chain.coloured.map((c) => (
        <path
          key={c.link}
          {...name}
          data-what={c.link}
          ref={drawing.marked(motion, c.link)}
          fill={LINKS[c.colour] ?? "var(--pen)"}
          stroke="var(--ink)"
          strokeWidth={1}
        />
      ))}
    </>
  );
}

function Belt({ drawing, of: motion, isChosen }: Of<ChainMotion>) {
  const { chain } = motion;
  const name = { "data-chain": chain.part, fill: "none", stroke: "var(--ink)" };
  return (
    <>
      {isChosen && <Halo drawing={drawing} of={motion} />}
      <path
        {...name}
        data-what="even"
        ref={drawing.plates(motion, 0)}
        strokeWidth={0.5 * chain.pitch_mm}
      />
      <path
        {...name}
        data-what="odd"
        ref={drawing.plates(motion, 1)}
        strokeWidth={0.5 * chain.pitch_mm}
      />
      {chain.coloured.map((c) => (
        <g key={c.link}>
          {[0.98, 0.72].map((of) => (
            <path
              key={of}
              {...name}
              data-what={c.link}
              ref={drawing.marked(motion, c.link)}
              stroke={of > 0.9 ? "var(--ink)" : (LINKS[c.colour] ?? "var(--pen)")}
              strokeWidth={of * chain.pitch_mm}
              strokeLinecap="round"
            />
          ))}
        </g>
      ))}
    </>
  );
}

function Halo({ drawing, of }: { drawing: DriveDrawing; of: ChainMotion }) {
  return (
    <>
      {([0, 1] as const).map((odd) => (
        <path
          key={odd}
          ref={drawing.plates(of, odd)}
          fill="none"
          stroke="var(--ink)"
          strokeOpacity={0.35}
          strokeWidth={of.chain.pitch_mm * 1.1}
          strokeLinejoin="round"
        />
      ))}
    </>
  );
}

/** A cam's lobe: intake solid, exhaust open, the cylinder opposite dashed. */
export function LobeBody({ drawing, of: lobe }: Omit<Of<Schemas["Lobe"]>, "isChosen">) {
  return (
    <path
      data-lobe
      ref={drawing.lobe(lobe)}
      d={`M${lobe.outline.map((p) => p.join(" ")).join("L")}Z`}
      fill={!lobe.is_first ? "none" : lobe.kind === "intake" ? "var(--enamel)" : "var(--sheet)"}
      fillOpacity={0.8}
      stroke={lobe.is_first && lobe.kind === "intake" ? "var(--enamel-edge)" : "var(--ink)"}
      strokeWidth={1.4}
      strokeDasharray={lobe.is_first ? undefined : "3 3"}
    />
  );
}

/** A clock round the crank: where twelve is, and every hour. */
export function ClockRing({ wheel }: { wheel: Schemas["WheelPicture"] }) {
  const r = wheel.radius + 30;
  return (
    <g
      transform={`translate(${wheel.x} ${wheel.y})`}
      stroke="var(--edge)"
      fill="none"
      pointerEvents="none"
      aria-hidden
    >
      <circle r={r} strokeWidth={0.7} />
      {Array.from({ length: 12 }, (_, i) => (
        <path
          key={i}
          d={`M0 ${r}V${i % 3 ? r - 3 : r - 6}`}
          transform={`rotate(${-30 * i})`}
          strokeWidth={i ? 1 : 2.4}
        />
      ))}
    </g>
  );
}
