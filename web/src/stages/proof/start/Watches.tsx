import styled from "styled-components";
import { client, take, type Schemas } from "../../../api/client";
import { useChange } from "../../../api/queries";
import { Button, Field } from "../../../kit/controls";
import { Big, CareNote, Line, Sheet, Soft, StopNote, TroubleNote, Unit } from "../../../kit/page";
import { Told } from "../../../kit/text";
import type { useWatched } from "./useWatched";

const Three = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(210px, 1fr));
  gap: 10px 26px;
  align-items: start;
  & > div {
    display: grid;
    justify-items: start;
    gap: 4px;
  }
`;

interface Props {
  job: number;
  live: Schemas["LiveOut"];
  start: Schemas["StartOut"];
  watched: ReturnType<typeof useWatched>;
}

/** Asked before the start, and again where it can be mended: a word of it may not be understood. */
export function Stood({ typed, onTyped }: { typed: string; onTyped: (typed: string) => void }) {
  return (
    <Field
      label="It had stood for"
      value={typed}
      onChange={onTyped}
      hint="such as 14 h; empty: not known"
    />
  );
}

/**
 * When oil pressure is there, how long it rattles, how soon each cam settles; written down with one
 * press.
 */
export function Watches({ job, live, start, watched }: Props) {
  const { change, trouble, isBusy } = useChange(job);
  const { heard, quiet, pressed, pressure, standing, isKept } = watched.value;
  const now = live.seconds;
  const lasted = heard === "rattle" ? (quiet ?? now) : null;
  const settled = live.cams.filter((c) => c.settled_s !== null).length;
  const isDry = pressed === null && now > start.pressure.after_s;
  const isLong = lasted !== null && quiet === null && lasted > start.rattle.after_s;

  async function onKeep() {
    const body = {
      rattle_s: lasted === null ? null : Math.round(10 * lasted) / 10,
      pressure,
      pressure_s: pressed,
      standing,
    };
    const done = await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/live/first-start", {
          params: { path: { job_id: job } },
          body: { ...body, version },
        }),
      ),
    );
    if (done) watched.set({ isKept: true });
  }
  return (
    <Sheet>
      {pressed === null &&
        (isDry ? (
          <StopNote title="No oil pressure: stop the engine">
            {now.toFixed(0)} s and nobody has seen it: {start.pressure.words}.
          </StopNote>
        ) : (
          <CareNote title="Watch the oil pressure first">
            None after {start.pressure.after_s.toFixed(0)} s: stop the engine. A rattle of a second
            or two is usual.
          </CareNote>
        ))}
      <Three>
        <div>
          <Soft>oil pressure</Soft>
          <Big $tone={isDry ? "stop" : "ink"}>
            {pressed === null ? "…" : pressed.toFixed(0)}
            {pressed !== null && <Unit>s until it was there</Unit>}
          </Big>
          {pressed === null ? (
            <Button look="main" onPress={() => watched.set({ pressed: now })}>
              Pressure is there
            </Button>
          ) : (
            <Field
              label="It reads"
              value={pressure}
              onChange={(typed) => watched.set({ pressure: typed })}
              hint="such as 320 kPa, 3.2 bar"
            />
          )}
        </div>
        <div>
          <Soft>rattle</Soft>
          <Big $tone={heard === "rattle" && quiet === null ? "care" : "ink"}>
            {heard === "unsaid" ? "…" : lasted === null ? "none" : lasted.toFixed(1)}
            {lasted !== null && <Unit>s</Unit>}
          </Big>
          {heard === "rattle" ? (
            quiet === null ? (
              <Button look="main" onPress={() => watched.set({ quiet: now })}>
                Quiet now
              </Button>
            ) : (
              <Button onPress={() => watched.set({ quiet: null })}>It still rattles</Button>
            )
          ) : (
            <>
              <Button onPress={() => watched.set({ heard: "rattle" })}>
                It rattles since the start
              </Button>
              {heard === "unsaid" && (
                <Button onPress={() => watched.set({ heard: "none" })}>No rattle</Button>
              )}
            </>
          )}
          {isLong && <Told $tone="care">Long by now: {start.rattle.words}.</Told>}
          <Stood typed={standing} onTyped={(typed) => watched.set({ standing: typed })} />
        </div>
        <div>
          <Soft>cams in their tolerance</Soft>
          <Big>
            {settled} of {live.cams.length}
          </Big>
          {live.cams.map((c) => (
            <Told key={c.cam} $tone={c.settled_s === null ? "care" : "soft"}>
              {c.name}: {c.settled_s === null ? "not yet" : `after ${c.settled_s.toFixed(1)} s`}
            </Told>
          ))}
        </div>
      </Three>
      <TroubleNote trouble={trouble} />
      <Line $align="center">
        <Button
          look={isKept ? "plain" : "main"}
          onPress={() => void onKeep()}
          isDisabled={isBusy || isKept || heard === "unsaid"}
        >
          Write the first start down
        </Button>
        <Button onPress={watched.again}>Begin again</Button>
        <Soft role="status">
          {isKept
            ? "Written down: it stands under Proof."
            : heard === "unsaid" && "First say whether it rattled."}
        </Soft>
      </Line>
    </Sheet>
  );
}
