import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { client, take, type Schemas } from "../../api/client";
import { goQuery, planQuery, previewQuery, useChange, type Chosen } from "../../api/queries";
import { shopQuery } from "../../api/unitQueries";
import { Button, Check } from "../../kit/controls";
import { ButtonLink } from "../../kit/Button";
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
import { Course } from "./Course";
import { Finder } from "./Finder";
import { OffAndOn } from "./OffAndOn";
import { Offers } from "./Offers";
import { Ready } from "./Ready";
import { Roads } from "./Roads";
import { useStart } from "./useStart";

export function Plan() {
  const id = Number(useParams().id);
  const plan = useQuery(planQuery(id));
  const go = useQuery(goQuery(id));
  const { change, trouble, isBusy } = useChange(id);
  const start = useStart(id);
  const decided = plan.data?.decided;
  const proposed = plan.data?.measured ?? [];
  const stands = plan.data?.plan ?? decided;
  const draft = useDraft<Partial<Chosen>>(`scope ${id}`, {
    scope: stands?.scope ?? proposed.map((p) => p.component),
    kept: stands?.kept ?? proposed.filter((p) => p.is_kept).map((p) => p.component),
    ways: stands?.ways ?? [],
    kit: stands?.kit ?? "",
  });
  const { scope = [], ways = [], kit = "" } = draft.value; // one of an earlier day has less
  const kept = (draft.value.kept ?? []).filter((c) => scope.includes(c));
  const wanted: Chosen = { scope, kept, ways, kit };
  const isAsked = Boolean(plan.data) && scope.length > 0;
  const preview = useQuery({ ...previewQuery(id, wanted), enabled: isAsked });
  // The book's own order is there at once; the shortest one takes its place when it is found.
  const quick = useQuery({
    ...previewQuery(id, wanted, true),
    enabled: isAsked && !preview.data,
    placeholderData: (before) => before,
  });
  if (!plan.data) return <Waiting error={plan.error} what="the plan" />;
  const data = plan.data;
  const chosen = scope.length ? (preview.data ?? quick.data) : undefined;
  const isSaved = told(data.plan) === told(wanted);

  async function onKeep() {
    const done = await change((version) =>
      take(
        client.PUT("/api/jobs/{job_id}/plan", {
          params: { path: { job_id: id } },
          body: { version, ...wanted },
        }),
      ),
    );
    if (done) draft.forget(draft.value);
  }
  // Where the road taken cannot be gone, another may.
  const roads = (
    <Roads
      id={id}
      chosen={wanted}
      signed={decided?.ways ?? []}
      isFixed={data.is_fixed}
      onTake={(taken) => draft.set({ ...wanted, ...taken })}
    />
  );
  return (
    <>
      <StageHead title="What gets renewed?">
        <Soft>
          {data.is_fixed
            ? "The bench has started: the plan stands."
            : "Access and order follow from the engine book."}
        </Soft>
      </StageHead>
      <TroubleNote trouble={trouble ?? start.trouble} />
      {chosen && <Totals plan={chosen} />}
      {chosen && (
        <Line>
          {data.is_fixed ? (
            <ButtonLink to={`/jobs/${id}/plan/estimate`}>Estimate and sheets</ButtonLink>
          ) : !isSaved ? (
            <Button look="next" onPress={() => void onKeep()} isDisabled={isBusy}>
              Keep this plan
            </Button>
          ) : go.data?.may_start ? (
            <>
              <Button look="next" onPress={() => void start.onStart()} isDisabled={isBusy}>
                Start on the bench
              </Button>
              <ButtonLink to={`/jobs/${id}/plan/estimate`}>Estimate and sheets</ButtonLink>
            </>
          ) : (
            <ButtonLink look="next" to={`/jobs/${id}/plan/estimate`}>
              Estimate and go-ahead
            </ButtonLink>
          )}
          <Finder id={id} />
        </Line>
      )}
      {chosen && !data.is_fixed && isSaved && go.data?.why_not && (
        <CareNote title="The owner has to be asked again">
          {go.data.agreed_words} Since then: {go.data.why_not}.
        </CareNote>
      )}
      <Columns $of="250px minmax(0, 1fr)">
        <Sheet>
          <Schools
            measured={proposed}
            whole={data.whole_set}
            decided={data.decided}
            isFixed={data.is_fixed}
            onTake={(next) => draft.set({ kept: [], ways: [], kit: "", ...next })}
          />
          <Parts
            components={data.components}
            scope={scope}
            kept={kept}
            isFixed={data.is_fixed}
            access={chosen?.access ?? []}
            onChange={(next) => draft.set({ scope: next, kept, ways: [], kit: "" })}
          />
        </Sheet>
        <Stack>
          {!chosen ? (
            <Sheet>
              {scope.length ? (
                <>
                  <Waiting error={preview.error ?? quick.error} what="the order of work" />
                  {roads}
                </>
              ) : (
                <Soft>
                  {proposed.length || decided
                    ? "Nothing chosen. Take what is proposed, or tick parts on the left."
                    : "Nothing chosen. Tick parts on the left, or read more first: the verdict proposes nothing."}
                </Soft>
              )}
            </Sheet>
          ) : (
            <>
              {roads}
              <Course plan={chosen} components={data.components} />
              {!data.is_fixed && (
                <Offers
                  id={id}
                  chosen={wanted}
                  onAdd={(part) => draft.set({ ...wanted, scope: [...scope, part] })}
                />
              )}
              <Ready id={id} chosen={wanted} notice={chosen.notice} />
              <OffAndOn plan={chosen} />
            </>
          )}
        </Stack>
      </Columns>
    </>
  );
}

const told = (p?: Partial<Chosen> | null) =>
  JSON.stringify([...[p?.scope, p?.kept, p?.ways].map((keys) => [...(keys ?? [])].sort()), p?.kit]);

interface SchoolsProps {
  decided: Schemas["DecidedScope"] | null;
  measured: Schemas["Proposal"][];
  whole: Schemas["Proposal"][];
  isFixed: boolean;
  onTake: (taken: { scope: string[]; kept?: string[]; ways?: string[]; kit?: string }) => void;
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
            <Button
              onPress={() =>
                onTake({
                  scope: decided.scope,
                  kept: decided.kept,
                  ways: decided.ways,
                  kit: decided.kit,
                })
              }
              isDisabled={isFixed}
            >
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
          <Button onPress={() => onTake(proposal(measured))} isDisabled={isFixed}>
            Measured bad: {measured.length}
          </Button>
          <Button onPress={() => onTake(proposal(whole))} isDisabled={isFixed}>
            All of its chain: {whole.length}
          </Button>
        </Line>
      )}
    </Stack>
  );
}

const proposal = (found: Schemas["Proposal"][]) => ({
  scope: found.map((p) => p.component),
  kept: found.filter((p) => p.is_kept).map((p) => p.component),
});

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
      <Line $gap="10px 32px" $align="start">
        <div>
          <Soft>Working time</Soft>
          <Big>{hours(plan.minutes)}</Big>
          <Soft>
            {hours(plan.low_minutes)} to {hours(plan.high_minutes)}, done after{" "}
            {hours(plan.elapsed_minutes)} with its waits
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
          <Soft>
            {plan.helper.length
              ? `a second person called ${plan.helper.length === 1 ? "once" : `${plan.helper.length} times`}`
              : "nobody else needed"}
          </Soft>
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
