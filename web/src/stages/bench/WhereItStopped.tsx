import { useState } from "react";
import styled from "styled-components";
import { client, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Beside, Button, Field } from "../../kit/controls";
import { Line, Soft, TroubleNote } from "../../kit/page";
import { PlainList, Said } from "../../kit/text";

const Cause = styled.li`
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr) auto;
  gap: 4px 12px;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--line);
  @media (max-width: 800px) {
    grid-template-columns: 76px minmax(0, 1fr);
    & > button {
      grid-column: 2;
    }
  }
`;
const Weight = styled.span<{ $of: number }>`
  grid-column: 1 / -1;
  height: 5px;
  background: linear-gradient(
    to right,
    var(--ink) ${({ $of }) => 100 * $of}%,
    var(--line) ${({ $of }) => 100 * $of}%
  );
`;
const MOST = 5;

interface Props {
  id: number;
  stop: Schemas["StopView"] | null;
  onTake: (cause: Schemas["StopCause"]) => void;
}

/** Where the crank stood, and what it can have been by that: the likeliest first. */
export function WhereItStopped({ id, stop, onTake }: Props) {
  const { change, trouble, isBusy } = useChange(id);
  const [typed, setTyped] = useState("");
  const path = { params: { path: { job_id: id } } };

  async function onSay() {
    const done = await change((version) =>
      take(client.POST("/api/jobs/{job_id}/proof/stop", { ...path, body: { version, at: typed } })),
    );
    if (done) setTyped("");
  }
  return (
    <>
      <Line>
        <Field
          label={stop ? "Another angle" : "Where the crank stands"}
          value={typed}
          onChange={setTyped}
          hint="degrees on from cylinder 1 firing, such as 203; over 360 on the other stroke"
          inputMode="decimal"
        />
        <Beside isDisabled={isBusy || !typed.trim()} onPress={() => void onSay()}>
          What can it be there?
        </Beside>
      </Line>
      <TroubleNote trouble={trouble} />
      {stop && (
        <div>
          <Soft>
            {stop.unknown ||
              (stop.valves.length
                ? `At ${stop.at_deg}° a valve can reach its piston: ${stop.valves.join("; ")}.`
                : `At ${stop.at_deg}° every piston is too low for a valve to reach it.`)}
          </Soft>
          <PlainList aria-label="What it can have been">
            {stop.causes.slice(0, MOST).map((cause) => (
              <Cause key={cause.words}>
                <Said $size={26}>{share(cause.odds)}</Said>
                <span>{cause.words}</span>
                <Button onPress={() => onTake(cause)}>It was this</Button>
                <Weight $of={cause.odds} aria-hidden />
              </Cause>
            ))}
          </PlainList>
          <Soft>
            From the book&apos;s geometry and what was counted at this bench. Look before you
            believe it.
          </Soft>
        </div>
      )}
    </>
  );
}

function share(odds: number): string {
  return odds > 0.99 ? "over 99 %" : odds < 0.01 ? "under 1 %" : `${Math.round(100 * odds)} %`;
}
