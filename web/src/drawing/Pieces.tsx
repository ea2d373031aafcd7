import type { Schemas } from "../api/client";

export type Piece = Schemas["LaidPiece"];

/** One line each: what lies in the engine, as it lies on a tray. */
const SHAPES: Record<Piece, string> = {
  rag: "M4 26 Q10 6 18 14 T34 10 Q38 20 30 26 T14 32 Q6 34 4 26 M12 18 Q18 24 28 20",
  pin: "M6 20 H28 M28 14 A6 6 0 1 1 28 26 A6 6 0 1 1 28 14 M6 17 V23",
  wedge: "M4 30 L36 30 L36 16 Z M12 30 V26 M22 30 V22",
  holder: "M6 12 H34 M10 12 V30 A5 5 0 0 0 18 30 V22 H22 V30 A5 5 0 0 0 30 30 V12",
  lock: "M8 18 H32 V34 H8 Z M13 18 V12 A7 7 0 0 1 27 12 V18 M20 24 V29",
  plug: "M10 8 H30 V16 H26 V32 H14 V16 H10 Z M14 22 H26 M14 27 H26",
  magnet: "M10 8 V22 A10 10 0 0 0 30 22 V8 H23 V22 A3 3 0 0 1 17 22 V8 Z M10 14 H17 M23 14 H30",
};
export const PIECES: readonly { value: Piece; label: string }[] = [
  { value: "rag", label: "rag" },
  { value: "plug", label: "plug" },
  { value: "pin", label: "pin" },
  { value: "wedge", label: "wedge" },
  { value: "holder", label: "holder" },
  { value: "lock", label: "lock" },
  { value: "magnet", label: "magnet" },
];
const MOST = 12;

/** So many pieces of a kind, lying side by side. */
export function Pieces({ piece, count }: { piece: Piece; count: number }) {
  const drawn = Math.min(count, MOST);
  return (
    <svg
      viewBox={`0 0 ${drawn * 40} 40`}
      width={drawn * 34}
      height={34}
      aria-hidden
      fill="none"
      stroke="currentColor"
      strokeWidth={2.4}
      strokeLinejoin="round"
      strokeLinecap="round"
    >
      {Array.from({ length: drawn }, (_, i) => (
        <path key={i} d={SHAPES[piece]} transform={`translate(${i * 40} 0)`} />
      ))}
    </svg>
  );
}
