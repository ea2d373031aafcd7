import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import { client, take, Trouble, type Schemas } from "../../../api/client";
import { liveQuery, useChange, useJob } from "../../../api/queries";
import { Plot } from "../../../drawing/plot/Plot";
import { Button, Choice } from "../../../kit/controls";
import {
  Big,
  CareNote,
  Columns,
  Line,
  Sheet,
  Soft,
  StageHead,
  StopNote,
  TroubleNote,
  Unit,
  Waiting,
} from "../../../kit/page";
import { late } from "../../../kit/words";
import { PHASER_STATES, type PhaserWord } from "../CaptureSheet";
import { FirstStart } from "./FirstStart";

const Now = styled.div`
  text-align: right;
`;
const AloneInLine = styled.span`
  flex-basis: 100%;
`;
const Cam = styled.div`
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr) 170px;
  gap: 12px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 4px 0;
`;

/**
 * The box as it runs: cams settling, speed, quality; record from now on, or keep the seconds just
 * seen.
 */
export function Live() {
  const id = Number(useParams().id);
  const queries = useQueryClient();
  const live = useQuery(liveQuery(id));
  const job = useJob(id);
  const { change, trouble, isBusy } = useChange(id);
  const [problem, setProblem] = useState<Trouble | null>(null);
  const [phaser, setPhaser] = useState<PhaserWord | null>(null);
  const path = { params: { path: { job_id: id } } };
  const data = live.data;

  async function go(send: Promise<Schemas["LiveOut"]>) {
    try {
      queries.setQueryData(["live", id], await send);
      setProblem(null);
    } catch (error) {
      if (error instanceof Trouble) setProblem(error);
    }
    await queries.invalidateQueries({ queryKey: ["live", id] });
  }
  const phase = job.data?.bench_started ? "after" : "before";
  const connect = (cold: boolean, take_over = false) =>
    void go(
      take(client.POST("/api/jobs/{job_id}/live", { ...path, body: { cold, phase, take_over } })),
    );
  const command = (body: Partial<Schemas["LiveCommand"]>) =>
    void go(
      take(
        client.POST("/api/jobs/{job_id}/live/command", {
          ...path,
          body: { idle: false, ...body } as Schemas["LiveCommand"],
        }),
      ),
    );
  async function onKeep(seconds: number | null) {
    const state = phaser ?? "unknown";
    const phasers = Object.fromEntries(
      (data?.phasers ?? []).map((p) => [p.id, { state, command_deg: data?.commands[p.id] ?? 0 }]),
    );
    await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/live/keep", {
          ...path,
          body: { version, seconds, phasers },
        }),
      ),
    );
  }
  if (!data) return <Waiting error={live.error} what="the box" />;
  const isOn = data.state === "live" || data.state === "connecting";
  const isLost = data.state === "lost";
  const isTheirs = isOn && !data.is_mine;
  const flat = data.cams.flatMap((c) => c.history_deg);
  const range: [number, number] = [Math.min(-2, ...flat) - 1, Math.max(4, ...flat) + 1];
  return (
    <>
      <StageHead title="Live from the box">
        <Link to={`/jobs/${id}/readings`}>All readings</Link>
      </StageHead>
      {!isOn && (
        <Sheet>
          <Soft>
            Connect the box to crank and cam sensors. A cold start is worth most on the first try:
            the engine must have stood.
          </Soft>
          <Line>
            <Button look="main" onPress={() => connect(true)}>
              Connect and start cold
            </Button>
            <Button onPress={() => connect(false)}>Connect, engine running</Button>
          </Line>
          <Soft>No starter with tools fitted. Hands and belts clear of everything that turns.</Soft>
        </Sheet>
      )}
      {isTheirs && (
        <Sheet>
          <CareNote title={`${data.by ?? "Somebody"} is at the box`}>
            <div>
              You look on. Only who started it commands the engine, records and keeps
              {data.recording_s !== null ? "; a record is under way" : ""}.
            </div>
            <div>
              Ask {data.by} first. Taking it over keeps what is being recorded, and starts anew for
              you.
            </div>
          </CareNote>
          <Line>
            <Button look="stop" onPress={() => connect(false, true)}>
              Take the box over
            </Button>
          </Line>
        </Sheet>
      )}
      {isLost && (
        <StopNote title="The box was lost">
          <div>{data.trouble?.message}</div>
          {data.trouble?.advice && <div>{data.trouble.advice}</div>}
          <div>{data.held_s.toFixed(0)} s are still in hand; keep them below.</div>
        </StopNote>
      )}
      <TroubleNote trouble={problem} />
      {(isOn || isLost) && (
        <>
          {!isTheirs && isOn && phase === "after" && <FirstStart job={id} live={data} />}
          <Sheet>
            <Line $gap="4px 30px" $align="baseline">
              <div>
                <Soft>speed</Soft>
                <Big>
                  {data.rpm === null ? "…" : Math.round(data.rpm)}
                  <Unit>rpm</Unit>
                </Big>
              </div>
              <div>
                <Soft>since the start</Soft>
                <Big>
                  {data.seconds.toFixed(0)}
                  <Unit>s</Unit>
                </Big>
              </div>
              {data.recording_s !== null && (
                <div>
                  <Soft>recording</Soft>
                  <Big $tone="stop">
                    ● {data.recording_s.toFixed(0)}
                    <Unit>s</Unit>
                  </Big>
                </div>
              )}
              <Soft role="status">
                {data.quality.length === 0
                  ? data.cams.length
                    ? "Reads cleanly."
                    : "Waiting for the first turns …"
                  : ""}
              </Soft>
            </Line>
            {data.quality.length > 0 && (
              <CareNote title="About the signal">
                {data.quality.map((q) => (
                  <div key={q}>{q}</div>
                ))}
              </CareNote>
            )}
            {data.cams.map((c) => (
              <Cam key={c.cam}>
                <strong>{c.name}</strong>
                <Plot
                  label={`${c.name} since the start`}
                  series={[{ name: c.name, look: "measured", x: c.history_s, y: c.history_deg }]}
                  xUnit=" s"
                  yUnit="°"
                  height={92}
                  yRange={range}
                  band={[-data.tolerance_deg, data.tolerance_deg]}
                />
                <Now>
                  <Big $tone="measured" $size={27}>
                    {late(c.deviation_deg)}
                  </Big>
                  <Soft>
                    ± {c.half_90.toFixed(2)}° (90 %), scatter {c.scatter_deg.toFixed(2)}°
                  </Soft>
                </Now>
              </Cam>
            ))}
          </Sheet>
          {!isTheirs && (
            <Columns $of="minmax(0, 1fr) minmax(0, 1fr)">
              <Sheet>
                <h2>Keep it</h2>
                {data.phasers.length > 0 && (
                  <Choice
                    label="While it ran, the phasers were"
                    value={phaser}
                    onChange={setPhaser}
                    options={PHASER_STATES}
                  />
                )}
                <Line>
                  {data.recording_s === null ? (
                    isOn && (
                      <Button
                        onPress={() =>
                          void go(
                            take(
                              client.POST("/api/jobs/{job_id}/live/record", { ...path, body: {} }),
                            ),
                          )
                        }
                      >
                        Record from now on
                      </Button>
                    )
                  ) : (
                    <Button look="main" onPress={() => void onKeep(null)} isDisabled={isBusy}>
                      Stop and keep the record
                    </Button>
                  )}
                  <Button
                    look={data.recording_s === null ? "main" : "plain"}
                    onPress={() => void onKeep(Math.max(1, Math.min(10, Math.floor(data.held_s))))}
                    isDisabled={isBusy || data.held_s < 1}
                  >
                    Keep the last {Math.max(1, Math.min(10, Math.floor(data.held_s)))} s
                  </Button>
                  {data.held_s > 12 && (
                    <Button
                      onPress={() => void onKeep(Math.min(60, Math.floor(data.held_s)))}
                      isDisabled={isBusy}
                    >
                      Keep all {Math.floor(data.held_s)} s
                    </Button>
                  )}
                </Line>
                {data.phasers.length > 0 && phaser === null && (
                  <Soft>
                    Unsaid counts as unknown: the interval then spans the phaser&apos;s range.
                  </Soft>
                )}
                <TroubleNote trouble={trouble} />
              </Sheet>
              {isOn && (
                <Sheet>
                  <h2>Let the engine do</h2>
                  <Line>
                    {data.speeds_rpm.map((rpm) => (
                      <Button key={rpm} onPress={() => command({ rpm })}>
                        Hold {rpm} rpm
                      </Button>
                    ))}
                    <Button onPress={() => command({ idle: true })}>Let it fall</Button>
                  </Line>
                  {data.phasers.map((p) => (
                    <Line key={p.id} $align="center">
                      <AloneInLine>{p.name}</AloneInLine>
                      {p.angles_deg.map((deg) => (
                        <Button
                          key={deg}
                          look={(data.commands[p.id] ?? 0) === deg ? "main" : "plain"}
                          onPress={() => command({ phasers: { [p.id]: deg } })}
                        >
                          {deg === 0 ? "park" : `${deg}°`}
                        </Button>
                      ))}
                    </Line>
                  ))}
                  <Button
                    onPress={() =>
                      void go(
                        take(client.POST("/api/jobs/{job_id}/live/stop", { ...path, body: {} })),
                      )
                    }
                  >
                    Let go of the box
                  </Button>
                </Sheet>
              )}
            </Columns>
          )}
        </>
      )}
    </>
  );
}
