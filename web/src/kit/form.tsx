import { useCallback, useState, type ReactNode } from "react";
import { Form } from "react-aria-components";
import styled from "styled-components";
import type { Trouble } from "../api/client";
import { FieldNames } from "./fields";
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
  onSubmit: () => void;
  children: ReactNode;
}

/**
 * Fields that are sent together: Enter sends them, and what the server finds wrong with one that is
 * there by its name stands at that field until it is changed. Whatever else is wrong stands at the
 * end.
 */
export function ServerForm({ trouble, onSubmit, children }: Props) {
  const [names, setNames] = useState<readonly string[]>([]);
  const join = useCallback((name: string) => {
    setNames((all) => [...all, name]);
    return () => setNames((all) => all.filter((n) => n !== name));
  }, []);
  const [answered, setAnswered] = useState<Trouble | null>(null);
  const detail = trouble?.detail;
  const isAtField = detail !== undefined && names.includes(detail.field);
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
        <FieldNames value={join}>{children}</FieldNames>
      </Fields>
      {!isAtField && <TroubleNote trouble={trouble} />}
    </Ground>
  );
}
