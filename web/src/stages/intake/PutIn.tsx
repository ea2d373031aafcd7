import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button, Check, Field } from "../../kit/controls";
import { Line, Soft } from "../../kit/page";

interface Props {
  offered: Schemas["ReplaceableOut"][];
  parts: string[];
  at: string;
  hours: string;
  onChange: (told: { replaced_parts?: string[]; replaced_at?: string }) => void;
  isDisabled: boolean;
}

const Drive = styled.fieldset`
  margin: 0;
  padding: 6px 0;
  border: 0;
  border-top: 1px solid var(--line);
  display: flex;
  flex-wrap: wrap;
  column-gap: 18px;
  legend {
    float: left;
    width: 100%;
    padding: 0;
    font-weight: 700;
  }
`;

/** Which parts were put in before, and at how many hours: from then on they wear anew. */
export function PutIn({ offered, parts, at, hours, onChange, isDisabled }: Props) {
  const [isOpen, setOpen] = useState(false);
  if (!isOpen && !parts.length)
    return (
      <Line>
        <Button onPress={() => setOpen(true)} isDisabled={isDisabled}>
          Mark the parts that were put in
        </Button>
      </Line>
    );
  const drives = [...new Set(offered.map((each) => each.of))];
  const has = new Set(parts);
  function mark(of: string[], on: boolean) {
    const left = parts.filter((part) => !of.includes(part));
    onChange({ replaced_parts: on ? [...left, ...of] : left });
  }
  return (
    <>
      {drives.map((of) => (
        <Drive key={of}>
          <legend>{of}</legend>
          {offered
            .filter((each) => each.of === of)
            .map((each) => (
              <Check
                key={each.name}
                isSelected={each.parts.every((part) => has.has(part))}
                onChange={(on) => mark(each.parts, on)}
                isDisabled={isDisabled}
              >
                {each.name}
              </Check>
            ))}
        </Drive>
      ))}
      {parts.length > 0 && (
        <>
          <Field
            name="replaced_at"
            label="Running hours it had then, h"
            value={at}
            onChange={(replaced_at) => onChange({ replaced_at })}
            hint="such as 3100"
            isDisabled={isDisabled}
          />
          {!(at.trim() && hours.trim()) && (
            <Soft>
              Hours not known, then or now: kept and told, but the verdict takes these parts to be
              as old as the engine.
            </Soft>
          )}
        </>
      )}
    </>
  );
}
