import { useQuery } from "@tanstack/react-query";
import { meQuery } from "../../api/queries";
import { CareNote } from "../../kit/page";
import { Told } from "../../kit/text";
import { GiveGo } from "../go/GiveGo";

/** From this step on there is no way back; a lead has to have said go. */
export function NoReturn({ id, words, goBy }: { id: number; words: string; goBy: string | null }) {
  const isLead = useQuery(meQuery).data?.role === "lead";
  return (
    <CareNote title="Point of no return">
      <Told $size={20}>{words}</Told>
      {goBy ? (
        <Told $tone="fine">✓ {goBy} gave the go.</Told>
      ) : isLead ? (
        <GiveGo id={id} />
      ) : (
        <Told>A lead looks at the engine and gives the go here, before this step is closed.</Told>
      )}
    </CareNote>
  );
}
