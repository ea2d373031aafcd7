import type { ReactNode } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import type { Trouble } from "../api/client";
import { TroubleNote } from "./page";

const Ground = styled(Form)`
  display: grid;
  gap: 12px;
  min-width: 0;
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
  const detail = trouble?.detail;
  const isAtField = detail !== undefined && fields.includes(detail.field);
  const said = detail && [detail.message, detail.expected && `Expected: ${detail.expected}.`];
  const errors = isAtField && said ? { [detail.field]: said.filter(Boolean).join(" ") } : undefined;
  return (
    <Ground
      validationBehavior="aria"
      validationErrors={errors}
      onSubmit={(e) => {
        e.preventDefault();
        onSubmit();
      }}
    >
      {children}
      {!isAtField && <TroubleNote trouble={trouble} />}
    </Ground>
  );
}
