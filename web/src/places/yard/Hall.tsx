import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { ChainOf, linkStates } from "../../drawing/chain/StageChain";
import { Soft } from "../../kit/page";
import { Ends } from "../../kit/text";

type Job = Schemas["JobLine"];

const Row = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0 3px 0 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 292px), 1fr));
  row-gap: 14px;
`;
/** A place with work in it: a ground within a line, open to all sides. */
const Ground = styled.li`
  position: relative;
  display: grid;
  gap: 10px;
  align-content: start;
  min-width: 0;
  min-height: 178px;
  padding: 10px 16px 18px;
  margin-right: -3px;
  border: 3px solid var(--steel-light);
  background: var(--sheet);
`;
/** A bay: walls at its sides and back, the leaves of its door pushed aside. */
const Bay = styled(Ground)<{ $isFree: boolean }>`
  border-color: var(--steel);
  border-bottom: none;
  ${({ $isFree }) =>
    $isFree &&
    "background: repeating-linear-gradient(135deg, transparent 0 10px, var(--line) 10px 11px);"}
  &::before,
  &::after {
    content: "";
    position: absolute;
    bottom: 0;
    width: 28px;
    height: 4px;
    background: var(--steel);
  }
  &::before {
    left: 0;
  }
  &::after {
    right: 0;
  }
`;
const Place = styled.h2`
  font-size: var(--note);
`;
const Name = styled.strong`
  font-size: 22px;
  line-height: 1.2;
  overflow-wrap: anywhere;
`;
const Stand = styled.div`
  display: grid;
  gap: 6px;
  min-width: 0;
  & + & {
    border-top: 1px solid var(--line);
    padding-top: 10px;
  }
  & > svg {
    width: min(210px, 100%);
  }
`;
const Act = styled(Link)`
  display: flex;
  align-items: center;
  min-height: var(--bench-target);
  padding: 6px 14px;
  background: var(--enamel);
  color: var(--on-enamel);
  font-weight: 700;
  line-height: 1.2;
  text-decoration: none;
  overflow-wrap: anywhere;
`;
const Free = styled.div`
  background: var(--ground);
  justify-self: start;
  padding: 2px 8px;
`;

interface Props {
  places: readonly Schemas["YardPlace"][];
  jobs: readonly Job[];
  units: readonly Schemas["UnitOut"][];
}

/** The hall as it is: every bay, every other place with work in it, and what stands there. */
export function Hall({ places, jobs, units }: Props) {
  const named = new Set(places.map((p) => p.name));
  const homeless = jobs.filter((j) => !named.has(j.place));
  const others = places.filter((p) => !p.is_bay && jobs.some((j) => j.place === p.name));
  const standing = (name: string) =>
    jobs.filter((j) => j.place === name).map((j) => <Standing key={j.id} job={j} />);
  return (
    <Row aria-label="Bays, and other places with work in them">
      {places
        .filter((p) => p.is_bay)
        .map((p) => {
          const here = standing(p.name);
          const idle = units.filter((u) => u.place === p.name && !u.open_job);
          return (
            <Bay key={p.name} $isFree={!here.length}>
              <Place>{p.name}</Place>
              {here}
              {!here.length && (
                <Free>
                  {idle.length
                    ? `no job; ${idle.map((u) => u.name).join(", ")} ${idle.length === 1 ? "stands" : "stand"} here`
                    : "free"}
                </Free>
              )}
            </Bay>
          );
        })}
      {others.map((p) => (
        <Ground key={p.name}>
          <Place>{p.name}</Place>
          {standing(p.name)}
        </Ground>
      ))}
      {homeless.length > 0 && (
        <Ground>
          <Place>Place not known</Place>
          {homeless.map((j) => (
            <Standing key={j.id} job={j} />
          ))}
        </Ground>
      )}
    </Row>
  );
}

/** A unit in work: how far its job is, what comes next as the press, who opened it. */
function Standing({ job: j }: { job: Job }) {
  const step = j.step ? `?step=${encodeURIComponent(j.step)}` : "";
  return (
    <Stand>
      <Name>{j.unit}</Name>
      <Ends>
        <Soft as="span">
          {j.engine} · {j.number}
          {j.is_imported && " · from a file"}
        </Soft>
        <Soft as="span">{j.opened_by.split(" ")[0]}</Soft>
      </Ends>
      <ChainOf states={linkStates(j.stage)} link={26} r={9} label={`At ${j.stage}`} />
      <Act to={`/jobs/${j.id}/${j.stage}${step}`} aria-label={`${j.unit}: ${j.press}`}>
        {j.press} →
      </Act>
      {!j.step && <Soft>{j.next_action}</Soft>}
    </Stand>
  );
}
