import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Columns, Sheet, Soft } from "../../kit/page";
import { Told } from "../../kit/text";

const Steps = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  border-left: 4px solid var(--enamel);
`;
const Step = styled.li<{ $kind: string }>`
  display: flex;
  justify-content: space-between;
  gap: 8px;
  padding: 5px 4px 5px 12px;
  border-bottom: 1px solid var(--line);
  font-size: var(--note);
  ${({ $kind }) => $kind === "op" && "color: var(--soft);"}
  ${({ $kind }) => $kind === "torque" && "margin-left: 18px;"}
`;

/** What comes off downwards, what goes on upwards, side by side. */
export function OffAndOn({ plan }: { plan: Schemas["Plan"] }) {
  const off = plan.steps.filter((s) => s.phase === "prepare" || s.phase === "remove");
  const on = plan.steps.filter((s) => s.phase === "fit" || s.phase === "close");
  return (
    <Columns $of="1fr 1fr">
      <Sheet>
        <h2>
          Off <Soft as="span">downwards ↓</Soft>
        </h2>
        <Steps>
          {off.map((s, i) => (
            <Line key={s.ref} step={s} number={i + 1} />
          ))}
        </Steps>
      </Sheet>
      <Sheet>
        <h2>
          On <Soft as="span">upwards ↑</Soft>
        </h2>
        <Steps>
          {on.map((s, i) => <Line key={s.ref} step={s} number={off.length + i + 1} />).reverse()}
        </Steps>
      </Sheet>
    </Columns>
  );
}

function Line({ step, number }: { step: Schemas["PlanStep"]; number: number }) {
  return (
    <Step $kind={step.verb} value={number}>
      <span>
        {number} {step.title}
        {step.two_person ? " · two people" : ""}
      </span>
      <Told as="span" $tone="soft" $size={15} $isWhole>
        {Math.round(step.minutes)} min
      </Told>
    </Step>
  );
}
