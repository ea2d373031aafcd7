import type { Schemas } from "../../api/client";
import { Soft } from "../../kit/page";
import { Tiles } from "../../kit/text";

/** More of them are not read as one sentence. */
const FEW = 3;

function quickSays(step: Schemas["PlanStep"]): string[] {
  return step.asked.flatMap((a, i) => {
    const code = step.one_press[i];
    if (code === null || a.stage) return [];
    return `${a.ask} ${a.choices.find((c) => c.code === code)?.words ?? code}`;
  });
}

/** What one press is taken to say, for whoever reads it before pressing. */
export function OnePress({ step }: { step: Schemas["PlanStep"] }) {
  const said = quickSays(step);
  if (said.length < 2) return null;
  if (said.length <= FEW) return <Soft>One press says: {said.join(" · ")}.</Soft>;
  return (
    <Soft as="div">
      One press says all of it:
      <Tiles $least={250} $gap="2px 18px">
        {said.map((line) => (
          <div key={line}>· {line}</div>
        ))}
      </Tiles>
    </Soft>
  );
}
