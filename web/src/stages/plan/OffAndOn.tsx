import { useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button as Show } from "../../kit/controls";
import { Columns, Line as Row, Sheet, Soft } from "../../kit/page";
import { Told } from "../../kit/text";

type Step = Schemas["PlanStep"];

const Steps = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  border-left: 4px solid var(--enamel);
`;
const Press = styled(Button)<{ $kind: string }>`
  display: flex;
  width: 100%;
  justify-content: space-between;
  gap: 8px;
  min-height: 48px;
  padding: 5px 4px 5px 12px;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: left;
  cursor: pointer;
  font-size: var(--note);
  ${({ $kind }) => $kind === "op" && "color: var(--soft);"}
  ${({ $kind }) => $kind === "torque" && "padding-left: 30px;"}
`;
const Why = styled.div`
  padding: 6px 12px 10px;
  border-bottom: 1px solid var(--line);
`;

/** What comes off downwards, what goes on upwards, side by side; why each step stands where it does. */
export function OffAndOn({ plan }: { plan: Schemas["Plan"] }) {
  const [isShown, setShown] = useState(false);
  const off = plan.steps.filter((s) => s.phase === "prepare" || s.phase === "remove");
  const on = plan.steps.filter((s) => s.phase === "fit" || s.phase === "close");
  const number = new Map(plan.steps.map((s, i) => [s.ref, i + 1]));
  const lines = (steps: Step[]) =>
    steps.map((s) => <Line key={s.ref} step={s} number={number} plan={plan} />);
  if (!isShown)
    return (
      <Sheet>
        <Row>
          <Show onPress={() => setShown(true)}>Show all {plan.steps.length} steps</Show>
          <Soft>In their order, each with what it waits for.</Soft>
        </Row>
      </Sheet>
    );
  return (
    <Columns $of="1fr 1fr">
      <Sheet>
        <h2>
          Off <Soft as="span">downwards ↓</Soft>
        </h2>
        <Steps>{lines(off)}</Steps>
      </Sheet>
      <Sheet>
        <h2>
          On <Soft as="span">upwards ↑</Soft>
        </h2>
        <Steps>{lines(on).reverse()}</Steps>
      </Sheet>
    </Columns>
  );
}

interface LineProps {
  step: Step;
  number: ReadonlyMap<string, number>;
  plan: Schemas["Plan"];
}

function Line({ step, number, plan }: LineProps) {
  const [isOpen, setOpen] = useState(false);
  const named = (refs: readonly string[]) =>
    refs
      .map((ref) => {
        const title = plan.steps.find((s) => s.ref === ref)?.title ?? ref;
        return `${number.get(ref) ?? "?"} ${title}`;
      })
      .join(", ");
  return (
    <li value={number.get(step.ref)}>
      <Press $kind={step.verb} aria-expanded={isOpen} onPress={() => setOpen(!isOpen)}>
        <span>
          {number.get(step.ref)} {step.title}
          {step.two_person ? " · two people" : ""}
          {step.no_return ? " · ⚑" : ""}
        </span>
        <Told as="span" $tone="soft" $size={15} $isWhole>
          {Math.round(step.minutes)} min
        </Told>
      </Press>
      {isOpen && (
        <Why>
          <Told>{step.why && `In this plan ${step.why}.`}</Told>
          <Soft>
            {step.waits_for.length ? `Waits for ${named(step.waits_for)}.` : "Waits for nothing."}
          </Soft>
          <Soft>
            {step.held_up.length ? `Before ${named(step.held_up)}.` : "Nothing waits for it."}
          </Soft>
          {step.no_return && <Told $tone="stop">⚑ {step.no_return}</Told>}
        </Why>
      )}
    </li>
  );
}
