import styled from "styled-components";

/** What a share of a limit is called, and how its bar looks: never by colour alone. */
export type Band = "fine" | "marginal" | "replace" | "unknown";
export const BANDS: Record<Band, { word: string; fill: string; tone: "ink" | "stop" | "soft" }> = {
  fine: { word: "fine", fill: "var(--steel-light)", tone: "ink" },
  marginal: { word: "marginal", fill: "var(--ink)", tone: "ink" },
  replace: { word: "replace", fill: "var(--red)", tone: "stop" },
  unknown: { word: "not judged", fill: "var(--line)", tone: "soft" },
};
export const bandOf = (code: string | undefined) =>
  BANDS[(code ?? "") as Band] as (typeof BANDS)[Band] | undefined;

const Bar = styled.svg`
  display: block;
  width: 100%;
  height: 14px;
`;
/** Where the limit's tick stands in every gauge. */
const NOTCH = 0.78;
const at = (share: number) => Math.min(100, Math.max(0, share * NOTCH * 100));

interface Props {
  /** How far towards the limit: 1 at the limit. */
  share: number;
  band: Band;
  /** Ends of its 90 % interval, as shares too. */
  low?: number;
  high?: number;
}

/**
 * A gauge notch: a bar that grows towards a tick, the limit, and past it when over; a thin line
 * over it where the interval lies.
 */
export function Gauge({ share, band, low, high }: Props) {
  return (
    <Bar viewBox="0 0 100 14" preserveAspectRatio="none" aria-hidden data-gauge={band}>
      <path
        d="M0 12.5H100"
        stroke="var(--edge)"
        strokeWidth={1}
        vectorEffect="non-scaling-stroke"
      />
      <rect y={4.5} width={Math.max(0.6, at(share))} height={8} fill={BANDS[band].fill} />
      {low !== undefined && high !== undefined && (
        <path
          d={`M${at(low)} 2H${at(high)}M${at(low)} 0V4M${at(high)} 0V4`}
          stroke="var(--blue)"
          strokeWidth={1.6}
          vectorEffect="non-scaling-stroke"
        />
      )}
      <path
        d={`M${NOTCH * 100} 1V14`}
        stroke="var(--ink)"
        strokeWidth={2.4}
        vectorEffect="non-scaling-stroke"
      />
    </Bar>
  );
}
