import { NavLink } from "react-router";
import styled from "styled-components";
import { STAGES, type StageId } from "../../app/stages";
import { plate } from "./plate";

const LINK = 118;
const R = 19;
const LOOKS = {
  done: { fill: "var(--enamel)", stroke: "var(--enamel-edge)", word: "var(--on-enamel)" },
  here: { fill: "var(--pen)", stroke: "var(--on-pen)", word: "var(--on-pen)" },
  ahead: { fill: "var(--sheet)", stroke: "var(--edge)", word: "var(--soft)" },
} as const;
export type LinkState = keyof typeof LOOKS;

/** How each stage's link looks when the job stands at `stage`. */
export function linkStates(stage: StageId | "done" | undefined): LinkState[] {
  const at = STAGES.findIndex((s) => s.id === stage);
  return STAGES.map((_, i) => {
    if (stage === "done") return "done";
    return i < at ? "done" : i === at ? "here" : "ahead";
  });
}

const Ground = styled.nav`
  position: relative;
  flex: 0 1 ${LINK * 7 + 44}px;
  min-width: 0;
  align-self: center;
  display: grid;
  align-items: center;
  min-height: 48px;
  line-height: 0;
  & > svg {
    width: 100%;
    height: auto;
  }
`;
const Words = styled.div`
  position: absolute;
  inset: 0;
  display: grid;
  grid-template-columns: repeat(7, 1fr);
  padding: 0 ${(100 * R) / (LINK * 7 + 2 * R + 4)}%;
`;
const Word = styled(NavLink)<{ $state: LinkState }>`
  display: grid;
  place-content: center;
  min-height: 0;
  height: 100%;
  font-size: var(--note);
  line-height: 1;
  text-decoration: none;
  color: ${({ $state }) => LOOKS[$state].word};
  ${({ $state }) => $state !== "ahead" && "font-weight: 700;"}
  &.active > span {
    text-decoration: underline 3px;
    text-underline-offset: 4px;
  }
  &:hover {
    text-decoration: underline;
  }
  &:focus-visible {
    outline-offset: -6px;
  }
  @container (max-width: 700px) {
    & > span {
      position: absolute;
      clip-path: inset(50%);
    }
    &[data-here] > span {
      position: static;
      clip-path: none;
      font-size: var(--least);
    }
  }
`;
const Frame = styled.div`
  container-type: inline-size;
  flex: 1 1 0;
  min-width: 0;
  display: flex;
`;

/**
 * The stages of the job as a length of chain: what is done is solid, the link where the job stands
 * is painted as a marked link is, the rest is outline.
 */
export function StageChain({ job, stage }: { job: number; stage: StageId | "done" | undefined }) {
  const states = linkStates(stage);
  return (
    <Frame>
      <Ground aria-label="Stages of the job">
        <ChainOf states={states} link={LINK} r={R} />
        <Words>
          {STAGES.map((s, i) => {
            const state = states[i] ?? "ahead";
            return (
              <Word
                key={s.id}
                to={`/jobs/${job}/${s.id}`}
                $state={state}
                data-here={state === "here" || undefined}
                aria-label={state === "here" ? `${s.name}, the job stands here` : s.name}
              >
                <span>{s.name}</span>
              </Word>
            );
          })}
        </Words>
      </Ground>
    </Frame>
  );
}

interface ChainProps {
  states: readonly LinkState[];
  link: number;
  r: number;
  label?: string;
}

/** Links side by side, every second one lying over its neighbours. */
export function ChainOf({ states, link, r, label }: ChainProps) {
  const order = [...states.keys()].sort((a, b) => (a % 2) - (b % 2));
  return (
    <svg
      viewBox={`${-r - 2} ${-r - 2} ${states.length * link + 2 * r + 4} ${2 * r + 4}`}
      role={label ? "img" : undefined}
      aria-label={label}
      aria-hidden={label ? undefined : true}
    >
      {order.map((i) => {
        const look = LOOKS[states[i] ?? "ahead"];
        return (
          <path
            key={i}
            data-link={states[i]}
            d={plate(i * link, 0, (i + 1) * link, 0, 2 * r)}
            fill={look.fill}
            stroke={look.stroke}
            strokeWidth={states[i] === "here" ? r / 8 : r / 13}
          />
        );
      })}
      {[...states.keys(), states.length].map((i) => (
        <circle
          key={i}
          cx={i * link}
          r={Math.max(1.6, r * 0.26)}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth={r / 11}
        />
      ))}
    </svg>
  );
}
