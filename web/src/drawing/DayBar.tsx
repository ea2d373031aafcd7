import { scaleLinear } from "d3-scale";
import { useRef } from "react";
import styled from "styled-components";
import { useWidth } from "./plot/useWidth";

const YEARS = 5;
const TALL = 34;
const DAY_MS = 86_400_000;

const Ground = styled.div`
  min-width: 0;
  contain: inline-size;
  & > svg {
    display: block;
  }
`;

interface Props {
  low: string | null;
  middle: string | null;
  high: string | null;
  look: string | null;
  isOver: boolean;
  /** What it says, for whoever does not see it. */
  label: string;
}

/**
 * From today to five years on: between when and when a limit is met, its middle, and the day to
 * look again. What lies farther runs out of the picture.
 */
export function DayBar({ low, middle, high, look, isOver, label }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const width = useWidth(place);
  const x = scaleLinear([0, YEARS], [6, Math.max(60, width - 6)]).clamp(true);
  const far = YEARS + 1;
  const [from, mid, to] = [yearsTo(low) ?? far, yearsTo(middle) ?? far, yearsTo(high) ?? far];
  const again = yearsTo(look);
  const colour = isOver ? "var(--red)" : mid < 1 ? "var(--ochre)" : "var(--enamel)";
  return (
    <Ground ref={place}>
      {width > 0 && (
        <svg width={width} height={TALL} role="img" aria-label={label} fontSize={13}>
          <path d={`M6 ${TALL - 8}H${width - 6}`} stroke="var(--line)" />
          {Array.from({ length: YEARS + 1 }, (_, year) => (
            <path key={year} d={`M${x(year)} ${TALL - 12}v8`} stroke="var(--line)" />
          ))}
          {from < YEARS && (
            <path
              d={`M${x(from)} 14H${Math.max(x(to), x(from) + 3)}`}
              stroke={colour}
              strokeWidth={10}
              strokeOpacity={0.35}
            />
          )}
          {mid < YEARS && <path d={`M${x(mid)} 4v20`} stroke={colour} strokeWidth={4} />}
          {again !== null && again < YEARS && (
            <path
              d={`M${x(again) - 5} ${TALL}l5 -9l5 9z`}
              fill="var(--ink)"
              stroke="var(--sheet)"
            />
          )}
        </svg>
      )}
    </Ground>
  );
}

/** The years over such bars. */
export function DayScale() {
  const place = useRef<HTMLDivElement>(null);
  const width = useWidth(place);
  const x = scaleLinear([0, YEARS], [6, Math.max(60, width - 6)]);
  return (
    <Ground ref={place}>
      {width > 0 && (
        <svg width={width} height={18} fontSize={13} fill="var(--soft)">
          {Array.from({ length: YEARS + 1 }, (_, year) => (
            <text
              key={year}
              x={x(year)}
              y={14}
              textAnchor={year === 0 ? "start" : year === YEARS ? "end" : "middle"}
            >
              {year === 0 ? "today" : year === 1 ? "1 year" : `${year} years`}
            </text>
          ))}
        </svg>
      )}
    </Ground>
  );
}

/** How many years from today a day is; null for none. */
function yearsTo(day: string | null): number | null {
  if (day === null) return null;
  return Math.max(0, (Date.parse(day) - Date.now()) / DAY_MS / 365.25);
}
