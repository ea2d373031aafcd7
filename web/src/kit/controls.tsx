import type { ReactNode } from "react";
import {
  CheckboxButton,
  CheckboxField,
  FieldError,
  Input,
  Label,
  RadioButton,
  RadioField,
  RadioGroup,
  Text,
  TextArea,
  TextField,
} from "react-aria-components";
import styled, { css } from "styled-components";
import { Button } from "./Button";
import { useFieldName } from "./fields";

export { Button } from "./Button";

/** A button at the level of a field that has a hint below it. */
export const Beside = styled(Button)`
  margin-bottom: 23px;
`;

const Caption = styled(Label)`
  display: block;
  font-size: var(--note);
  color: var(--soft);
  margin-bottom: 4px;
`;
const box = css`
  width: 100%;
  min-height: 48px;
  padding: 9px 12px;
  background: var(--sheet);
  border: 1.5px solid var(--edge);
  border-radius: 2px;
  &[data-focused] {
    border-color: var(--blue);
    outline: none;
    box-shadow: 0 0 0 1.5px var(--blue);
  }
  &[data-invalid] {
    border-color: var(--red);
  }
`;
const Box = styled(Input)`
  ${box}
`;
const Area = styled(TextArea)`
  ${box} min-height: 92px;
  resize: vertical;
`;
const Hint = styled(Text)`
  display: block;
  font-size: var(--least);
  color: var(--soft);
  margin-top: 3px;
`;

const Wrong = styled(FieldError)`
  display: block;
  font-size: var(--note);
  color: var(--red);
  margin-top: 3px;
  &::before {
    content: "■ ";
  }
`;

interface FieldProps {
  label: string;
  /** How the request calls it: what the server finds wrong with it stands here. */
  name?: string;
  /** What is wrong with what is typed, found without asking the server. */
  wrong?: string;
  value: string;
  onChange: (value: string) => void;
  hint?: string;
  isLong?: boolean;
  type?: "text" | "password";
  autoComplete?: string;
  isDisabled?: boolean;
  inputMode?: "text" | "numeric" | "decimal";
  autoFocus?: boolean;
}

export function Field({
  label,
  hint,
  isLong,
  type = "text",
  autoComplete = "off",
  inputMode,
  autoFocus,
  wrong,
  ...props
}: FieldProps) {
  useFieldName(props.name);
  return (
    <TextField
      {...props}
      type={type}
      autoComplete={autoComplete}
      autoFocus={autoFocus}
      {...(wrong ? { isInvalid: true } : {})}
    >
      <Caption>{label}</Caption>
      {isLong ? <Area /> : <Box inputMode={inputMode} />}
      {hint && <Hint slot="description">{hint}</Hint>}
      <Wrong>{({ validationErrors }) => wrong ?? validationErrors.join(" ")}</Wrong>
    </TextField>
  );
}

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;
const Pick = styled(RadioButton)<{ $big?: boolean }>`
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: ${({ $big }) => ($big ? 56 : 48)}px;
  padding: 6px 14px;
  border: 1.5px solid var(--edge);
  border-radius: 2px;
  background: var(--sheet);
  cursor: pointer;
  font-size: ${({ $big }) => ($big ? 20 : 15)}px;
  &::before {
    content: "";
    width: 12px;
    height: 12px;
    border: 2px solid var(--edge);
    border-radius: 50%;
    flex: none;
  }
  &[data-selected] {
    border-color: var(--enamel);
    background: var(--enamel-tint);
    font-weight: 700;
  }
  &[data-selected]::before {
    border-color: var(--enamel);
    background: var(--enamel);
    box-shadow: inset 0 0 0 2px var(--sheet);
  }
  &[data-focus-visible] {
    outline: 3px solid var(--blue);
  }
  &[data-disabled] {
    border-style: dashed;
    color: var(--soft);
    cursor: default;
  }
`;

interface ChoiceProps<T extends string> {
  label: string;
  value: T | null;
  onChange: (value: T) => void;
  options: readonly { value: T; label: string }[];
  isBig?: boolean;
  isDisabled?: boolean;
}

export function Choice<T extends string>({
  label,
  value,
  onChange,
  options,
  isBig,
  isDisabled,
}: ChoiceProps<T>) {
  return (
    <RadioGroup
      value={value}
      onChange={(v) => onChange(v as T)}
      isDisabled={isDisabled}
      orientation="horizontal"
    >
      <Caption>{label}</Caption>
      <Row>
        {options.map((o) => (
          <RadioField key={o.value} value={o.value}>
            <Pick $big={isBig}>{o.label}</Pick>
          </RadioField>
        ))}
      </Row>
    </RadioGroup>
  );
}

const Tick = styled(CheckboxButton)`
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 48px;
  padding: 4px 8px;
  cursor: pointer;
  &::before {
    content: "";
    flex: none;
    width: 22px;
    height: 22px;
    border: 2px solid var(--edge);
    background: var(--sheet);
    font-weight: 700;
    display: grid;
    place-content: center;
    line-height: 1;
  }
  &[data-selected]::before {
    content: "✓";
    border-color: var(--enamel);
    background: var(--enamel);
    color: var(--on-enamel);
  }
  &[data-disabled] {
    border-style: dashed;
    color: var(--soft);
    cursor: default;
  }
  &[data-focus-visible] {
    outline: 3px solid var(--blue);
  }
`;

export function Check({
  children,
  ...props
}: {
  children: ReactNode;
  isSelected: boolean;
  onChange: (on: boolean) => void;
  isDisabled?: boolean;
}) {
  return (
    <CheckboxField {...props}>
      <Tick>{children}</Tick>
    </CheckboxField>
  );
}
