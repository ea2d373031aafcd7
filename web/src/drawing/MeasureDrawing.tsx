import styled from "styled-components";
import type { ReactNode } from "react";

const steel = { fill: "var(--enamel-tint)", stroke: "var(--enamel)", strokeWidth: 2 };
const line = { fill: "none", stroke: "var(--ink)", strokeWidth: 2 };
const measured = { fill: "none", stroke: "var(--blue)", strokeWidth: 2.5 };
const soft = { fontSize: 15, fill: "var(--soft)" };
const bold = { fontSize: 15.5, fontWeight: 700, fill: "var(--blue)" };

function Arrow({
  x1,
  y1,
  x2,
  y2,
  text,
  dy = -7,
}: {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
  text: string;
  dy?: number;
}) {
  const a = (Math.atan2(y2 - y1, x2 - x1) * 180) / Math.PI;
  return (
    <g>
      <line x1={x1} y1={y1} x2={x2} y2={y2} {...measured} />
      <path
        d="M0 0 l-9 -4 v8 z"
        fill="var(--blue)"
        transform={`translate(${x2} ${y2}) rotate(${a})`}
      />
      <path
        d="M0 0 l-9 -4 v8 z"
        fill="var(--blue)"
        transform={`translate(${x1} ${y1}) rotate(${a + 180})`}
      />
      <text x={(x1 + x2) / 2} y={(y1 + y2) / 2 + dy} textAnchor="middle" {...bold}>
        {text}
      </text>
    </g>
  );
}

function Sprocket({ x, y, r, teeth = 18 }: { x: number; y: number; r: number; teeth?: number }) {
  const points = Array.from({ length: teeth * 2 }, (_, i) => {
    const a = (i / (teeth * 2)) * 2 * Math.PI;
    const q = i % 2 ? r : r - 6;
    return `${(x + q * Math.cos(a)).toFixed(1)},${(y + q * Math.sin(a)).toFixed(1)}`;
  });
  return (
    <g>
      <polygon points={points.join(" ")} {...steel} />
      <circle cx={x} cy={y} r={5} {...line} />
    </g>
  );
}

function Links({
  x,
  y,
  count,
  pitch = 24,
}: {
  x: number;
  y: number;
  count: number;
  pitch?: number;
}) {
  return (
    <g>
      {Array.from({ length: count }, (_, i) => (
        <g key={i}>
          <rect
            x={x + i * pitch - 3}
            y={y - 8}
            width={pitch + 6}
            height={16}
            rx={8}
            {...steel}
            strokeWidth={1.5}
            fillOpacity={i % 2 ? 1 : 0.3}
          />
          <circle cx={x + i * pitch} cy={y} r={3} fill="var(--ink)" />
        </g>
      ))}
      <circle cx={x + count * pitch} cy={y} r={3} fill="var(--ink)" />
    </g>
  );
}

