import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button, Check, Field } from "../../kit/controls";
import { figureOf, wrongFigure } from "../../kit/figures";
import { Line, Sheet, Soft } from "../../kit/page";
import { PlainList, Said } from "../../kit/text";
import type { Trying } from "./trying";

const Item = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(110px, 160px);
  gap: 4px 14px;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--line);
`;

interface Props {
  readings: Schemas["TriedOut"][];
  trying: Trying;
  isOn: boolean;
  onLeave: (id: string, isOut: boolean) => void;
  onPut: (id: string, figure: number | null) => void;
  onStop: () => void;
}

/** Leave readings out or change them, and see the verdict move; nothing of it is kept. */
export function WhatIf({ readings, trying, isOn, onLeave, onPut, onStop }: Props) {
  if (!readings.length) return null;
  return (
    <Sheet aria-label="What if">
      <h2>What if</h2>
      <Soft>
        Untick a reading, or put another figure: everything above moves. The record stays as it is.
      </Soft>
      <PlainList>
        {readings.map((reading) => (
          <Item key={reading.id}>
            <Check
              isSelected={!trying.leftOut.includes(reading.id)}
              onChange={(isIn) => onLeave(reading.id, !isIn)}
            >
              {reading.words}
            </Check>
            {reading.figure && (
              <Figure
                key={isOn ? "on" : "off"}
                id={reading.id}
                figure={reading.figure}
                isDisabled={trying.leftOut.includes(reading.id)}
                onPut={onPut}
              />
            )}
          </Item>
        ))}
      </PlainList>
      {isOn && (
        <Line $align="center">
          <Said>This is a what-if.</Said>
          <Button onPress={onStop}>Back to what was read</Button>
        </Line>
      )}
    </Sheet>
  );
}

interface FigureProps {
  id: string;
  figure: Schemas["FigureOut"];
  isDisabled: boolean;
  onPut: (id: string, figure: number | null) => void;
}

function Figure({ id, figure, isDisabled, onPut }: FigureProps) {
  const was = String(Math.round(figure.value * 100) / 100);
  const [typed, setTyped] = useState(was);
  const wrongIn = (text: string) =>
    text === was ? undefined : wrongFigure(text, figure.low, figure.high);
  return (
    <Field
      label={`Instead, ${figure.unit}`}
      value={typed}
      inputMode="decimal"
      isDisabled={isDisabled}
      wrong={wrongIn(typed)}
      onChange={(text) => {
        setTyped(text);
        if (!wrongIn(text)) onPut(id, text === was ? null : figureOf(text));
      }}
    />
  );
}
