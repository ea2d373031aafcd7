import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import styled from "styled-components";
import { client, take, type Schemas } from "../../../api/client";
import { useChange, windowQuery } from "../../../api/queries";
import { TimeTrace, TRACE } from "../../../drawing/TimeTrace";
import { Button, Field } from "../../../kit/controls";
import { Line, Sheet, Soft, TroubleNote, Unit, Waiting } from "../../../kit/page";
import { Select } from "../../../kit/Select";
import { Ends, Rest, Said } from "../../../kit/text";

const Pane = styled.div`
  outline-offset: 2px;
  cursor: crosshair;
  user-select: none;
`;
const Figures = styled(Line)`
  gap: 4px 20px;
  min-height: 60px;
`;
const Figure = styled.div`
  min-width: 92px;
  & strong {
    font-size: 22px;
    display: block;
    line-height: 1.15;
  }
`;
const SETTLE_MS = 90;

/**
 * Pan and zoom down to the single sample; cursor, steps from edge to edge, measuring, leaving
 * stretches out.
 */
export function TimeView({ id, detail }: { id: number; detail: Schemas["CaptureDetail"] }) {
  const { capture } = detail;
  const whole: [number, number] = [0, capture.seconds];
  const [view, setView] = useState<[number, number]>([0, Math.min(capture.seconds, 0.5)]);
  const [asked, setAsked] = useState(view);
  const [cursor, setCursor] = useState<number | null>(null);
  const [mark, setMark] = useState<number | null>(null);
  const [channel, setChannel] = useState(
    detail.channels.find((c) => !c.is_crank)?.channel ?? detail.channels[0]?.channel ?? "",
  );
  const [said, setSaid] = useState("");
  const pane = useRef<HTMLDivElement>(null);
  const drag = useRef<{ x: number; view: [number, number]; moved: boolean } | null>(null);
  const seen = useQuery(windowQuery(id, capture.id, asked[0], asked[1]));
  useEffect(() => {
    const wait = setTimeout(() => setAsked(view), SETTLE_MS);
    return () => clearTimeout(wait);
  }, [view]);

  const fit = (start: number, span: number): [number, number] => {
    const least = 12 / capture.rate_hz;
    const width = Math.min(Math.max(span, least), capture.seconds);
    const from = Math.min(Math.max(start, 0), capture.seconds - width);
    return [from, from + width];
  };
  const span = view[1] - view[0];
  const zoom = (
    factor: number,
    about = cursor !== null && cursor > view[0] && cursor < view[1]
      ? cursor
      : (view[0] + view[1]) / 2,
  ) => setView(fit(about - ((about - view[0]) / span) * span * factor, span * factor));
  const pan = (share: number) => setView(fit(view[0] + share * span, span));
  const timeAt = (clientX: number) => {
    const box = pane.current?.getBoundingClientRect();
    if (!box) return view[0];
    const x = ((clientX - box.left) / box.width) * TRACE.width;
    return view[0] + ((x - TRACE.left) / (TRACE.width - TRACE.left - TRACE.right)) * span;
  };

  useEffect(() => {
    const box = pane.current;
    if (!box) return;
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      if (e.shiftKey) pan(e.deltaY > 0 ? 0.15 : -0.15);
      else zoom(e.deltaY > 0 ? 1.3 : 1 / 1.3, timeAt(e.clientX));
    };
    box.addEventListener("wheel", onWheel, { passive: false });
    return () => box.removeEventListener("wheel", onWheel);
  });

  function onPointerDown(e: PointerEvent<HTMLDivElement>) {
    e.currentTarget.setPointerCapture(e.pointerId);
    drag.current = { x: e.clientX, view, moved: false };
  }
  function onPointerMove(e: PointerEvent<HTMLDivElement>) {
    const from = drag.current;
    if (!from) return;
    if (Math.abs(e.clientX - from.x) > 5) from.moved = true;
    if (!from.moved || !pane.current) return;
    const shift =
      ((e.clientX - from.x) / pane.current.getBoundingClientRect().width) *
      (TRACE.width / (TRACE.width - TRACE.left - TRACE.right));
    setView(fit(from.view[0] - shift * (from.view[1] - from.view[0]), from.view[1] - from.view[0]));
  }
  function onPointerUp(e: PointerEvent<HTMLDivElement>) {
    if (drag.current && !drag.current.moved)
      setCursor(Math.min(Math.max(timeAt(e.clientX), 0), capture.seconds));
    drag.current = null;
  }
  async function step(way: "next" | "before") {
    const path = { job_id: id, capture_id: capture.id };
    const found = await take(
      client.GET("/api/jobs/{job_id}/captures/{capture_id}/edge", {
        params: { path, query: { channel, at_s: cursor ?? view[0], way } },
      }),
    ).catch(() => null);
    if (!found) return;
    setSaid(found.words);
    if (found.time_s === null) return;
    setCursor(found.time_s);
    if (found.time_s < view[0] || found.time_s > view[1])
      setView(fit(found.time_s - span / 2, span));
  }
  function onKey(e: KeyboardEvent) {
    const keys: Record<string, () => void> = {
      ArrowLeft: () => pan(-0.2),
      ArrowRight: () => pan(0.2),
      ArrowUp: () => zoom(1 / 1.6),
      ArrowDown: () => zoom(1.6),
      "+": () => zoom(1 / 1.6),
      "-": () => zoom(1.6),
      n: () => void step("next"),
      b: () => void step("before"),
      m: () => setMark(mark === null ? cursor : null),
      w: () => setView(whole),
    };
    const act = keys[e.key];
    if (!act) return;
    e.preventDefault();
    act();
  }
  const here = seen.data && cursor !== null ? reading(seen.data, cursor) : null;
  const there = seen.data && mark !== null ? reading(seen.data, mark) : null;
  return (
    <Sheet>
      <Line>
        <Button onPress={() => zoom(1 / 2)} aria-label="Zoom in">
          +
        </Button>
        <Button onPress={() => zoom(2)} aria-label="Zoom out">
          −
        </Button>
        <Button onPress={() => pan(-0.5)} aria-label="Earlier">
          ◀
        </Button>
        <Button onPress={() => pan(0.5)} aria-label="Later">
          ▶
        </Button>
        <Button onPress={() => setView(whole)}>Whole</Button>
        <Select
          label="Edges of"
          value={channel}
          onChange={setChannel}
          options={detail.channels.map((c) => ({ value: c.channel, label: c.name }))}
        />
        <Button onPress={() => void step("before")} aria-label="Edge before">
          ◂ edge
        </Button>
        <Button onPress={() => void step("next")} aria-label="Next edge">
          edge ▸
        </Button>
        <Button
          onPress={() => setMark(mark === null ? cursor : null)}
          isDisabled={cursor === null && mark === null}
        >
          {mark === null ? "Measure" : "Stop"}
        </Button>
      </Line>
      <Figures aria-live="polite">
        {cursor === null ? (
          <Soft>
            Press on the traces to set the cursor. Drag to pan, wheel to zoom. Keys: arrows, n and b
            from edge to edge, m to measure, w whole.
          </Soft>
        ) : (
          <>
            <Figure>
              <Soft>θ</Soft>
              <strong>
                {here ? (
                  <>
                    {here.theta.toFixed(2)}
                    <Unit>° of 720</Unit>
                  </>
                ) : (
                  "unknown"
                )}
              </strong>
            </Figure>
            <Figure>
              <Soft>time</Soft>
              <strong>
                {cursor.toFixed(5)}
                <Unit>s</Unit>
              </strong>
            </Figure>
            <Figure>
              <Soft>speed</Soft>
              <strong>
                {here ? (
                  <>
                    {here.rpm.toFixed(0)}
                    <Unit>rpm</Unit>
                  </>
                ) : (
                  "unknown"
                )}
              </strong>
            </Figure>
            {mark !== null && (
              <Figure>
                <Soft>from the mark</Soft>
                <Said $tone="measured">
                  {here && there ? (
                    <>
                      {(here.total - there.total).toFixed(2)}
                      <Unit>° crank</Unit>
                    </>
                  ) : null}{" "}
                  {((cursor - mark) * 1000).toFixed(3)}
                  <Unit>ms</Unit>
                </Said>
              </Figure>
            )}
            {said && <Soft>{said}</Soft>}
          </>
        )}
      </Figures>
      {seen.data ? (
        <Pane
          ref={pane}
          tabIndex={0}
          role="group"
          aria-label="Traces along time; arrows pan and zoom, n and b go between edges, m measures"
          onKeyDown={onKey}
          onPointerDown={onPointerDown}
          onPointerMove={onPointerMove}
          onPointerUp={onPointerUp}
        >
          <TimeTrace
            seen={seen.data}
            view={view}
            cursor={cursor}
            mark={mark}
            leftOut={detail.left_out}
            channel={channel}
          />
        </Pane>
      ) : (
        <Waiting error={seen.error} what="this stretch" />
      )}
      <Soft>
        {seen.data?.is_exact
          ? "Every sample is shown."
          : "Lowest and highest value of each stretch."}{" "}
        Dashed: where the book expects an edge; ticks: where it came.
      </Soft>
      {!detail.is_fixed && <LeaveOut id={id} detail={detail} from={mark} to={cursor} />}
    </Sheet>
  );
}

