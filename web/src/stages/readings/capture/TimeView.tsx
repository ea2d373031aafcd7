import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import styled from "styled-components";
import { client, take, type Schemas } from "../../../api/client";
import { windowQuery } from "../../../api/queries";
import { fitted, zoomed, type Span, type Stretch } from "../../../drawing/plot/stretch";
import { TimeTrace } from "../../../drawing/TimeTrace";
import { Button } from "../../../kit/controls";
import { Line, Sheet, Soft, Unit, Waiting } from "../../../kit/page";
import { Select } from "../../../kit/Select";
import { RangeSlider, Slide } from "../../../kit/Slide";
import { Rest, Said } from "../../../kit/text";
import { LeaveOut } from "./LeaveOut";

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
const SLIDE_DEG = 60;
const KEYS_SAID =
  "Strips along the crank's turns; arrows move and stretch, n and b go between edges, m measures";

/**
 * The capture along the crank's turns, down to the single sample: each channel a strip over the
 * book's comb, slid against it by hand; cursor, steps from edge to edge, measuring, leaving out.
 */
export function TimeView({ id, detail }: { id: number; detail: Schemas["CaptureDetail"] }) {
  const { capture } = detail;
  const [view, setView] = useState<Span>([0, Math.min(capture.seconds, 0.5)]);
  const [asked, setAsked] = useState(view);
  const [cursor, setCursor] = useState<number | null>(null);
  const [mark, setMark] = useState<number | null>(null);
  const [channel, setChannel] = useState(
    detail.channels.find((c) => !c.is_crank)?.channel ?? detail.channels[0]?.channel ?? "",
  );
  const [slid, setSlid] = useState(0);
  const [said, setSaid] = useState("");
  const seen = useQuery(windowQuery(id, capture.id, asked[0], asked[1]));
  useEffect(() => {
    const wait = setTimeout(() => setAsked(view), SETTLE_MS);
    return () => clearTimeout(wait);
  }, [view]);
  const stretch: Stretch = {
    seen: view,
    whole: [0, capture.seconds],
    least: 12 / capture.rate_hz,
    onSeen: setView,
  };

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
    const span = view[1] - view[0];
    if (found.time_s < view[0] || found.time_s > view[1])
      setView(fitted(found.time_s - span / 2, span, stretch));
  }
  const measure = () => setMark(mark === null ? cursor : null);
  function onKey(key: string): boolean {
    const about = cursor ?? (view[0] + view[1]) / 2;
    const keys: Record<string, () => void> = {
      "+": () => setView(zoomed(stretch, 1 / 1.6, about)),
      "-": () => setView(zoomed(stretch, 1.6, about)),
      n: () => void step("next"),
      b: () => void step("before"),
      m: measure,
      w: () => setView(stretch.whole),
    };
    keys[key]?.();
    return key in keys;
  }
  const isCrank = detail.channels.find((c) => c.channel === channel)?.is_crank;
  return (
    <Sheet>
      <Figures aria-live="polite">
        {cursor === null ? (
          <Soft>
            Press on the strips to set the cursor; drag to move along, wheel to look closer. Keys:
            arrows, n and b from edge to edge, m to measure, w for all of it.
          </Soft>
        ) : (
          <>
            <Cursor seen={seen.data} at={cursor} from={mark} />
            {said && <Soft>{said}</Soft>}
          </>
        )}
      </Figures>
      {seen.data ? (
        <TimeTrace
          seen={seen.data}
          stretch={stretch}
          cursor={cursor}
          mark={mark}
          leftOut={detail.left_out}
          channel={channel}
          slidDeg={slid}
          label={KEYS_SAID}
          onPoint={(at) => setCursor(Math.min(Math.max(at, 0), capture.seconds))}
          onKey={onKey}
        />
      ) : (
        <Waiting error={seen.error} what="this stretch" />
      )}
      <RangeSlider
        label="What is seen of the capture"
        value={view}
        whole={stretch.whole}
        step={capture.seconds / 2000}
        onChange={([from, to]) => setView(fitted(from, to - from, stretch))}
      />
      <Line>
        <Select
          label="At work on"
          value={channel}
          onChange={(value) => {
            setChannel(value);
            setSlid(0);
          }}
          options={detail.channels.map((c) => ({ value: c.channel, label: c.name }))}
        />
        <Button onPress={() => void step("before")}>Edge before</Button>
        <Button onPress={() => void step("next")}>Next edge</Button>
        <Button onPress={measure} isDisabled={cursor === null && mark === null}>
          {mark === null ? "Measure" : "Stop"}
        </Button>
        {!isCrank && (
          <Rest $least={260}>
            <Slide
              label="Slide its strip against the comb"
              value={slid}
              most={SLIDE_DEG}
              onChange={setSlid}
              words={slidWords(slid)}
            />
          </Rest>
        )}
      </Line>
      <Soft>
        {seen.data?.is_exact
          ? "Every sample is shown."
          : "Lowest and highest value of each stretch."}{" "}
        Dashed: the book&apos;s comb, where it expects an edge; ticks: where it came.
      </Soft>
      {!detail.is_fixed && <LeaveOut id={id} detail={detail} from={mark} to={cursor} />}
    </Sheet>
  );
}

/** What sliding a strip back onto the comb says of its cam. */
function slidWords(deg: number): string {
  if (deg === 0) return "as it came";
  const way = deg < 0 ? "earlier: it came that much late" : "later: it came that much early";
  return `${Math.abs(deg).toFixed(1)}° ${way}`;
}

/** Where the cursor stands: crank angle, time, speed; and how far from the mark. */
function Cursor({
  seen,
  at,
  from,
}: {
  seen: Schemas["WindowOut"] | undefined;
  at: number;
  from: number | null;
}) {
  const here = seen ? reading(seen, at) : null;
  const there = seen && from !== null ? reading(seen, from) : null;
  return (
    <>
      <Figure>
        <Soft>crank</Soft>
        <strong>
          {here ? here.theta.toFixed(2) : "unknown"}
          {here && <Unit>° of 720</Unit>}
        </strong>
      </Figure>
      <Figure>
        <Soft>time</Soft>
        <strong>
          {at.toFixed(5)}
          <Unit>s</Unit>
        </strong>
      </Figure>
      <Figure>
        <Soft>speed</Soft>
        <strong>
          {here ? here.rpm.toFixed(0) : "unknown"}
          {here && <Unit>rpm</Unit>}
        </strong>
      </Figure>
      {from !== null && (
        <Figure>
          <Soft>from the mark</Soft>
          <Said $tone="measured">
            {here && there ? (
              <>
                {(here.total - there.total).toFixed(2)}
                <Unit>° crank</Unit>
              </>
            ) : null}{" "}
            {((at - from) * 1000).toFixed(3)}
            <Unit>ms</Unit>
          </Said>
        </Figure>
      )}
    </>
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
