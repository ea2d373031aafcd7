import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { benchQuery } from "../../api/queries";
import { DriveFace } from "../../drawing/DriveFace";
import { Soft } from "../../kit/page";
import { StepChain } from "./StepChain";

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

/** The bench of a job and the step that is shown: the one asked for, else the first open one. */
export function useShownStep(id: number) {
  const bench = useQuery(benchQuery(id));
  const asked = useSearchParams()[0].get("step");
  const done = new Map(bench.data?.records.map((r) => [r.step, r]));
  const steps = bench.data?.steps ?? [];
  const next = steps.find((s) => !done.has(s.ref));
  return { bench, done, steps, next, shown: steps.find((s) => s.ref === asked) ?? next };
}

/** The steps as a run of chain across the page, and how many of them are closed. */
export function BenchRun({ job }: { job: Schemas["JobOut"] }) {
  const { bench, done, steps, shown } = useShownStep(job.id);
  if (!bench.data?.is_started) return null;
  const pins = bench.data.pins_in;
  return (
    <Run aria-label="Steps of the bench">
      <strong>{job.unit.name}</strong>
      <StepChain steps={steps} records={done} shown={shown?.ref} />
      <Soft>
        {done.size} of {steps.length} steps closed{pins > 0 && ` · ${pins} to count out again`}
      </Soft>
    </Run>
  );
}

/** The drive face at the step: what the step is about stands out, all else stands back. */
export function BenchFace({ job }: { job: Schemas["JobOut"] }) {
  const { shown } = useShownStep(job.id);
  const { face } = job;
  const drawn = new Set(
    [...face.chains, ...face.faces, ...face.wheels].flatMap((p) =>
      "phaser" in p && p.phaser ? [p.part, p.phaser] : [p.part],
    ),
  );
  const about = shown?.about && drawn.has(shown.about) ? [shown.about] : [];
  return <DriveFace face={face} states={job.states} about={about} isLarge />;
}
