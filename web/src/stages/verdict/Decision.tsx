import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { Link } from "react-router";
import { client, take, type Schemas } from "../../api/client";
import { meQuery, useChange } from "../../api/queries";
import { ButtonLink } from "../../kit/Button";
import { Button, Field } from "../../kit/controls";
import { CareNote, Line, Sheet, Soft, TroubleNote } from "../../kit/page";
import { Said } from "../../kit/text";
import { hours, percent } from "../../kit/words";

const Rows = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
`;
const Row = styled.button<{ $on: boolean }>`
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr);
  gap: 2px 12px;
  align-items: baseline;
  min-height: 56px;
  padding: 8px;
  border: none;
  border-top: 1px solid var(--line);
  border-left: 4px solid ${({ $on }) => ($on ? "var(--enamel)" : "transparent")};
  background: ${({ $on }) => ($on ? "var(--enamel-tint)" : "transparent")};
  text-align: left;
  cursor: pointer;
`;
const Cost = styled.span`
  font-size: var(--bench);
  font-weight: 700;
  text-align: right;
  font-variant-numeric: tabular-nums;
`;
const Bar = styled.span<{ $share: number; $on: boolean }>`
  grid-column: 2;
  height: 5px;
  background: linear-gradient(
    to right,
    ${({ $on }) => ($on ? "var(--ink)" : "var(--steel-light)")} ${({ $share }) => $share * 100}%,
    transparent 0
  );
`;
const Small = styled.span`
  grid-column: 2;
  font-size: var(--note);
  color: var(--soft);
`;

const FIRST = 5; // of the actions, shown at once

interface Props {
  jobId: number;
  found: Schemas["AdviceOut"];
  isTrying: boolean;
}

/** What to do: every action with what it is expected to cost, and the lead's decision. */
export function Decision({ jobId, found, isTrying }: Props) {
  const { decision, why } = found.advice;
  const advised = decision.find((o) => o.is_advised);
  const [picked, setPicked] = useState<string | null>(null);
  const [isWhole, setWhole] = useState(false);
  const chosen = decision.find((o) => o.key === picked) ?? advised;
  const most = Math.max(...decision.map((o) => o.expected_cost), 1);
  const shown = decision.filter((o, i) => isWhole || i < FIRST || o.key === chosen?.key);
  return (
    <Sheet aria-label="What to do" id="what-to-do">
      <h2>What to do</h2>
      {found.decided && <Stands decided={found.decided} />}
      <Soft>
        Left: what each is expected to cost with all that follows
        {found.currency && `, ${found.currency}`}.
      </Soft>
      <Rows>
        {shown.map((option) => (
          <Row
            key={option.key}
            $on={option.key === chosen?.key}
            aria-pressed={option.key === chosen?.key}
            onClick={() => setPicked(option.key)}
          >
            <Cost>{Math.round(option.expected_cost).toLocaleString("en-GB")}</Cost>
            <span>
              {option.name}
              {option.is_advised && <Said $tone="fine"> · advised</Said>}
            </span>
            <Bar
              $share={option.expected_cost / most}
              $on={option.key === chosen?.key}
              aria-hidden
            />
            <Small>
              in tolerance {percent(option.restored)}, fails {percent(option.risk)}
              {option.minutes > 0 && `, ${hours(option.minutes)} of work`}
              {option.price > 0 && `, parts ${Math.round(option.price).toLocaleString("en-GB")}`}
            </Small>
          </Row>
        ))}
      </Rows>
      {decision.length > FIRST && (
        <Line>
          <Button onPress={() => setWhole(!isWhole)}>
            {isWhole ? "Only the cheapest" : `All ${decision.length} actions`}
          </Button>
        </Line>
      )}
      <Soft>{why}</Soft>
      {chosen && !found.is_fixed && !isTrying && (
        <Decide jobId={jobId} chosen={chosen} school={found.advice.school} />
      )}
      {!found.is_fixed && !isTrying && found.advice.is_measured && (
        <Line>
          {/* What takes nothing apart has no plan: the job ends with it. */}
          {found.decided && !found.decided.option.scope.length ? (
            <ButtonLink to={`/jobs/${jobId}/handover`}>End the job with that</ButtonLink>
          ) : (
            <Link to={`/jobs/${jobId}/plan`}>Plan it</Link>
          )}
        </Line>
      )}
      {isTrying && <Soft>A what-if is open: nothing is decided on it.</Soft>}
    </Sheet>
  );
}

function Stands({ decided }: { decided: Schemas["DecidedOut"] }) {
  return (
    <div>
      <Said $size={20}>Decided: {decided.option.name}</Said>
      <Soft>
        by {decided.by}
        {decided.reason && `: ${decided.reason}`}
      </Soft>
      {!decided.is_still_advised && (
        <CareNote title="Since then the advice has changed">
          It was “{decided.advised.name}” when this was decided. Look again, and decide anew or let
          it stand.
        </CareNote>
      )}
    </div>
  );
}

interface DecideProps {
  jobId: number;
  chosen: Schemas["Option"];
  school: Schemas["School"];
}

function Decide({ jobId, chosen, school }: DecideProps) {
  const isLead = useQuery(meQuery).data?.role === "lead";
  const { change, trouble, isBusy } = useChange(jobId);
  const [reason, setReason] = useState("");
  if (!isLead) return <Soft>A lead decides; the plan may be drawn up meanwhile.</Soft>;
  async function onDecide() {
    const done = await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/decision", {
          params: { path: { job_id: jobId } },
          body: { version, key: chosen.key, school, reason },
        }),
      ),
    );
    if (done) setReason("");
  }
  return (
    <>
      <Field
        label={chosen.is_advised ? "Why, if you like" : "Why not what is advised"}
        value={reason}
        onChange={setReason}
        hint={chosen.is_advised ? undefined : "at least ten letters; it is kept with the decision"}
      />
      <TroubleNote trouble={trouble} />
      <Line>
        <Button look="main" isDisabled={isBusy} onPress={() => void onDecide()}>
          Decide it so
        </Button>
      </Line>
    </>
  );
}
