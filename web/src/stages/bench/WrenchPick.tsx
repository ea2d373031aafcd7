import { useQueries, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { wrenchQuery } from "../../api/queries";
import { storesQuery } from "../../api/unitQueries";
import { CareNote, StopNote } from "../../kit/page";
import { Select } from "../../kit/Select";
import { namesOf } from "./WithAdapter";

const KEPT = "wrench";
/** Straight on: what is set is what the fastener gets. */
const STRAIGHT = { length_mm: 400, offset_mm: 0, angle_deg: 0 };

/**
 * The torque wrench in hand, by the shop's list: remembered on this tablet. `against` says by
 * torque why it is no measure of it: out of its range, or of its calibration.
 */
export function useWrenchInHand(id: number, torques: readonly number[]) {
  const [name, setName] = useState(() => localStorage.getItem(KEPT) ?? "");
  const lists = useQuery(storesQuery).data?.lists;
  const names = namesOf(lists?.find((list) => list.kind === "wrenches"));
  const known = names.includes(name) ? name : "";
  const asked = torques.map((nm) => ({
    ...wrenchQuery(id, { target: `${nm} Nm`, wrench: known, lever: STRAIGHT }),
    enabled: known !== "",
  }));
  const found = useQueries({ queries: asked });
  const against = new Map<number, string>();
  torques.forEach((nm, i) => {
    const why = known ? found[i]?.data?.against : "";
    if (why) against.set(nm, why);
  });
  function choose(chosen: string) {
    localStorage.setItem(KEPT, chosen);
    setName(chosen);
  }
  const unlisted =
    name && !known ? `${name}: the shop's list cannot be read now, its range is not known.` : "";
  const doubt = known ? (found[0]?.data?.doubt ?? "") : unlisted;
  return { names, name: known, choose, against, doubt };
}

export type WrenchInHand = ReturnType<typeof useWrenchInHand>;

/** Which wrench it is, and why what it clicks at is not measured. */
export function WrenchPick({ hand }: { hand: WrenchInHand }) {
  if (!hand.names.length && !hand.doubt) return null;
  return (
    <>
      <Select
        label="Torque wrench in hand"
        value={hand.name}
        onChange={hand.choose}
        options={[
          { value: "", label: "not said" },
          ...hand.names.map((name) => ({ value: name, label: name })),
        ]}
      />
      {[...hand.against.values()].map((why) => (
        <StopNote key={why} title="No measure of this torque">
          {why}
        </StopNote>
      ))}
      {hand.doubt && <CareNote title="Not known">{hand.doubt}</CareNote>}
    </>
  );
}
