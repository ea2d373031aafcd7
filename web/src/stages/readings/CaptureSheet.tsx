import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { client, sendFile, take, Trouble, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button, Choice, Field } from "../../kit/controls";
import { figureOf, wrongFigure } from "../../kit/figures";
import { FilePick } from "../../kit/files";
import { Line, Sheet, Soft, TroubleNote } from "../../kit/page";

export const PHASER_STATES = [
  { value: "parked", label: "parked" },
  { value: "commanded", label: "commanded" },
  { value: "unknown", label: "unknown" },
] as const;
export type PhaserWord = (typeof PHASER_STATES)[number]["value"];

export const Way = styled(Link)`
  display: inline-flex;
  align-items: center;
  min-height: 48px;
  padding: 6px 16px;
  border: 1.5px solid var(--enamel);
  color: var(--enamel);
  font-weight: 700;
  text-decoration: none;
  &:hover {
    box-shadow: inset 0 0 0 1.5px currentColor;
  }
`;

interface Props {
  id: number;
  phase: "before" | "after";
  phasers: Schemas["Named"][];
  channels: string[];
  limitBytes: number;
}

/**
 * Take a capture from the box, look at it live, or drop one in; say first what the phasers are
 * doing.
 */
export function CaptureSheet({ id, phase, phasers, channels, limitBytes }: Props) {
  const { change, trouble, isBusy, setTrouble } = useChange(id);
  const queries = useQueryClient();
  const [state, setState] = useState<PhaserWord | null>(phasers.length ? null : "unknown");
  const [angle, setAngle] = useState("20");
  const commanded = state === "commanded" ? figureOf(angle) : 0;

  function onBox() {
    if (!state || commanded === null) return;
    const command_deg = commanded;
    const each = Object.fromEntries(phasers.map((p) => [p.id, { state, command_deg }]));
    void change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/captures/box", {
          params: { path: { job_id: id } },
          body: { version, phase, seconds: 6, phasers: each },
        }),
      ),
    );
  }
  async function onFile(file: File | undefined) {
    if (!file) return;
    if (file.size > limitBytes) {
      const detail: Schemas["ErrorOut"] = {
        code: "too_large",
        message: "The file is too large.",
        read: `${file.size.toLocaleString()} bytes`,
        expected: `at most ${limitBytes.toLocaleString()} bytes`,
        advice: "Cut the capture shorter.",
        faults: [],
        changes: [],
        field: "",
        request: "",
      };
      setTrouble(new Trouble(413, detail));
      return;
    }
    await change(() =>
      sendFile<Schemas["IncomingOut"]>(`/api/jobs/${id}/captures/file?phase=${phase}`, file),
    );
    await queries.invalidateQueries({ queryKey: ["incoming", id] });
  }
  return (
    <Sheet>
      <h2>{phase === "before" ? "Capture crank and cams" : "Capture after the repair"}</h2>
      <Line>
        {phasers.length > 0 && (
          <Choice
            label="While it runs, the phasers are"
            value={state}
            onChange={setState}
            options={PHASER_STATES}
          />
        )}
        {state === "commanded" && (
          <Field
            label="Commanded, crank degrees"
            value={angle}
            onChange={setAngle}
            inputMode="decimal"
            wrong={wrongFigure(angle, 0, 180)}
          />
        )}
      </Line>
      {!state && (
        <Soft>
          Say first what the phasers do: it decides what the reading is worth. Parked is usual at
          warm idle, but look.
        </Soft>
      )}
      {state === "unknown" && phasers.length > 0 && (
        <Soft>Unknown is allowed: the interval then spans the phaser&apos;s whole range.</Soft>
      )}
      <Line>
        <Button look="main" onPress={onBox} isDisabled={isBusy || !state || commanded === null}>
          {isBusy ? "Recording and decoding …" : "Take 6 s from the box"}
        </Button>
        <Way to={`/jobs/${id}/readings/live`}>Watch it live</Way>
        <FilePick
          label="Capture file"
          accept={[".csv", ".tsv", ".txt", ".gz", ".wav", ".mf4", ".mdf", ".parquet"]}
          isDisabled={isBusy}
          onFiles={([file]) => void onFile(file)}
        >
          Bring in or drop a capture file
        </FilePick>
      </Line>
      <Soft>
        CSV, WAV, MDF4 or Parquet with {channels.join(", ")}, under any names: their patterns tell
        which is which. Phaser states of a file are unknown until you say them below.
      </Soft>
      <TroubleNote trouble={trouble} />
    </Sheet>
  );
}
