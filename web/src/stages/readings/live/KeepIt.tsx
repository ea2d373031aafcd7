import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { Button, Choice } from "../../../kit/controls";
import { Line, Sheet, Soft, TroubleNote } from "../../../kit/page";
import { PHASER_STATES, type PhaserWord } from "../CaptureSheet";
import type { AtBox } from "./useLive";

interface Props {
  box: AtBox;
  live: Schemas["LiveOut"];
  title: string;
}

/** Record from now on, or keep the seconds just seen, as a capture. */
export function KeepIt({ box, live, title }: Props) {
  const [phaser, setPhaser] = useState<PhaserWord | null>(null);
  const isRecording = live.recording_s !== null;
  const last = Math.max(1, Math.min(10, Math.floor(live.held_s)));

  const onKeep = (seconds: number | null) => void box.keep(seconds, phaser);
  return (
    <Sheet>
      <h2>{title}</h2>
      {live.phasers.length > 0 && (
        <Choice
          label="While it ran, the phasers were"
          value={phaser}
          onChange={setPhaser}
          options={PHASER_STATES}
        />
      )}
      <Line>
        {isRecording ? (
          <Button look="main" onPress={() => onKeep(null)} isDisabled={box.isBusy}>
            Stop and keep the record
          </Button>
        ) : (
          box.isOn && <Button onPress={() => void box.record()}>Record from now on</Button>
        )}
        <Button
          look={isRecording ? "plain" : "main"}
          onPress={() => onKeep(last)}
          isDisabled={box.isBusy || live.held_s < 1}
        >
          Keep the last {last} s
        </Button>
        {live.held_s > 12 && (
          <Button
            onPress={() => onKeep(Math.min(60, Math.floor(live.held_s)))}
            isDisabled={box.isBusy}
          >
            Keep all {Math.floor(live.held_s)} s
          </Button>
        )}
      </Line>
      {live.phasers.length > 0 && phaser === null && (
        <Soft>Unsaid counts as unknown: the interval then spans the phaser&apos;s range.</Soft>
      )}
      <TroubleNote trouble={box.trouble} />
    </Sheet>
  );
}
