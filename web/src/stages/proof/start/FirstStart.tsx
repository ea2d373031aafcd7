import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../../api/client";
import { proofQuery } from "../../../api/queries";
import { ButtonLink } from "../../../kit/Button";
import { Button } from "../../../kit/controls";
import {
  CareNote,
  Columns,
  Line,
  Sheet,
  Soft,
  StageHead,
  StopNote,
  Waiting,
} from "../../../kit/page";
import { PlainList, Said, SaidAlone } from "../../../kit/text";
import { AtTheBox } from "../../readings/live/AtTheBox";
import { KeepIt } from "../../readings/live/KeepIt";
import { LiveCams } from "../../readings/live/LiveCams";
import { useLive } from "../../readings/live/useLive";
import { Stood, Watches } from "./Watches";
import { useWatched } from "./useWatched";

/**
 * The first start after the repair: what stands in its way, the start itself, watched, and the
 * second capture taken from it.
 */
export function FirstStart() {
  const id = Number(useParams().id);
  const box = useLive(id);
  const proof = useQuery(proofQuery(id));
  const watched = useWatched(id, box.data?.look ?? null);
  const live = box.data;
  if (!live) return <Waiting error={box.error} what="the box" />;
  if (!proof.data) return <Waiting error={proof.error} what="the proof" />;
  const { start, captures, first_start, is_released } = proof.data;
  const isMine = (box.isOn || box.isLost) && live.is_mine;
  const isWritten = first_start.length > 0;
  const isCaptured = captures.some((c) => c.phase === "after" && c.struck === null);

  async function onStart() {
    const shown = await box.connect(true);
    if (shown) watched.begins(shown.look);
  }
  return (
    <>
      <StageHead title="First start">
        <Link to={`/jobs/${id}/proof`}>Back to Proof</Link>
      </StageHead>
      {is_released ? (
        <Released told={first_start} />
      ) : box.job?.can_capture === false ? (
        <NoBox id={id} />
      ) : (
        !box.isOn &&
        (start.in_the_way.length > 0 ? (
          <NotYet id={id} found={start.in_the_way} />
        ) : (
          <Before
            start={start}
            complaint={box.job?.intake.complaint ?? ""}
            standing={watched.value.standing}
            onStanding={(standing) => watched.set({ standing })}
            onStart={() => void onStart()}
          />
        ))
      )}
      <AtTheBox box={box} />
      {isMine && <Watches job={id} live={live} start={start} watched={watched} />}
      {(box.isOn || box.isLost) && (
        <>
          <LiveCams live={live} />
          {isMine && <KeepIt box={box} live={live} title="The second capture" />}
        </>
      )}
      {isMine && (
        <Line $align="center">
          {isWritten && isCaptured && (
            <ButtonLink look="main" to={`/jobs/${id}/proof`}>
              Compare before and after
            </ButtonLink>
          )}
          <Button onPress={() => void box.letGo()}>Let go of the box</Button>
        </Line>
      )}
    </>
  );
}

/** What has to be done first, and where. */
function NotYet({ id, found }: { id: number; found: Schemas["InTheWay"][] }) {
  return (
    <Sheet>
      <StopNote title="Not yet">The starter forces what a hand feels: valves bend. First:</StopNote>
      <PlainList $gap="10px">
        {found.map((f) => (
          <li key={f.words}>
            <SaidAlone>{f.words}</SaidAlone>
            {f.step && (
              <Link to={`/jobs/${id}/bench?step=${encodeURIComponent(f.step)}`}>{f.way}</Link>
            )}
          </li>
        ))}
      </PlainList>
      {found.some((f) => !f.step) && (
        <Line>
          <ButtonLink to={`/jobs/${id}/proof`}>Look at Proof</ButtonLink>
          <ButtonLink to={`/jobs/${id}/bench`}>To the bench</ButtonLink>
        </Line>
      )}
    </Sheet>
  );
}

interface BeforeProps {
  start: Schemas["StartOut"];
  complaint: string;
  standing: string;
  onStanding: (typed: string) => void;
  onStart: () => void;
}

function Before({ start, complaint, standing, onStanding, onStart }: BeforeProps) {
  const told = [...(complaint ? [`Complaint: ${complaint}`] : []), ...start.heard_before];
  return (
    <Sheet>
      <CareNote title="Before you start it">
        Nothing of yours in the engine, hands and sleeves clear of belts and fan, somebody at the
        key. Primed until pressure showed. The maker&apos;s information goes before this.
      </CareNote>
      <PlainList $gap="4px">
        {start.shown.map((line) => (
          <li key={line}>
            <Said $tone="fine" aria-hidden>
              ✓{" "}
            </Said>
            {line}
          </li>
        ))}
      </PlainList>
      <Columns $of="minmax(0, 1fr) minmax(0, 1fr)">
        <Stood typed={standing} onTyped={onStanding} />
        <div>
          <Soft>What it did before the repair</Soft>
          <PlainList $gap="4px">
            {told.length > 0 ? (
              told.map((line) => <li key={line}>{line}</li>)
            ) : (
              <li>Nobody wrote down a start.</li>
            )}
          </PlainList>
        </div>
      </Columns>
      <Line $align="center">
        <Button look="main" onPress={onStart}>
          Connect and start cold
        </Button>
        <Soft>
          Then press what you see and hear: oil pressure within {start.pressure.after_s.toFixed(0)}{" "}
          s, the rattle and its end. Cams are read by themselves.
        </Soft>
      </Line>
    </Sheet>
  );
}

function Released({ told }: { told: string[] }) {
  return (
    <Sheet>
      <Soft>The engine is released. What was seen at its first start:</Soft>
      <PlainList $gap="4px">
        {told.length > 0
          ? told.map((line) => <li key={line}>{line}</li>)
          : [<li key="none">Nobody watched it.</li>]}
      </PlainList>
    </Sheet>
  );
}

function NoBox({ id }: { id: number }) {
  return (
    <Sheet>
      <Soft>
        The signals of this engine show no cam, so no box watches it. Start it, listen, and write
        down what you heard.
      </Soft>
      <Line>
        <ButtonLink to={`/jobs/${id}/readings/sheet/noise`}>Noise at a start</ButtonLink>
        <ButtonLink to={`/jobs/${id}/readings/sheet/oil`}>Oil, its pressure</ButtonLink>
      </Line>
    </Sheet>
  );
}
