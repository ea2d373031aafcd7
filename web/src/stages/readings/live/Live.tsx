import { Link, useParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../../api/client";
import { Button } from "../../../kit/controls";
import { Columns, Line, Sheet, Soft, StageHead, Waiting } from "../../../kit/page";
import { AtTheBox } from "./AtTheBox";
import { KeepIt } from "./KeepIt";
import { LiveCams } from "./LiveCams";
import { useLive, type AtBox } from "./useLive";

const AloneInLine = styled.span`
  flex-basis: 100%;
`;

/**
 * The box as it runs: cams settling, speed, quality; record from now on, or keep the seconds just
 * seen.
 */
export function Live() {
  const id = Number(useParams().id);
  const box = useLive(id);
  const { data, isOn, isLost, isTheirs } = box;
  if (!data) return <Waiting error={box.error} what="the box" />;
  return (
    <>
      <StageHead title="Live from the box">
        {box.isAfter && <Link to={`/jobs/${id}/proof/start`}>First start</Link>}
        <Link to={`/jobs/${id}/readings`}>All readings</Link>
      </StageHead>
      {!isOn && (
        <Sheet>
          <Soft>
            Connect the box to crank and cam sensors. A cold start is worth most on the first try:
            the engine must have stood.
          </Soft>
          <Line>
            <Button look="main" onPress={() => void box.connect(true)}>
              Connect and start cold
            </Button>
            <Button onPress={() => void box.connect(false)}>Connect, engine running</Button>
          </Line>
          <Soft>No starter with tools fitted. Hands and belts clear of everything that turns.</Soft>
        </Sheet>
      )}
      <AtTheBox box={box} />
      {(isOn || isLost) && (
        <>
          <LiveCams live={data} />
          {!isTheirs && (
            <Columns $of="minmax(0, 1fr) minmax(0, 1fr)">
              <KeepIt box={box} live={data} title="Keep it" />
              {isOn && <LetItDo box={box} live={data} />}
            </Columns>
          )}
        </>
      )}
    </>
  );
}

/** Speeds to hold, phasers to command, and the end of it. */
function LetItDo({ box, live }: { box: AtBox; live: Schemas["LiveOut"] }) {
  return (
    <Sheet>
      <h2>Let the engine do</h2>
      <Line>
        {live.speeds_rpm.map((rpm) => (
          <Button key={rpm} onPress={() => void box.command({ rpm })}>
            Hold {rpm} rpm
          </Button>
        ))}
        <Button onPress={() => void box.command({ idle: true })}>Let it fall</Button>
      </Line>
      {live.phasers.map((p) => (
        <Line key={p.id} $align="center">
          <AloneInLine>{p.name}</AloneInLine>
          {p.angles_deg.map((deg) => (
            <Button
              key={deg}
              look={(live.commands[p.id] ?? 0) === deg ? "main" : "plain"}
              onPress={() => void box.command({ phasers: { [p.id]: deg } })}
            >
              {deg === 0 ? "park" : `${deg}°`}
            </Button>
          ))}
        </Line>
      ))}
      <Button onPress={() => void box.letGo()}>Let go of the box</Button>
    </Sheet>
  );
}
