import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { client, sendFile, take, type Schemas } from "../../../api/client";
import { logsQuery, useChange, useJob } from "../../../api/queries";
import { Plot } from "../../../drawing/plot/Plot";
import { Button, Check, Choice } from "../../../kit/controls";
import { Line, Sheet, Soft, StageHead, TroubleNote, Unit, Waiting } from "../../../kit/page";
import { clock } from "../../../kit/words";
import { Ends, Said, SaidAlone, Told } from "../../../kit/text";
import { FilePick } from "../../../kit/files";

const OIL = [
  { value: "hot", label: "hot, at idle" },
  { value: "cold", label: "cold" },
] as const;
/** By how grave it is: sound or untold, the drive or its base, the phaser itself. */
const TONES = ["ink", "ink", "stop"] as const;
const UNTOLD = "soft";

/**
 * Phaser sweep: command out and back, hot and cold; what each phaser is, with the figures and the
 * curve.
 */
export function Sweep() {
  const id = Number(useParams().id);
  const logs = useQuery(logsQuery(id));
  const job = useJob(id);
  const { change, trouble, isBusy } = useChange(id);
  const [oil, setOil] = useState<"hot" | "cold">("hot");
  const [chosen, setChosen] = useState<string[] | null>(null);
  const data = logs.data;
  if (!data) return <Waiting error={logs.error} what="the logs" />;
  const phasers = chosen ?? data.phasers.map((p) => p.id);
  const isFixed = Boolean(job.data?.is_signed || job.data?.is_released);
  const path = { params: { path: { job_id: id } } };
  const newest = [...data.logs].reverse();
  return (
    <>
      <StageHead title="Phaser sweep">
        <Link to={`/jobs/${id}/readings`}>All readings</Link>
      </StageHead>
      {!isFixed && (
        <Sheet>
          <Said $size={19}>{data.advice}</Said>
          <Line>
            <Choice label="The oil is" value={oil} onChange={setOil} options={OIL} />
            <div>
              {data.phasers.map((p) => (
                <Check
                  key={p.id}
                  isSelected={phasers.includes(p.id)}
                  onChange={(on) =>
                    setChosen(on ? [...phasers, p.id] : phasers.filter((k) => k !== p.id))
                  }
                >
                  {p.name}
                </Check>
              ))}
            </div>
          </Line>
          <Line>
            <Button
              look="main"
              isDisabled={isBusy || phasers.length === 0}
              onPress={() =>
                void change((version) =>
                  take(
                    client.POST("/api/jobs/{job_id}/logs/sweep", {
                      ...path,
                      body: { version, phasers, oil },
                    }),
                  ),
                )
              }
            >
              {isBusy ? "Commanding and logging …" : "Run the sweep"}
            </Button>
            <FilePick
              label="Log file"
              accept={[".csv", ".tsv", ".txt"]}
              isDisabled={isBusy}
              onFiles={([file]) =>
                file &&
                void change((version) =>
                  sendFile(`/api/jobs/${id}/logs/file?version=${version}`, file),
                )
              }
            >
              Bring in a log
            </FilePick>
          </Line>
          <Soft>
            Each phaser goes to six tenths, nine tenths and three tenths of its travel and back,
            held four seconds each. Engine idling, nobody near what turns.
          </Soft>
          <TroubleNote trouble={trouble} />
        </Sheet>
      )}
      {data.logs.length === 0 && (
        <Sheet>
          <Soft>
            No log yet. A sound phaser answers within a tenth of a second when hot; oil decides the
            rest.
          </Soft>
        </Sheet>
      )}
      {data.by_oil.map((p) => (
        <ByOil key={p.id} phaser={p} />
      ))}
      {newest.map((log) => (
        <Log key={log.id} id={id} log={log} />
      ))}
    </>
  );
}

/** One phaser at every oil it was swept at: rate against what the book expects there. */
function ByOil({ phaser: { name, worst, gravity, fits } }: { phaser: Schemas["PhaserByOil"] }) {
  if (!worst) return null;
  const tone = (worst.state === "not_told" ? UNTOLD : TONES[gravity]) ?? UNTOLD;
  return (
    <Sheet>
      <Line $align="baseline" $gap="4px 16px">
        <h2>{name}</h2>
        <Said $size={24} $tone={tone}>
          {worst.state_words}
        </Said>
      </Line>
      <Told $size={17}>{worst.words}</Told>
      <Line $gap="8px 30px" $align="start">
        {fits.slice(0, 4).map(({ oil, fit: f }, i) => (
          <div key={i}>
            <Soft>
              {oil}: {f.oil_c.toFixed(0)} °C, {f.oil_kpa.toFixed(0)} kPa
            </Soft>
            {f.rate_out_deg_s !== null ? (
              <>
                <SaidAlone $size={20}>
                  out {f.rate_out_deg_s.toFixed(0)}
                  <Unit>°/s, book {f.expected.rate_out_deg_s.toFixed(0)}</Unit>
                </SaidAlone>
                <SaidAlone $size={20}>
                  back {(f.rate_back_deg_s ?? 0).toFixed(0)}
                  <Unit>°/s, book {f.expected.rate_back_deg_s.toFixed(0)}</Unit>
                </SaidAlone>
                <Soft>
                  dead {((f.dead_time_s ?? 0) * 1000).toFixed(0)} ms (book{" "}
                  {(f.expected.dead_time_s * 1000).toFixed(0)}), park{" "}
                  {f.park_deg === null ? "unknown" : `${f.park_deg.toFixed(1)}°`}
                </Soft>
              </>
            ) : (
              <Soft>did not move</Soft>
            )}
          </div>
        ))}
      </Line>
    </Sheet>
  );
}

function Log({ id, log }: { id: number; log: Schemas["LogOut"] }) {
  return (
    <Sheet>
      <Ends>
        <h2>{log.kind === "sweep" ? `Sweep, ${log.oil}` : `Log from ${log.source}`}</h2>
        <a href={`/api/jobs/${id}/logs/${log.id}.csv`} download>
          CSV
        </a>
      </Ends>
      <Soft>
        {log.seconds.toFixed(0)} s at {log.rate_hz.toFixed(0)} Hz · {log.taken_by},{" "}
        {clock(log.taken_at)}
      </Soft>
      {log.words.map((w) => (
        <div key={w}>▲ {w}</div>
      ))}
      {log.fits.map((f) => (
        <div key={f.phaser}>
          <strong>
            {f.name}: {f.state_words}
          </strong>
          <Plot
            label={`${f.name}: commanded, actual and fitted angle over time`}
            xUnit=" s"
            yUnit="°"
            height={190}
            isBetween
            series={[
              { name: "command", look: "book", x: f.times_s, y: f.command_deg },
              { name: "actual", look: "measured", x: f.times_s, y: f.actual_deg },
              ...(f.fit_deg.length
                ? [{ name: "fit", look: "fit" as const, x: f.times_s, y: f.fit_deg }]
                : []),
            ]}
          />
          <Soft>
            Dashed: commanded. Blue: what it did, shaded as far as it stood off. Thin: the fit,{" "}
            {f.rmse_deg.toFixed(1)}° off on average.
          </Soft>
        </div>
      ))}
    </Sheet>
  );
}
