import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { estimateQuery, meQuery, planQuery } from "../../api/queries";
import { Button } from "../../kit/controls";
import {
  Big,
  CareNote,
  Columns,
  Line,
  Sheet,
  Soft,
  StageHead,
  TroubleNote,
  Waiting,
} from "../../kit/page";
import { Ends, PlainList, Ruled, Said, Told } from "../../kit/text";
import { percent } from "../../kit/words";
import { GiveGo } from "../go/GiveGo";
import { GoAhead } from "./GoAhead";
import { useStart } from "./useStart";

/** The owner's estimate, the owner's yes, the lead's go, and what is printed of the plan. */
export function Estimate() {
  const id = Number(useParams().id);
  const plan = useQuery(planQuery(id)).data;
  const found = useQuery({ ...estimateQuery(id), enabled: Boolean(plan?.plan) });
  const isFixed = plan?.is_fixed ?? false;
  const start = useStart(id);
  if (!found.data)
    return (
      <>
        <StageHead title="Estimate" />
        {plan && !plan.plan ? (
          <Soft>There is no plan yet. Choose what to renew and keep the plan.</Soft>
        ) : (
          <Waiting error={found.error} what="the estimate" />
        )}
        <Link to={`/jobs/${id}/plan`}>Back to the plan</Link>
      </>
    );
  const { estimate: e, currency, go } = found.data;
  const unpriced = e.lines.filter((line) => line.price === null).length;
  const money = (figure: number) => `${figure.toFixed(2)} ${currency}`;
  return (
    <>
      <StageHead title="Estimate">
        <Link to={`/jobs/${id}/plan`}>Back to the plan</Link>
      </StageHead>
      <TroubleNote trouble={start.trouble} />
      <Line $gap="10px 32px" $align="start">
        <div>
          <Soft>Altogether</Soft>
          <Big $size={44}>{money(e.price)}</Big>
          <Soft>
            nine times in ten from {e.low_price.toFixed(2)} to {e.high_price.toFixed(2)}
            {unpriced > 0 && `; ${unpriced} supplies come on top, not priced`}
          </Soft>
        </div>
        <div>
          <Soft>Work</Soft>
          <Big>{e.hours.toFixed(1)} h</Big>
          <Soft>over {e.days === 1 ? "one working day" : `${e.days} working days`}</Soft>
        </div>
        <div>
          <Soft>Can begin</Soft>
          <Big>{e.starts_on ?? "not known"}</Big>
          <Soft>{e.done_on ? `done on ${e.done_on}` : "see what it waits for, below"}</Soft>
        </div>
      </Line>
      <Columns $of="minmax(0, 3fr) minmax(0, 2fr)">
        <Sheet>
          <h2>{e.road}</h2>
          {e.renewed.length > 0 && <Told>Renewed: {e.renewed.join(", ")}.</Told>}
          {e.set_right.length > 0 && <Told>Set right as it is: {e.set_right.join(", ")}.</Told>}
          <PlainList $gap="4px">
            {e.lines.map((line) => (
              <Ends as="li" key={line.what} $keeps>
                <span>
                  {line.what} <Soft as="span">{line.words}</Soft>
                </span>
                <Said $isWhole>{line.price === null ? "not known" : line.price.toFixed(2)}</Said>
              </Ends>
            ))}
          </PlainList>
          <OnTop estimate={e} money={money} />
          {e.others.length > 0 && <h2>What else there is</h2>}
          {e.others.map((o) => (
            <Ruled key={o.name}>
              <Ends $keeps>
                <span>{o.name}</span>
                <Said $isWhole>{money(o.price)}</Said>
              </Ends>
              <Soft>
                {o.hours.toFixed(1)} h. {o.against.join("; ")}
              </Soft>
            </Ruled>
          ))}
        </Sheet>
        <Sheet>
          <GoAhead id={id} page={found.data} isFixed={isFixed} />
          {!isFixed && (
            <Line>
              <Button
                look={go.may_start ? "next" : "plain"}
                isDisabled={!go.may_start || start.isBusy}
                onPress={() => void start.onStart()}
              >
                Start on the bench
              </Button>
            </Line>
          )}
          <LeadsGo id={id} go={go} points={e.no_returns} />
          <h2>On paper</h2>
          <PlainList $gap="4px">
            {SHEETS.map(([kind, name]) => (
              <li key={kind}>
                <a
                  href={`/api/jobs/${id}/plan/sheets/${kind}.pdf`}
                  target="_blank"
                  rel="noreferrer"
                >
                  {name}
                </a>
              </li>
            ))}
          </PlainList>
          {found.data.held_by.length > 0 && (
            <>
              <h2>It waits for</h2>
              <PlainList $gap="4px">
                {found.data.held_by.map((words) => (
                  <Soft as="li" key={words}>
                    {words}
                  </Soft>
                ))}
              </PlainList>
              <Link to="/stores">Stock, orders, tools</Link>
            </>
          )}
          <Soft>{e.notice}</Soft>
        </Sheet>
      </Columns>
    </>
  );
}

const SHEETS = [
  ["estimate", "Estimate, to be signed"],
  ["work", "Work sheet"],
  ["parts", "Parts and tools"],
  ["marks", "Marks and counts"],
] as const;

interface OnTopProps {
  estimate: Schemas["Estimate"];
  money: (figure: number) => string;
}

function OnTop({ estimate, money }: OnTopProps) {
  if (!estimate.worse.length && !estimate.loses.length) return null;
  return (
    <>
      <h2>What may come on top</h2>
      <PlainList $gap="4px">
        {estimate.worse.map((d) => (
          <Told as="li" key={d.what} $tone={d.is_grave ? "stop" : "care"}>
            {d.is_grave ? "■" : "▲"} {percent(d.chance)}: {d.what}
            {d.minutes > 0 && ` ${(d.minutes / 60).toFixed(1)} h more.`}
            {d.price > 0 && ` ${money(d.price)} more.`}
          </Told>
        ))}
        {estimate.loses.map((words) => (
          <Told as="li" key={words} $tone="care">
            ▲ {words}
          </Told>
        ))}
      </PlainList>
    </>
  );
}

interface LeadsGoProps {
  id: number;
  go: Schemas["GoAheads"];
  points: string[];
}

/** A lead's go past the points of no return; the bench stops at the first of them without it. */
function LeadsGo({ id, go, points }: LeadsGoProps) {
  const isLead = useQuery(meQuery).data?.role === "lead";
  if (!go.needs_go) return null;
  return (
    <>
      <h2>Points of no return: {points.length}</h2>
      {go.go_by ? (
        <Told $tone="fine">✓ {go.go_by} gave the go past them.</Told>
      ) : (
        <CareNote title="No lead has given the go yet">
          The bench stops at the first of them until a lead has.
        </CareNote>
      )}
      <PlainList $gap="4px">
        {points.map((words) => (
          <Soft as="li" key={words}>
            {words}
          </Soft>
        ))}
      </PlainList>
      {!go.go_by && isLead && <GiveGo id={id} />}
    </>
  );
}
