import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Beside, Choice, Field } from "../../kit/controls";
import { Keypad } from "../../kit/Keypad";
import { Line } from "../../kit/page";
import { offered } from "../../kit/words";

const Answer = styled.div`
  font-size: var(--name);
  & .react-aria-TextField {
    flex: 1 1 260px;
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(120px, 170px);
    gap: 0 12px;
    align-items: center;
    > label {
      font-size: var(--name);
      line-height: 1.25;
      color: var(--ink);
      align-self: end;
      margin: 0;
    }
    > [slot="description"] {
      grid-column: 1;
      margin: 2px 0 0;
      align-self: start;
    }
    > input {
      grid-row: span 2;
    }
  }
  & input {
    font-size: var(--figure);
    font-weight: 700;
    min-height: var(--bench-target);
    max-width: 260px;
    padding: 2px 12px;
  }
`;

interface AskProps {
  name: string;
  asked: Schemas["Asked"];
  value: string;
  onChange: (value: string) => void;
}

/** One question of a step with all that may be said to it. */
export function Ask({ name, asked, value, onChange }: AskProps) {
  const choices = asked.choices;
  if (choices.length)
    return (
      <Answer>
        <Choice
          label={asked.ask}
          value={value || null}
          onChange={onChange}
          options={offered(choices)}
          isBig
        />
      </Answer>
    );
  return <Figure name={name} asked={asked} value={value} onChange={onChange} />;
}

/** What is typed after a figure told by an adjuster's graduations, not in millimetres. */
const GRADUATIONS = " grad";

function Figure({ name, asked, value, onChange }: AskProps) {
  const { escape } = asked;
  const isEscaped = Boolean(escape && value === escape.code);
  const [isPressed, setPressed] = useState(false);
  // What is typed says it itself, by a press or by hand; the press counts while nothing is.
  const isTurned = value && !isEscaped ? value.endsWith(GRADUATIONS) : isPressed;
  const figure = isEscaped ? "" : isTurned ? value.replace(GRADUATIONS, "") : value;
  const told = (typed: string, turned: boolean) => (typed && turned ? typed + GRADUATIONS : typed);
  const onFigure = (typed: string) => onChange(told(typed, isTurned));
  return (
    <Answer>
      <Line>
        <Field
          name={name}
          label={asked.ask}
          value={figure}
          onChange={onFigure}
          inputMode={asked.stage ? undefined : "numeric"}
          hint={asked.hint}
        />
        <Keypad label={asked.ask} value={figure} onChange={onFigure} />
        {asked.graduation_mm && (
          <Beside
            aria-pressed={isTurned}
            look={isTurned ? "main" : "plain"}
            onPress={() => {
              setPressed(!isTurned);
              onChange(told(figure, !isTurned));
            }}
          >
            graduations
          </Beside>
        )}
        {escape && (
          <Beside
            aria-pressed={isEscaped}
            look={isEscaped ? "main" : "plain"}
            onPress={() => onChange(isEscaped ? "" : escape.code)}
          >
            {escape.words}
          </Beside>
        )}
      </Line>
    </Answer>
  );
}
