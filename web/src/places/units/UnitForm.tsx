import { useState } from "react";
import type { Schemas, Trouble } from "../../api/client";
import { Button, Check, Field } from "../../kit/controls";
import { ServerForm } from "../../kit/form";
import { Line, Sheet, Soft } from "../../kit/page";
import { Select } from "../../kit/Select";

interface Props {
  trouble: Trouble | null;
  unit: Schemas["UnitLine"] | null;
  places: Schemas["PlaceLine"][];
  isBusy: boolean;
  onSave: (body: Schemas["UnitChange"]) => Promise<void>;
  onLeave: () => void;
}

/** A unit as it is told of. */
export function UnitForm({ trouble, unit, places, isBusy, onSave, onLeave }: Props) {
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
  function onSubmit() {
    if (isBusy || !isWhole) return;
    const { tag, name, kind } = told;
    void onSave({ ...told, tag: tag.trim(), name: name.trim(), kind: kind.trim() });
  }
  return (
    <Sheet>
      <h2>{unit ? unit.name : "A new unit"}</h2>
      <ServerForm trouble={trouble} onSubmit={onSubmit}>
        <Field
          name="name"
          label="Name"
          value={told.name}
          onChange={(name) => put({ name })}
          autoFocus
        />
        <Field
          name="tag"
          label="Tag"
          value={told.tag}
          onChange={(tag) => put({ tag })}
          hint="as it stands on the unit; no other unit has it"
        />
        <Field
          name="kind"
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
          <Button look="main" type="submit" isDisabled={isBusy || !isWhole}>
            {unit ? "Keep it so" : "Add the unit"}
          </Button>
          <Button onPress={onLeave}>Leave it</Button>
        </Line>
      </ServerForm>
    </Sheet>
  );
}
