import styled from "styled-components";
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { client, take, type Schemas } from "../../api/client";
import { planQuery, previewQuery, useChange } from "../../api/queries";
import { shopQuery } from "../../api/unitQueries";
import { Button, Check } from "../../kit/controls";
import { useDraft } from "../../kit/draft";
import {
  Big,
  CareNote,
  Columns,
  Line,
  Sheet,
  Soft,
  Stack,
  StageHead,
  TroubleNote,
  Waiting,
} from "../../kit/page";
import { hours } from "../../kit/words";
import { OffAndOn } from "./OffAndOn";

export function Plan() {
  const id = Number(useParams().id);
  const navigate = useNavigate();
  const plan = useQuery(planQuery(id));
  const { change, trouble, isBusy } = useChange(id);
  const decided = plan.data?.decided;
  const proposed = plan.data?.measured.map((p) => p.component) ?? [];
  const stands = plan.data?.plan ?? decided;
  const draft = useDraft<Chosen>(`scope ${id}`, {
    scope: stands?.scope ?? proposed,
    kept: stands?.kept ?? [],
  });
  const { scope } = draft.value;
  const kept = draft.value.kept.filter((c) => scope.includes(c));
  const preview = useQuery({
    ...previewQuery(id, scope, kept),
    enabled: Boolean(plan.data) && scope.length > 0,
  });
  if (!plan.data) return <Waiting error={plan.error} what="the plan" />;
  const data = plan.data;
  const chosen = scope.length ? preview.data : undefined;
  const told = (p?: Chosen | null) => JSON.stringify([p?.scope ?? [], p?.kept ?? []]);
  const isSaved = told(data.plan) === told(chosen);

  async function onChoose(thenStart: boolean) {
    let done = isSaved
      ? ({} as object | null)
      : await change((version) =>
          take(
            client.PUT("/api/jobs/{job_id}/plan", {
              params: { path: { job_id: id } },
              body: { version, scope, kept },
            }),
          ),
        );
    if (!done) return;
    draft.forget(draft.value);
    if (thenStart) {
      done = await change((version) =>
        take(
          client.POST("/api/jobs/{job_id}/plan/start", {
            params: { path: { job_id: id } },
            body: { version },
          }),
        ),
      );
      if (done) void navigate(`/jobs/${id}/bench`);
    }
  }
  return (
    <>
      <StageHead title="What gets renewed?">
        <Soft>
          {data.is_fixed
            ? "The bench has started: the plan stands."
            : "Access and order follow from the engine book."}
        </Soft>
      </StageHead>
      <TroubleNote trouble={trouble} />
      {chosen && <Totals plan={chosen} />}
      <Columns $of="250px minmax(0, 1fr)">
        <Sheet>
          <Schools
            measured={data.measured}
            whole={data.whole_set}
            decided={data.decided}
            isFixed={data.is_fixed}
            onTake={(next, again = []) => draft.set({ scope: next, kept: again })}
          />
          <Parts
            components={data.components}
            scope={scope}
            kept={kept}
            isFixed={data.is_fixed}
            access={chosen?.access ?? []}
            onChange={(next) =>
              draft.set({ scope: next, kept: kept.filter((c) => next.includes(c)) })
            }
          />
        </Sheet>
        <Stack>
          {!chosen ? (
            <Sheet>
              {scope.length ? (
                <Waiting error={preview.error} what="the order of work" />
              ) : (
                <Soft>
                  Nothing chosen. Take the verdict&apos;s proposal or tick parts on the left.
                </Soft>
              )}
            </Sheet>
          ) : (
            <>
              {!data.is_fixed && (
                <Line>
                  <Button look="next" onPress={() => void onChoose(true)} isDisabled={isBusy}>
                    Start on the bench
                  </Button>
                  <Button onPress={() => void onChoose(false)} isDisabled={isBusy || isSaved}>
                    {isSaved ? "Plan is kept" : "Keep this plan"}
                  </Button>
                </Line>
              )}
              <OffAndOn plan={chosen} />
              <PartsAndTools plan={chosen} />
            </>
          )}
        </Stack>
      </Columns>
    </>
  );
}

interface Chosen {
  scope: string[];
  kept: string[];
}

