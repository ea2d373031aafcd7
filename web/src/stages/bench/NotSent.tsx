import { useQuery } from "@tanstack/react-query";
import { useAway } from "../../api/away";
import { putAside, tryAgain, useOnTheWay, useOutbox, type Entry } from "../../api/outbox";
import { meQuery } from "../../api/queries";
import { Button } from "../../kit/controls";
import { CareNote, Line, Sheet, Soft, StopNote } from "../../kit/page";
import { clock } from "../../kit/words";

/**
 * What was written here and is not in the record: what waits for the network, and what the server
 * would not take, beside what stands there instead.
 */
export function NotSent({ id }: { id: number }) {
  const me = useQuery(meQuery).data;
  const away = useAway();
  const mine = useOutbox().filter((e) => e.job === id);
  const waiting = useOnTheWay(id);
  const refused = mine.filter((e) => e.refused);
  if (!away && !mine.length) return null;
  return (
    <Sheet aria-label="Not in the record yet">
      {(away ?? waiting.length > 0) && (
        <CareNote title={away ? "The network is away" : "On its way"}>
          {away && <div>You see the job as it was at {clock(away.toISOString())}. Go on here.</div>}
          {waiting.length > 0 && (
            <div>
              {waiting.length} {waiting.length === 1 ? "entry waits" : "entries wait"} on this
              tablet, and {waiting.length === 1 ? "is" : "are"} recorded in order when it is back:{" "}
              {waiting.map((e) => `${e.title} (${e.by}, ${clock(e.body.at ?? "")})`).join("; ")}.
            </div>
          )}
        </CareNote>
      )}
      {refused.map((entry) => (
        <StopNote key={entry.key} title={`“${entry.title}” was not recorded`}>
          <div>
            {entry.by}, {clock(entry.body.at ?? "")}, wrote: {wrote(entry)}.
          </div>
          <div>
            {entry.refused?.message} {entry.refused?.read && `There: ${entry.refused.read}.`}
          </div>
          {entry.refused?.advice && <Soft>{entry.refused.advice}</Soft>}
          <Soft>What waited behind it on this job is sent when it is put aside or taken.</Soft>
          {entry.by === me?.name ? (
            <Line>
              <Button onPress={() => void putAside(entry.id ?? 0)}>Put mine aside</Button>
              <Button onPress={() => void tryAgain(entry)}>Send it again</Button>
            </Line>
          ) : (
            <Soft>Only {entry.by} can put it aside.</Soft>
          )}
        </StopNote>
      ))}
    </Sheet>
  );
}

function wrote(entry: Entry): string {
  if (entry.to !== "within") return entry.body.answers.join("; ");
  const { kind, number } = entry.body;
  if (kind === "timer") return "waiting begun";
  return number ? `bolt ${number} done` : "the bolts that were left, done";
}
