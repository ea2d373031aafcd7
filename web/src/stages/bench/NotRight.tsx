import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { meQuery } from "../../api/queries";
import { Beside, Field } from "../../kit/controls";
import { CareNote, Line } from "../../kit/page";
import { Told } from "../../kit/text";

interface Props {
  result: Schemas["StepResult"];
  onLeave: (reason: string) => void;
  isBusy: boolean;
}

/** What is not right, what it does to the engine, and the way to set it right. */
export function NotRight({ result, onLeave, isBusy }: Props) {
  const note = useRef<HTMLDivElement>(null);
  // It stands above what was answered, which is as often as not what the screen shows.
  useEffect(() => note.current?.scrollIntoView({ block: "start" }), [result]);
  return (
    <div ref={note}>
      <CareNote title="Not right">
        {result.seen
          .filter((s) => !s.ok)
          .map((s) => (
            <Told key={s.ask} $size={20}>
              {s.ask} {s.words}
            </Told>
          ))}
        {result.means.map((line) => (
          <Told key={line} $size={20}>
            <strong>It means: </strong>
            {line}
          </Told>
        ))}
        <Told $size={20}>
          <strong>Remedy: </strong>
          {result.remedy}
        </Told>
        {result.reopened.length > 0 && (
          <div>{result.reopened.length} steps that rest on this one are open again.</div>
        )}
        {result.stays_open_because ? (
          <Told $tone="stop">■ {result.stays_open_because}</Told>
        ) : (
          <LeaveIt onLeave={onLeave} isBusy={isBusy} />
        )}
      </CareNote>
    </div>
  );
}

/** A lead leaves a step as it is, with a reason; to anybody else it says so. */
export function LeaveIt({ onLeave, isBusy }: Omit<Props, "result">) {
  const isLead = useQuery(meQuery).data?.role === "lead";
  const [reason, setReason] = useState("");
  if (!isLead) return <div>Only a lead may leave it as it is, with a written reason.</div>;
  return (
    <Line>
      <Field
        label="Leave it as it is, because"
        value={reason}
        onChange={setReason}
        hint="recorded as a departure; Proof will show it"
      />
      <Beside
        look="stop"
        onPress={() => onLeave(reason)}
        isDisabled={isBusy || reason.trim().length < 5}
      >
        Leave as it is
      </Beside>
    </Line>
  );
}