interface SchoolsProps {
  decided: Schemas["DecidedScope"] | null;
  measured: Schemas["Proposal"][];
  whole: Schemas["Proposal"][];
  isFixed: boolean;
  onTake: (scope: string[], kept?: string[]) => void;
}

function Schools({ decided, measured, whole, isFixed, onTake }: SchoolsProps) {
  if (!decided && !measured.length && !whole.length)
    return (
      <CareNote title="The verdict proposes nothing">
        No suspect is likelier than not. Read more before opening the engine.
      </CareNote>
    );
  return (
    <Stack $gap={6}>
      {decided && (
        <>
          <h2>Decided</h2>
          <p>{decided.name}</p>
          <Line>
            <Button onPress={() => onTake(decided.scope, decided.kept)} isDisabled={isFixed}>
              As decided: {decided.scope.length}
            </Button>
          </Line>
        </>
      )}
      {measured.length + whole.length > 0 && <h2>The verdict proposes</h2>}
      {[...new Set(measured.map((p) => p.reason))].map((reason) => (
        <Soft key={reason}>{reason}</Soft>
      ))}
      {measured.length + whole.length > 0 && (
        <Line>
          <Button onPress={() => onTake(measured.map((p) => p.component))} isDisabled={isFixed}>
            Measured bad: {measured.length}
          </Button>
          <Button onPress={() => onTake(whole.map((p) => p.component))} isDisabled={isFixed}>
            Whole set: {whole.length}
          </Button>
        </Line>
      )}
    </Stack>
  );
}

interface PartsProps {
  components: Schemas["ComponentOut"][];
  scope: string[];
  kept: string[];
  access: string[];
  isFixed: boolean;
  onChange: (scope: string[]) => void;
}

function Parts({ components, scope, kept, access, isFixed, onChange }: PartsProps) {
  return (
    <div>
      <h2>Renew</h2>
      {components
        .filter((c) => c.is_renewable && !c.is_one_use)
        .map((c) => (
          <Check
            key={c.id}
            isSelected={scope.includes(c.id)}
            isDisabled={isFixed}
            onChange={(on) => onChange(on ? [...scope, c.id] : scope.filter((s) => s !== c.id))}
          >
            <span>
              {c.name}
              {kept.includes(c.id) && <Soft as="span"> set right, not renewed</Soft>}
              {access.includes(c.id) && !scope.includes(c.id) && <Soft as="span"> off anyway</Soft>}
            </span>
          </Check>
        ))}
    </div>
  );
}

function Totals({ plan }: { plan: Schemas["Plan"] }) {
  const currency = useQuery(shopQuery).data?.currency;
  return (
    <Sheet>
      <Line $gap="10px 44px" $align="start">
        <div>
          <Soft>Working time</Soft>
          <Big>{hours(plan.minutes)}</Big>
          <Soft>
            {hours(plan.low_minutes)} to {hours(plan.high_minutes)}
            {plan.waiting_minutes ? `, and ${hours(plan.waiting_minutes)} of waiting` : ""}
          </Soft>
        </div>
        <div>
          <Soft>Parts</Soft>
          <Big>{plan.price.toFixed(0)}</Big>
          <Soft>{currency || "in the currency of the book"}</Soft>
        </div>
        <div>
          <Soft>Steps</Soft>
          <Big>{plan.steps.length}</Big>
          <Soft>{plan.two_person_steps} need two people</Soft>
        </div>
        <div>
          <Soft>Comes off</Soft>
          <Big>{plan.access.length}</Big>
          <Soft>parts, and nothing more</Soft>
        </div>
      </Line>
    </Sheet>
  );
}

const Ready = styled.ul`
  margin: 0;
  padding-left: 18px;
`;

function PartsAndTools({ plan }: { plan: Schemas["Plan"] }) {
  return (
    <Columns $of="1fr 1fr">
      <Sheet>
        <h2>Have ready</h2>
        <Ready>
          {plan.parts.map((p) => (
            <li key={p.name}>
              {p.count > 1 ? `${p.count} × ` : ""}
              {p.name} <Soft as="span">{p.why}</Soft>
            </li>
          ))}
          {plan.supplies.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </Ready>
      </Sheet>
      <Sheet>
        <h2>Tools</h2>
        <p>{plan.tools.join(", ")}.</p>
        <Soft>{plan.notice}</Soft>
      </Sheet>
    </Columns>
  );
}
