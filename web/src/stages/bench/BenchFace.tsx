import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { useOnTheWay } from "../../api/outbox";
import { benchQuery } from "../../api/queries";
import { BoltMap } from "../../drawing/BoltMap";
import { DriveFace } from "../../drawing/DriveFace";
import { nearTo } from "../../drawing/near";
import { OrderTray } from "../../drawing/OrderTray";
import { Soft } from "../../kit/page";
import { StepChain } from "./StepChain";
import { stagesOf, useWithin } from "./within";

const Run = styled.section`
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 6px 16px;
  min-width: 0;
  & > svg {
    flex: 1 1 0;
    min-width: 0;
    max-height: 34px;
  }
  & > p {
    white-space: nowrap;
  }
  @media (max-width: 800px) {
    flex-wrap: wrap;
    & > svg {
      flex-basis: 100%;
    }
  }
`;

const Stands = styled.ul`
  list-style: none;
  margin: 0;
  padding: 8px 0 0;
  display: grid;
  gap: 4px;
  border-top: 1px solid var(--line);
`;

/** The bench of a job and the step that is shown: the one asked for, else the first open one. */
export function useShownStep(id: number) {
  const bench = useQuery(benchQuery(id));
  const asked = useSearchParams()[0].get("step");
  const done = new Map(bench.data?.records.map((r) => [r.step, r]));
  // What waits on this tablet to be sent counts here as done, where it looks right.
  const waiting = new Set<string>();
  for (const entry of useOnTheWay(id))
    if (entry.to !== "within" && entry.looksRight) {
      waiting.add(entry.body.step);
      done.set(entry.body.step, {
        step: entry.body.step,
        seen: [],
        is_right: true,
        departure: entry.body.departure,
        by: entry.by,
        at: entry.body.at ?? "",
      });
    }
  const steps = bench.data?.steps ?? [];
  const next = steps.find((s) => !done.has(s.ref));
  return { bench, done, steps, next, waiting, shown: steps.find((s) => s.ref === asked) ?? next };
}

/** The steps as a run of chain across the page, and how many of them are closed. */
export function BenchRun({ job }: { job: Schemas["JobOut"] }) {
  const { bench, done, steps, shown, waiting } = useShownStep(job.id);
  if (!bench.data?.is_started) return null;
  const pins = bench.data.pins_left + bench.data.laid.reduce((sum, e) => sum + e.count, 0);
  return (
    <Run aria-label="Steps of the bench">
      <strong>{job.unit.name}</strong>
      <StepChain steps={steps} records={done} shown={shown?.ref} />
      <Soft>
        {done.size} of {steps.length} steps closed{pins > 0 && ` · ${pins} to count out again`}
        {waiting.size > 0 && ` · ${waiting.size} wait to be sent`}
      </Soft>
    </Run>
  );
}

/** The picture of the step: the part with its bolts, or the drive face as near as it is worked on. */
export function BenchFace({ job }: { job: Schemas["JobOut"] }) {
  const { bench, shown } = useShownStep(job.id);
  const { face } = job;
  const drawn = new Set(
    [...face.chains, ...face.faces, ...face.wheels].flatMap((p) =>
      "phaser" in p && p.phaser ? [p.part, p.phaser] : [p.part],
    ),
  );
  const about = [shown?.about, shown?.part].filter((p): p is string => !!p && drawn.has(p));
  const { within } = useWithin(job.id, shown, bench.data);
  const now = shown ? stagesOf(shown, within).now : undefined;
  return (
    <>
      {shown && shown.tray.length > 0 && (
        <OrderTray rows={shown.tray} isOut={shown.phase === "remove"} />
      )}
      {shown?.bolts.length ? (
        shown.bolts.map((map) => (
          <BoltMap
            key={map.fastener}
            map={map}
            isOff={shown.verb === "remove"}
            done={now?.asked.fastener === map.fastener ? now.done : 0}
            isUnderWay={shown.verb === "torque" && now?.asked.fastener === map.fastener}
          />
        ))
      ) : (
        <DriveFace face={nearTo(face, about)} states={job.states} about={about} isLarge />
      )}
      {shown?.state && shown.state.words.length > 0 && (
        <Stands aria-label="Where the engine stands after this step">
          {shown.state.words.map((said) => (
            <li key={said}>{said}</li>
          ))}
        </Stands>
      )}
    </>
  );
}