function reading(
  seen: Schemas["WindowOut"],
  t: number,
): { theta: number; total: number; rpm: number } | null {
  const { angle_s: at, theta_deg: theta, rpm } = seen;
  const i = at.findIndex((v) => v > t) - 1;
  const [a, b, x, y] = [at[i], at[i + 1], theta[i], theta[i + 1]];
  if (i < 0 || a === undefined || b === undefined || x === undefined || y === undefined)
    return null;
  const total = x + ((t - a) / (b - a)) * (y - x);
  return { theta: ((total % 720) + 720) % 720, total, rpm: rpm[i] ?? 0 };
}

/**
 * A measured stretch can be left out, with a reason; what is left out is listed and can be taken
 * back.
 */
function LeaveOut({
  id,
  detail,
  from,
  to,
}: {
  id: number;
  detail: Schemas["CaptureDetail"];
  from: number | null;
  to: number | null;
}) {
  const { change, trouble, isBusy } = useChange(id);
  const [reason, setReason] = useState("");
  const path = { params: { path: { job_id: id, capture_id: detail.capture.id } } };
  const stretch =
    from !== null && to !== null && from !== to ? [Math.min(from, to), Math.max(from, to)] : null;
  async function onLeaveOut() {
    if (!stretch) return;
    const [start_s = 0, stop_s = 0] = stretch;
    const done = await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/captures/{capture_id}/left-out", {
          ...path,
          body: { version, start_s, stop_s, reason },
        }),
      ),
    );
    if (done) setReason("");
  }
  return (
    <>
      {stretch && (
        <Line>
          <Rest $least={260}>
            <Field
              label={`Leave out ${stretch[0]?.toFixed(3)} to ${stretch[1]?.toFixed(3)} s because`}
              value={reason}
              onChange={setReason}
            />
          </Rest>
          <Button onPress={() => void onLeaveOut()} isDisabled={isBusy || reason.trim().length < 3}>
            {isBusy ? "Reading again …" : "Leave it out"}
          </Button>
        </Line>
      )}
      {detail.left_out.map((s, index) => (
        <Ends key={`${s.start_s}`} $align="center">
          <span>
            Left out {s.start_s.toFixed(3)} to {s.stop_s.toFixed(3)} s: {s.reason}{" "}
            <Soft as="span">({s.by})</Soft>
          </span>
          <Button
            isDisabled={isBusy}
            onPress={() =>
              void change((version) =>
                take(
                  client.POST("/api/jobs/{job_id}/captures/{capture_id}/taken-back", {
                    ...path,
                    body: { version, index },
                  }),
                ),
              )
            }
          >
            Take it back in
          </Button>
        </Ends>
      ))}
      <TroubleNote trouble={trouble} />
    </>
  );
}
