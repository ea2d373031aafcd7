import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";
import styled from "styled-components";
import { benchQuery, useJob } from "../../api/queries";
import { Button } from "../../kit/controls";
import { Big, Line, Sheet, Soft, StageHead, Waiting } from "../../kit/page";
import { HardStop } from "./HardStop";
import { LostRace } from "./LostRace";
import { StepCard } from "./StepCard";
import { Rest } from "../../kit/text";

const Track = styled.div`
  display: flex;
  gap: 2px;
  height: 12px;
`;
const Count = styled(Big)`
  font-size: 22px;
`;
const PIECES = { done: "--enamel", left: "--red", here: "--pen", open: "--line" };
const Piece = styled.span<{ $state: keyof typeof PIECES }>`
  flex: 1;
  background: var(${({ $state }) => PIECES[$state]});
`;
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
  const bench = useQuery(benchQuery(id));
  const job = useJob(id);
  const [query, setQuery] = useSearchParams();
  const chosen = query.get("step");
  const setChosen = (ref: string | null) => setQuery(ref ? { step: ref } : {}, { replace: true });
  if (!bench.data) return <Waiting error={bench.error} what="the bench" />;
  const { steps, records, occurrences, pins_in: pins } = bench.data;
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
  const done = new Map(records.map((r) => [r.step, r]));
  const next = steps.find((s) => !done.has(s.ref));
  const shown = steps.find((s) => s.ref === chosen) ?? next;
  const following = job.data?.stage === "bench" ? job.data.next : undefined;
  return (
    <>
      <StageHead title="Bench">
        <Soft>
          <Count>{done.size}</Count> of {steps.length} steps closed · {pins} to count out again
        </Soft>
      </StageHead>
      <Track role="img" aria-label={`${done.size} of ${steps.length} steps closed`}>
        {steps.map((s) => (
          <Piece
            key={s.ref}
            $state={
              done.get(s.ref)?.departure
                ? "left"
                : done.has(s.ref)
                  ? "done"
                  : s.ref === shown?.ref
                    ? "here"
                    : "open"
            }
          />
        ))}
      </Track>
      <HardStop id={id} bench={bench.data} />
      <LostRace id={id} bench={bench.data} />
      {shown ? (
        <StepCard
          key={`${shown.ref} ${done.get(shown.ref)?.at ?? ""}`}
          id={id}
          occurrence={occurrences[shown.ref] ?? 0}
          step={shown}
          number={steps.indexOf(shown) + 1}
          record={done.get(shown.ref)}
          onClosed={() => setChosen(null)}
        />
      ) : (
        !bench.data.is_stopped && (
          <Sheet>
            <h2>Every step is closed.</h2>
            <Soft>Choose a step below to look at it or to open it again.</Soft>
          </Sheet>
        )
      )}
      {following?.step && following.step !== shown?.ref && !bench.data.is_stopped && (
        <Line>
          <Button look="next" onPress={() => setChosen(following.step)}>
            {following.press}
          </Button>
        </Line>
      )}
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
                  {record
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
