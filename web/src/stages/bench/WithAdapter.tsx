import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { wrenchQuery } from "../../api/queries";
import { storesQuery } from "../../api/unitQueries";
import { Beside, Field } from "../../kit/controls";
import { Dialog } from "../../kit/Dialog";
import { figureOf, wrongFigure } from "../../kit/figures";
import { Big, CareNote, Columns, Soft, Stack, StopNote, Waiting } from "../../kit/page";
import { Select } from "../../kit/Select";
import { WrenchLever } from "../../drawing/WrenchLever";

/** What to set on a wrench when an adapter is on it. */
export function WithAdapter({ id, target }: { id: number; target: string }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Beside onPress={() => setOpen(true)}>{target} with an adapter</Beside>
      <Dialog title={`${target} through an adapter`} isOpen={isOpen} onLeave={() => setOpen(false)}>
        <Lever id={id} target={target} />
      </Dialog>
    </>
  );
}

/** What is typed of the lever, in the order it is measured. */
const TYPED = [
  { key: "length_mm", label: "Pivot to grip, mm", least: 1, most: 2000 },
  { key: "offset_mm", label: "Adapter, mm", least: 0, most: 2000 },
  {
    key: "angle_deg",
    label: "Its angle, degrees",
    hint: "0 straight on, 90 square",
    least: -180,
    most: 180,
  },
] as const;
type Typed = Record<(typeof TYPED)[number]["key"], string>;

function Lever({ id, target }: { id: number; target: string }) {
  const [typed, setTyped] = useState<Typed>({ length_mm: "", offset_mm: "", angle_deg: "" });
  const [wrench, setWrench] = useState("");
  const stores = useQuery(storesQuery);
  const wrenches = namesOf(stores.data?.lists.find((list) => list.kind === "wrenches"));
  return (
    <Stack $gap={12}>
      <Columns $of="1fr 1fr 1fr">
        {TYPED.map(({ key, least, most, ...shown }) => (
          <Field
            key={key}
            {...shown}
            value={typed[key]}
            onChange={(value) => setTyped({ ...typed, [key]: value })}
            wrong={wrongFigure(typed[key], least, most)}
            inputMode="decimal"
          />
        ))}
      </Columns>
      <Select
        label="Torque wrench"
        value={wrench}
        onChange={setWrench}
        options={[
          { value: "", label: "not said" },
          ...wrenches.map((name) => ({ value: name, label: name })),
        ]}
      />
      <ToSet id={id} target={target} lever={leverOf(typed)} wrench={wrench} />
    </Stack>
  );
}

export function namesOf(list: Schemas["StoreList"] | undefined): string[] {
  const at = list?.columns.findIndex((column) => column.key === "name") ?? -1;
  return list?.rows.flatMap((row) => row[at] ?? []) ?? [];
}

/** The lever, once all of it is typed and can be; nothing is guessed. */
function leverOf(typed: Typed): Schemas["Lever"] | null {
  const [length_mm, offset_mm, angle_deg] = TYPED.map(({ key, least, most }) =>
    wrongFigure(typed[key], least, most) ? null : figureOf(typed[key]),
  );
  if (length_mm == null || offset_mm == null || angle_deg == null) return null;
  return { length_mm, offset_mm, angle_deg };
}

interface SetProps {
  id: number;
  target: string;
  lever: Schemas["Lever"] | null;
  wrench: string;
}

function ToSet({ id, target, lever, wrench }: SetProps) {
  const found = useQuery({
    ...wrenchQuery(id, {
      target,
      wrench,
      lever: lever ?? { length_mm: 0, offset_mm: 0, angle_deg: 0 },
    }),
    enabled: lever !== null,
  });
  if (!lever) return <Soft>Measure the lever: all three figures are needed.</Soft>;
  if (found.error || !found.data) return <Waiting error={found.error} what="the setting" />;
  const { setting, against, doubt } = found.data;
  const nm = (value: number) => Number(value.toPrecision(4));
  return (
    <>
      <div>
        <Big $size={44}>Set {nm(setting.set_nm)} Nm</Big>
        <Soft>
          The fastener then gets {nm(setting.given_nm)} Nm
          {Math.abs(setting.error_nm) >= 0.005 && `; ${nm(setting.exact_nm)} Nm would be exact`}.
        </Soft>
      </div>
      <WrenchLever setting={setting} />
      {against && <StopNote title="No reading">{against}</StopNote>}
      {doubt && <CareNote title="Not known">{doubt}</CareNote>}
    </>
  );
}
