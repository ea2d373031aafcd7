import { Link, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { useJob } from "../../api/queries";
import { Button } from "../../kit/controls";
import { Line, Sheet, Soft, StageHead, Waiting } from "../../kit/page";
import { HardStop } from "./HardStop";
import { Inside } from "./Inside";
import { LostRace } from "./LostRace";
import { NotSent } from "./NotSent";
import { Photographs } from "./Photographs";
import { HandedOver, HandOver } from "./Shift";
import { StepCard } from "./StepCard";
import { useShownStep } from "./BenchFace";
import { Rest } from "../../kit/text";

const Item = styled.button<{ $on: boolean }>`
  display: flex;
  width: 100%;
  gap: 10px;
  min-height: 48px;
  align-items: center;
  border: none;
  background: ${({ $on }) => ($on ? "var(--enamel-tint)" : "transparent")};
  text-align: left;
  padding: 4px 8px;
  cursor: pointer;
  border-top: 1px solid var(--line);
  > :first-child {
    width: 30px;
    text-align: right;
  }
`;

export function Bench() {
  const id = Number(useParams().id);
  const { bench, done, steps, next, shown, waiting } = useShownStep(id);
  const job = useJob(id);
  const setQuery = useSearchParams()[1];
  const setChosen = (ref: string | null) => setQuery(ref ? { step: ref } : {}, { replace: true });
  if (!bench.data) return <Waiting error={bench.error} what="the bench" />;
  if (!bench.data.is_started)
    return (
      <>
        <StageHead title="Bench" />
        <HardStop id={id} bench={bench.data} />
        <Sheet>
          <Soft>
            The bench has not started. <Link to={`/jobs/${id}/plan`}>Choose what to renew</Link>,
            then start.
          </Soft>
        </Sheet>
      </>
    );
  const isFixed = Boolean(job.data?.is_signed || job.data?.is_released);
  const following = job.data?.stage === "bench" ? job.data.next : undefined;
  return (
    <>
      <HardStop id={id} bench={bench.data} />
      {bench.data.shift && <HandedOver id={id} shift={bench.data.shift} />}
      <LostRace id={id} bench={bench.data} />
      <NotSent id={id} />
      {shown ? (
        <StepCard
          key={`${shown.ref} ${done.get(shown.ref)?.at ?? ""}`}
          id={id}
          bench={bench.data}
          unit={job.data?.unit.name ?? ""}
          step={shown}
          number={steps.indexOf(shown) + 1}
          record={waiting.has(shown.ref) ? undefined : done.get(shown.ref)}
          onClosed={() => setChosen(null)}
        />
      ) : (
        !bench.data.is_stopped && (
          <Sheet>
            <h1>Every step is closed.</h1>
            <Soft>Choose a step below to look at it or to open it again.</Soft>
          </Sheet>
        )
      )}
      {shown && (
        <Photographs
          key={shown.ref}
          id={id}
          step={shown}
          photos={bench.data.photos[shown.ref] ?? []}
          looks={bench.data.looks.filter((l) => l.step === shown.ref)}
          isFixed={isFixed}
        />
      )}
      {following?.step && following.step !== shown?.ref && !bench.data.is_stopped && (
        <Line>
          <Button look="next" onPress={() => setChosen(following.step)}>
            {following.press}
          </Button>
        </Line>
      )}
      {!isFixed && <Inside id={id} bench={bench.data} />}
      {!isFixed && !bench.data.shift && <HandOver id={id} holder={bench.data.holder} />}
      <Sheet>
        <h2>All steps</h2>
        <div>
          {steps.map((s, i) => {
            const record = done.get(s.ref);
            return (
              <Item
                key={s.ref}
                $on={s.ref === shown?.ref}
                aria-current={s.ref === shown?.ref ? "step" : undefined}
                onClick={() => setChosen(s.ref)}
              >
                <span>{i + 1}</span>
                <Rest as="span">{s.title}</Rest>
                <Soft as="span">
                  {waiting.has(s.ref)
                    ? "… written, waits to be sent"
                    : record
                      ? record.departure
                        ? "■ left as it is"
                        : "✓ right"
                      : s.ref === next?.ref
                        ? "◆ next"
                        : "open"}
                </Soft>
              </Item>
            );
          })}
        </div>
      </Sheet>
    </>
  );
}