const DRAWINGS: Record<string, ReactNode> = {
  lash: (
    <>
      <Sprocket x={110} y={110} r={62} />
      <path d="M110 110 L110 30" {...line} />
      <path d="M110 110 L158 46" {...measured} />
      <path d="M110 36 A74 74 0 0 1 154 51" {...measured} />
      <text x={142} y={28} {...bold}>
        lash
      </text>
      <text x={14} y={196} {...soft}>
        stop at the end of forward motion, then back
      </text>
      <path d="M60 178 A80 80 0 0 1 34 90" {...line} strokeDasharray="5 4" />
      <path d="M34 90 l-5 11 l10 1 z" fill="var(--ink)" />
      <rect x={206} y={84} width={120} height={12} {...steel} />
      <path d="M206 90 h-30" {...line} />
      <Arrow x1={216} y1={120} x2={262} y2={120} text="way" dy={20} />
      <text x={206} y={74} {...soft}>
        pointer on the pulley
      </text>
    </>
  ),
  plunger: (
    <>
      <rect x={24} y={70} width={130} height={64} {...steel} />
      <rect x={154} y={90} width={92} height={24} {...steel} />
      <path d="M246 66 q30 36 0 72" {...line} strokeWidth={8} stroke="var(--enamel)" />
      <Arrow x1={156} y1={56} x2={244} y2={56} text="plunger out" />
      <path d="M164 114 v9 M176 114 v9 M188 114 v9 M200 114 v9 M212 114 v9" {...line} />
      <text x={160} y={142} {...soft}>
        notches that show
      </text>
      <Arrow x1={24} y1={166} x2={246} y2={166} text="whole length over the gauge" dy={20} />
      <text x={58} y={106} {...soft}>
        body
      </text>
      <text x={262} y={106} {...soft}>
        pad
      </text>
    </>
  ),
  compress: (
    <>
      <rect x={40} y={80} width={130} height={60} {...steel} />
      <rect x={170} y={98} width={74} height={24} {...steel} />
      <path d="M330 110 H256" stroke="var(--blue)" strokeWidth={4} />
      <path d="M252 110 l14 -8 v16 z" fill="var(--blue)" />
      <text x={276} y={94} {...bold}>
        load
      </text>
      <Arrow x1={172} y1={66} x2={242} y2={66} text="way, timed" />
      <text x={40} y={172} {...soft}>
        in line with the bore, steadily
      </text>
    </>
  ),
  tool_fit: (
    <>
      <rect x={50} y={92} width={230} height={30} {...steel} />
      <rect x={86} y={66} width={26} height={56} {...steel} />
      <rect x={216} y={66} width={26} height={56} {...steel} />
      <path d="M70 40 h196 v20 h-24 v6 h-26 v-6 h-104 v6 h-26 v-6 h-16 z" {...measured} />
      <text x={120} y={32} {...bold}>
        tool or straight edge
      </text>
      <text x={50} y={150} {...soft}>
        by hand, slack taken up forwards, at the check angle
      </text>
    </>
  ),
  mark_miss: (
    <>
      <Sprocket x={150} y={110} r={64} />
      <path d="M150 46 v-30" {...line} strokeWidth={4} />
      <circle cx={185} cy={57} r={8} fill="var(--pen)" stroke="var(--ink)" />
      <Arrow x1={152} y1={30} x2={186} y2={30} text="how far it misses" dy={-6} />
      <text x={36} y={38} {...soft}>
        what it meets
      </text>
      <text x={206} y={64} {...bold}>
        mark
      </text>
      <text x={220} y={150} {...soft}>
        slack taken up
      </text>
      <text x={220} y={168} {...soft}>
        forwards
      </text>
    </>
  ),
  links: (
    <>
      <Sprocket x={60} y={70} r={40} />
      <Sprocket x={290} y={70} r={40} />
      <Links x={62} y={30} count={9} pitch={25} />
      <path d="M60 22 v-14 M287 22 v-14" stroke="var(--pen)" strokeWidth={6} />
      <Arrow x1={66} y1={150} x2={284} y2={150} text="count every link" dy={20} />
      <text x={40} y={134} {...soft}>
        mark
      </text>
      <text x={270} y={134} {...soft}>
        mark
      </text>
    </>
  ),
  chain_length: (
    <>
      <Links x={40} y={80} count={10} pitch={25} />
      <Arrow x1={40} y1={50} x2={290} y2={50} text="pin to like pin" />
      <path d="M306 80 h40" stroke="var(--blue)" strokeWidth={4} />
      <path d="M350 80 l-14 -8 v16 z" fill="var(--blue)" />
      <text x={314} y={110} {...bold}>
        pull
      </text>
      <text x={40} y={134} {...soft}>
        clean, dry, straight, as many links as lie flat
      </text>
    </>
  ),
  liner: (
    <>
      <path d="M40 130 q130 -70 270 0 v24 q-140 -70 -270 0 z" {...steel} />
      <path d="M40 130 q130 -70 270 0" {...measured} strokeWidth={4} />
      {[70, 175, 280].map((x, i) => (
        <path key={x} d={`M${x} ${i === 1 ? 60 : 84} v${i === 1 ? 34 : 28}`} {...measured} />
      ))}
      <text x={120} y={50} {...bold}>
        ends and middle of each groove
      </text>
      <text x={60} y={184} {...soft}>
        thinnest point counts
      </text>
    </>
  ),
  debris: (
    <>
      <path d="M40 90 h240 l-26 70 h-188 z" {...steel} />
      <circle cx={120} cy={140} r={7} {...line} />
      <path d="M160 144 l16 -10 l6 12 z" {...measured} />
      <path d="M206 146 l20 -4 l-6 -12 z" {...measured} />
      <text x={152} y={122} {...bold}>
        plastic?
      </text>
      <text x={84} y={122} {...soft}>
        metal?
      </text>
      <text x={60} y={186} {...soft}>
        pan, filter cut open, pickup screen
      </text>
    </>
  ),
  endoscope: (
    <>
      <path d="M20 150 q80 -120 150 -60" {...line} strokeWidth={7} stroke="var(--enamel)" />
      <path d="M170 90 l60 -34 v82 z" fill="var(--pen)" opacity={0.35} />
      <path d="M240 40 q34 60 0 120" {...steel} />
      <text x={180} y={176} {...soft}>
        face, edges, where the chain rides
      </text>
    </>
  ),
  noise: (
    <>
      <rect x={60} y={40} width={180} height={120} {...steel} />
      {[
        [80, 56, "top"],
        [80, 140, "bottom"],
        [214, 56, "bank"],
      ].map(([x, y, t]) => (
        <g key={String(t)}>
          <circle cx={Number(x)} cy={Number(y)} r={9} {...measured} />
          <text x={Number(x) + 15} y={Number(y) + 5} {...soft}>
            {t}
          </text>
        </g>
      ))}
      <path d="M320 30 L224 60" {...line} strokeWidth={4} />
      <text x={262} y={90} {...bold}>
        listening rod
      </text>
      <text x={60} y={184} {...soft}>
        then again with the belt off, seconds only
      </text>
    </>
  ),
  oil: (
    <>
      <path d="M60 30 v130" {...line} strokeWidth={7} stroke="var(--enamel)" />
      <path d="M50 96 h20 M50 136 h20" {...measured} />
      <text x={84} y={102} {...soft}>
        upper mark
      </text>
      <text x={84} y={142} {...soft}>
        lower mark
      </text>
      <rect x={210} y={60} width={100} height={56} {...steel} />
      <text x={226} y={94} {...bold}>
        pressure
      </text>
      <path d="M260 116 v44 h-60" {...line} />
      <text x={150} y={186} {...soft}>
        at the gallery, hot, at idle
      </text>
    </>
  ),
};

const Ground = styled.svg`
  max-width: 420px;
`;

/** Where to measure: one plain picture a worksheet. */
export function MeasureDrawing({ drawing, label }: { drawing: string; label: string }) {
  return (
    <Ground viewBox="0 0 360 200" width="100%" role="img" aria-label={label}>
      {DRAWINGS[drawing]}
    </Ground>
  );
}
