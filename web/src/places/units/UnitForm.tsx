import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button, Check, Field } from "../../kit/controls";
import { Line, Sheet, Soft } from "../../kit/page";
import { Select } from "../../kit/Select";

interface Props {
  unit: Schemas["UnitLine"] | null;
  places: Schemas["PlaceLine"][];
  isBusy: boolean;
  onSave: (body: Schemas["UnitChange"]) => Promise<void>;
  onLeave: () => void;
}

/** A unit as it is told of. */
export function UnitForm({ unit, places, isBusy, onSave, onLeave }: Props) {
  const [told, setTold] = useState({
    tag: unit?.tag ?? "",
    name: unit?.name ?? "",
    kind: unit?.kind ?? "",
    place: unit?.place ?? "",
    is_retired: unit?.is_retired ?? false,
  });
  const put = (part: Partial<typeof told>) => setTold({ ...told, ...part });
  const known = places.filter((p) => !p.is_retired || p.name === told.place);
  const isWhole = [told.tag, told.name, told.kind].every((v) => v.trim());
  return (
    <Sheet>
      <h2>{unit ? unit.name : "A new unit"}</h2>
      <Field label="Name" value={told.name} onChange={(name) => put({ name })} autoFocus />
      <Field
        label="Tag"
        value={told.tag}
        onChange={(tag) => put({ tag })}
        hint="as it stands on the unit; no other unit has it"
      />
      <Field
        label="What it is"
        value={told.kind}
        onChange={(kind) => put({ kind })}
        hint="ambulance, pilot boat, generator …"
      />
      <Select
        label="Where it stands"
        value={told.place}
        onChange={(place) => put({ place })}
        options={[
          { value: "", label: "not said" },
          ...known.map((p) => ({ value: p.name, label: p.name })),
        ]}
      />
      {unit && (
        <Check isSelected={told.is_retired} onChange={(is_retired) => put({ is_retired })}>
          Retired: no new job is started on it
        </Check>
      )}
      {!unit && <Soft>Its engine is mounted afterwards.</Soft>}
      <Line>
        <Button
          look="main"
          isDisabled={isBusy || !isWhole}
          onPress={() =>
            void onSave({
              ...told,
              tag: told.tag.trim(),
              name: told.name.trim(),
              kind: told.kind.trim(),
            })
          }
        >
          {unit ? "Keep it so" : "Add the unit"}
        </Button>
        <Button onPress={onLeave}>Leave it</Button>
      </Line>
    </Sheet>
  );
}
