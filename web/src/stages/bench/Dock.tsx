import { useState } from "react";
import styled from "styled-components";
import type { Schemas, Trouble } from "../../api/client";
import { Button } from "../../kit/controls";
import { ServerForm } from "../../kit/form";
import { quickAnswers, quickWords } from "./answering";
import { Ask } from "./Ask";

/** Where a step is answered: the same place on every step, whatever stands above it. */
export const Docked = styled.div<{ $isLong?: boolean }>`
  position: ${({ $isLong }) => ($isLong ? "static" : "sticky")};
  bottom: -16px;
  z-index: 3;
  margin: auto -16px -16px;
  padding: 12px 16px 16px;
  background: var(--ground);
  border-top: 2px solid var(--enamel);
  display: grid;
  gap: 12px;
  @media (max-width: 1100px) {
    bottom: 0;
  }
  @media (max-height: 620px) {
    position: static;
  }
`;
export const Presses = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  &[hidden] {
    display: none;
  }
  & > * {
    flex: 1 1 200px;
    min-height: 72px;
    font-size: var(--bench);
    white-space: normal;
  }
  & > [data-quiet] {
    min-height: var(--bench-target);
    font-size: inherit;
  }
`;

interface Props {
  step: Schemas["PlanStep"];
  answers: string[];
  trouble: Trouble | null;
  isBusy: boolean;
  /** Said again after it was not right. */
  isAgain: boolean;
  /** Every question by itself from the start: other figures than the book's are to be written. */
  isWritten: boolean;
  onFewer: () => void;
  onType: (question: number, value: string) => void;
  onRecord: (answers: string[]) => void;
}

/**
 * The answer to a step: one press where all is as it should be, with the figures that only a look
 * of one's own gives; every question by itself where something is not.
 */
export function Dock({
  step,
  answers,
  trouble,
  isBusy,
  isAgain,
  isWritten,
  onFewer,
  onType,
  onRecord,
}: Props) {
  const rest = step.one_press.flatMap((said, i) => (said === null ? [] : [i]));
  const [isWhole, setWhole] = useState(() => isWritten || rest.some((i) => answers[i]));
  const own = step.one_press.flatMap((said, i) => (said === null ? [i] : []));
  const only = rest.length === 1 && !own.length ? step.asked[rest[0] ?? 0] : undefined;
  const missing = (list: string[]) => list.some((a) => !a.trim());
  const quick = quickAnswers(step, answers);

  if (isWhole)
    return (
      <Docked $isLong>
        <ServerForm
          trouble={trouble}
          onSubmit={() => {
            if (!missing(answers) && !isBusy) onRecord(answers);
          }}
        >
          {step.asked.map((asked, i) => (
            <Ask
              key={asked.ask}
              name={`answers.${i}`}
              asked={asked}
              value={answers[i] ?? ""}
              onChange={(value) => onType(i, value)}
            />
          ))}
          <Presses>
            <Button look="next" type="submit" isDisabled={isBusy || missing(answers)}>
              {isBusy ? "Recording …" : isAgain ? "Checked again: record" : "Record what I see"}
            </Button>
            <Button
              onPress={() => {
                for (const i of rest) onType(i, "");
                setWhole(false);
                onFewer();
              }}
            >
              Fewer questions
            </Button>
          </Presses>
        </ServerForm>
      </Docked>
    );
  return (
    <Docked $isLong={own.length > MOST_DOCKED}>
      <ServerForm
        trouble={trouble}
        onSubmit={() => {
          if (!missing(quick) && !isBusy) onRecord(quick);
        }}
      >
        {own.map((i) => (
          <Ask
            key={i}
            name={`answers.${i}`}
            asked={step.asked[i] as Schemas["Asked"]}
            value={answers[i] ?? ""}
            onChange={(value) => onType(i, value)}
          />
        ))}
        {only && only.choices.length > 0 ? (
          <Presses role="group" aria-label={only.ask}>
            {only.choices.map((choice) => (
              <Button
                key={choice.code}
                look={only.right.includes(choice.code) ? "next" : "plain"}
                isDisabled={isBusy}
                onPress={() => onRecord([choice.code])}
              >
                {choice.words}
              </Button>
            ))}
          </Presses>
        ) : (
          <Presses>
            <Button look="next" type="submit" isDisabled={isBusy || missing(quick)}>
              {isBusy ? "Recording …" : `${isAgain ? "Checked again: " : ""}${quickWords(step)}`}
            </Button>
            {rest.length > 0 && (
              <Button isDisabled={isBusy} onPress={() => setWhole(true)}>
                {rest.every((i) => step.asked[i]?.kind === "mark")
                  ? "A mark misses"
                  : "Something is not so"}
              </Button>
            )}
          </Presses>
        )}
      </ServerForm>
    </Docked>
  );
}

/** More fields than these would cover what they ask about. */
const MOST_DOCKED = 3;
