import styled from "styled-components";
import { Field } from "./controls";
import { Press } from "./FigureKey";

const Pad = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(64px, 96px));
  gap: 8px;
`;
const MOST = 8;

interface Props {
  name?: string;
  /** The figures are what comes first on the page. */
  isFirst?: boolean;
  value: string;
  onChange: (value: string) => void;
}

/** Figures of a PIN, typed or pressed with a glove on. */
export function PinPad({ name = "secret", isFirst, value, onChange }: Props) {
  const take = (typed: string) => onChange(typed.replace(/\D/g, "").slice(0, MOST));
  return (
    <>
      <Field
        name={name}
        label="PIN"
        value={value}
        onChange={take}
        type="password"
        inputMode="numeric"
        autoFocus={isFirst ?? false}
      />
      <Pad>
        {["1", "2", "3", "4", "5", "6", "7", "8", "9"].map((figure) => (
          <Press key={figure} excludeFromTabOrder onPress={() => take(value + figure)}>
            {figure}
          </Press>
        ))}
        <Press data-back excludeFromTabOrder onPress={() => onChange(value.slice(0, -1))}>
          back
        </Press>
        <Press excludeFromTabOrder onPress={() => take(`${value}0`)}>
          0
        </Press>
      </Pad>
    </>
  );
}
