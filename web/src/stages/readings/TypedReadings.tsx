import { useState } from "react";
import { client, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Beside, Choice, Field } from "../../kit/controls";
import { Select } from "../../kit/Select";
import { Columns, Line, Sheet, Soft } from "../../kit/page";
import { ServerForm } from "../../kit/form";
import { offered } from "../../kit/words";
import { PHASER_STATES, type PhaserWord } from "./CaptureSheet";

interface Props {
  id: number;
  cams: Schemas["Named"][];
  phasers: Schemas["Named"][];
  instruments: Schemas["InstrumentOut"][];
}

/** A cam reading from another tool, in its own convention, converted and kept as typed. */
export function TypedCam({ id, cams, phasers, instruments }: Props) {
  const { change, trouble, isBusy } = useChange(id);
  const [cam, setCam] = useState(cams[0]?.id ?? "");
  const [value, setValue] = useState("");
  const [of, setOf] = useState<"cam" | "crank">("crank");
  const [positive, setPositive] = useState<"advance" | "retard">("retard");
  const [phaser, setPhaser] = useState<PhaserWord>("unknown");
  const [instrument, setInstrument] = useState(instruments[0]?.code ?? "other");
  const [spread, setSpread] = useState("");
  const assumed = instruments.find((i) => i.code === instrument)?.assumed_deg;

  async function onSave() {
    const done = await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/readings/cam", {
          params: { path: { job_id: id } },
          body: {
            version,
            cam,
            value,
            degrees_of: of,
            positive,
            uncertainty: spread,
            phaser: { state: phaser, command_deg: 0 },
            instrument,
            tool: "",
          },
        }),
      ),
    );
    if (done) setValue("");
  }
  return (
    <Sheet>
      <h2>A reading from another tool</h2>
      <Soft>
        Tools count in cam or crank degrees, and late or early as positive. Say which; it is
        converted and kept as typed.
      </Soft>
      <Choice
        label="Cam"
        value={cam}
        onChange={setCam}
        options={cams.map((c) => ({ value: c.id, label: c.name }))}
      />
      <Columns $of="1fr 1fr">
        <Choice
          label="Degrees of"
          value={of}
          onChange={setOf}
          options={[
            { value: "crank", label: "crank" },
            { value: "cam", label: "cam" },
          ]}
        />
        <Choice
          label="Positive is"
          value={positive}
          onChange={setPositive}
          options={[
            { value: "retard", label: "retard" },
            { value: "advance", label: "advance" },
          ]}
        />
      </Columns>
      {phasers.length > 0 && (
        <Choice
          label="Phaser was"
          value={phaser}
          onChange={setPhaser}
          options={PHASER_STATES.filter((s) => s.value !== "commanded")}
        />
      )}
      <Select
        label="Read with"
        value={instrument}
        onChange={(code) => setInstrument(code as typeof instrument)}
        options={offered(instruments)}
      />
      <ServerForm
        trouble={trouble}
        onSubmit={() => {
          if (value && !isBusy) void onSave();
        }}
      >
        <Line>
          <Field
            name="value"
            label="Reading, degrees"
            value={value}
            onChange={setValue}
            hint="such as −2.5"
          />
          <Field
            name="uncertainty"
            label="May be off by, ± degrees"
            value={spread}
            onChange={setSpread}
            hint={`in the same degrees; ±${assumed ?? "?"}° of the crank when empty`}
          />
          <Beside type="submit" isDisabled={isBusy || !value}>
            {isBusy ? "Keeping …" : "Enter"}
          </Beside>
        </Line>
      </ServerForm>
    </Sheet>
  );
}
