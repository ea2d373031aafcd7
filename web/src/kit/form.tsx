import { useState, type ReactNode } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import type { Trouble } from "../api/client";
import { TroubleNote } from "./page";

const Ground = styled(Form)`
  display: grid;
  gap: 12px;
  min-width: 0;
`;

const Fields = styled.div`
  display: contents;
`;

interface Props {
  /** What the server refused last. */
  trouble: Trouble | null;
  /** Names of the fields in this form: what is wrong with one of them is said at it. */
  fields: string[];
  onSubmit: () => void;
  children: ReactNode;
}

/**
 * Fields that are sent together: Enter sends them, and what the server finds wrong with one stands
 * at that field until it is changed. Whatever else is wrong stands at the end.
 */
export function ServerForm({ trouble, fields, onSubmit, children }: Props) {
  const [answered, setAnswered] = useState<Trouble | null>(null);
  const detail = trouble?.detail;
  const isAtField = detail !== undefined && fields.includes(detail.field);
  const said = detail && [detail.message, detail.expected && `Expected: ${detail.expected}.`];
  const errors =
    isAtField && said && trouble !== answered
      ? { [detail.field]: said.filter(Boolean).join(" ") }
      : undefined;
  return (
    <Ground
      validationBehavior="aria"
      validationErrors={errors}
      onSubmit={(e) => {
        e.preventDefault();
        onSubmit();
      }}
    >
      <Fields
        // As soon as one types, not when one leaves the field: then the words would go away, and
        // the button move, just as it is pressed.
        onInput={(e) => {
          if ((e.target as HTMLInputElement).name === detail?.field) setAnswered(trouble);
        }}
      >
        {children}
      </Fields>
      {!isAtField && <TroubleNote trouble={trouble} />}
    </Ground>
  );
}
