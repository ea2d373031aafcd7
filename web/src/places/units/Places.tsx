import { useState } from "react";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Button, Check, Field } from "../../kit/controls";
import { Line, Sheet, Soft } from "../../kit/page";

const Row = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 6px 0;
`;

interface Props {
  places: Schemas["PlaceLine"][];
  isBusy: boolean;
  onAdd: (body: Schemas["PlaceIn"]) => Promise<boolean>;
  onChange: (id: number, body: Schemas["PlaceChange"]) => Promise<boolean>;
  onLeave: () => void;
}

/** Where units stand, and where they are worked on. */
export function Places({ places, isBusy, onAdd, onChange, onLeave }: Props) {
  const [name, setName] = useState("");
  const [isBay, setBay] = useState(false);
  async function onPress() {
    if (await onAdd({ name: name.trim(), is_bay: isBay })) setName("");
  }
  return (
    <Sheet>
      <h2>Places and bays</h2>
      {places.length === 0 && <Soft>None yet.</Soft>}
      {places.map((p) => (
        <Row key={p.id}>
          <span>
            {p.name} {p.is_retired && <Soft as="span">retired</Soft>}
          </span>
          <Line>
            <Check
              isSelected={p.is_bay}
              isDisabled={isBusy}
              onChange={(is_bay) =>
                void onChange(p.id, { name: p.name, is_bay, is_retired: p.is_retired })
              }
            >
              bay
            </Check>
            <Button
              isDisabled={isBusy}
              aria-label={`${p.is_retired ? "Take back" : "Retire"} ${p.name}`}
              onPress={() =>
                void onChange(p.id, {
                  name: p.name,
                  is_bay: p.is_bay,
                  is_retired: !p.is_retired,
                })
              }
            >
              {p.is_retired ? "Take back" : "Retire"}
            </Button>
          </Line>
        </Row>
      ))}
      <Field label="A new one" value={name} onChange={setName} />
      <Check isSelected={isBay} onChange={setBay}>
        It is a bay: units are worked on there
      </Check>
      <Line>
        <Button look="main" isDisabled={isBusy || !name.trim()} onPress={() => void onPress()}>
          Add the place
        </Button>
        <Button onPress={onLeave}>Done</Button>
      </Line>
    </Sheet>
  );
}
