import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { engineTrendQuery } from "../../api/fleetQueries";
import { useStartJob } from "../../api/useStartJob";
import { WearCourse } from "../../drawing/WearCourse";
import { Button } from "../../kit/controls";
import { Big, Columns, Sheet, Soft, StageHead, Stack, TroubleNote, Waiting } from "../../kit/page";
import { Ends, PlainList, Said } from "../../kit/text";
import { dayWords, hoursWords } from "./days";
import { odds } from "./FleetPage";
import { Frame } from "./Frame";

type Part = Schemas["PartOut"];

const Pick = styled(Button)<{ $isOn: boolean }>`
  width: 100%;
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  text-align: left;
  ${({ $isOn }) => $isOn && "box-shadow: inset 5px 0 0 var(--enamel);"}
`;
const Figures = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 8px 20px;
`;

/** How one engine goes on: its parts with what was read of them, and when each meets its limit. */
export function EnginePage() {
  const engine = Number(useParams().engine);
  const found = useQuery(engineTrendQuery(engine));
  const [chosen, setChosen] = useState<string | null>(null);
  if (!found.data)
    return (
      <Frame>
        <Waiting error={found.error} what="the engine" />
      </Frame>
    );
  const e = found.data;
  const shown = e.parts.find((p) => p.course.trend.part === chosen) ?? e.parts[0];
  return (
    <Frame>
      <StageHead title={e.unit || `Engine ${e.number}`}>
        <Soft role="status">{e.is_working && "Worked out anew just now …"}</Soft>
      </StageHead>
      <Soft>
        {e.tag && `${e.tag} · `}
        {e.book} · {e.number}
        {e.hours !== null &&
          ` · about ${hoursWords(e.hours)} by now, ` +
            `${e.a_day?.toFixed(1)} h a day${e.is_paced ? "" : " (taken as usual: its meter was read but once)"}`}
      </Soft>
      <Ends>
        <Said $size={20}>{e.words}</Said>
        <Next engine={e} />
      </Ends>
      {!shown || e.hours === null ? (
        <Soft>
          {e.is_working
            ? "It is being worked out and stands here in a minute."
            : "Read its meter, under Units: hours are what this goes by."}
        </Soft>
      ) : (
        <Columns $of="minmax(0, 3fr) minmax(260px, 1fr)">
          <PartSheet part={shown} now={e.hours} />
          <Sheet>
            <h2>Parts</h2>
            <PlainList $gap="6px">
              {e.parts.map((p) => (
                <li key={p.course.trend.part}>
                  <Pick
                    $isOn={p === shown}
                    aria-pressed={p === shown}
                    onPress={() => setChosen(p.course.trend.part)}
                  >
                    <span>{p.course.trend.name}</span>
                    <strong>{odds(p.course.trend.risk)}</strong>
                  </Pick>
                </li>
              ))}
            </PlainList>
            <Soft>Odds of being over the limit within 1000 h.</Soft>
          </Sheet>
        </Columns>
      )}
      <Sheet>
        <h2>Its jobs</h2>
        {e.jobs.length === 0 && <Soft>None yet.</Soft>}
        <PlainList $gap="4px">
          {e.jobs.map((j) => (
            <li key={j.id}>
              <Link to={`/jobs/${j.id}/${j.is_signed ? "handover" : "intake"}`}>{j.number}</Link>{" "}
              <Soft as="span">
                {new Date(j.opened_at).toLocaleDateString("en-GB")}
                {j.is_comeback && " · came back"}
                {!j.is_signed && " · open"}
                {j.complaint && ` · ${j.complaint}`}
              </Soft>
            </li>
          ))}
        </PlainList>
      </Sheet>
    </Frame>
  );
}

/** What to do about it: on with the job that is open, or a job begun. */
function Next({ engine: e }: { engine: Schemas["EngineTrendOut"] }) {
  const { start, trouble } = useStartJob();
  const open = e.jobs.find((j) => !j.is_signed);
  if (open) return <Link to={`/jobs/${open.id}/intake`}>Go on with {open.number}</Link>;
  if (e.unit_id === null) return null;
  const body = { unit_id: e.unit_id, engine_id: e.engine_id, comeback_of: null };
  return (
    <>
      <Button look="main" onPress={() => void start(body)}>
        Start a job on it
      </Button>
      <TroubleNote trouble={trouble} />
    </>
  );
}

function PartSheet({ part, now }: { part: Part; now: number }) {
  const { trend, since, at_limit_hours: at, read } = part.course;
  const left = at.middle === null ? null : Math.max(0, at.middle - now);
  const isOver = trend.is_over;
  return (
    <Stack>
      <Ends>
        <h2>{trend.name}</h2>
        {since > 0 && <Soft>new at {hoursWords(since)}</Soft>}
      </Ends>
      <Figures>
        <div>
          <Big $tone={isOver ? "stop" : "ink"}>
            {isOver ? "now" : dayWords(part.limit_on.middle, "far off")}
          </Big>
          <Soft>
            {isOver
              ? `over its limit, ${odds(trend.over)}`
              : `limit met; 90 %: ${dayWords(part.limit_on.low, "far off")} to ` +
                dayWords(part.limit_on.high, "far off")}
          </Soft>
        </div>
        <div>
          <Big>{left === null ? "—" : hoursWords(Math.round(left / 10) * 10)}</Big>
          <Soft>hours left, about</Soft>
        </div>
        <div>
          <Big>{hoursWords(trend.look_again_in)}</Big>
          <Soft>look again in; costs least for every hour run</Soft>
        </div>
      </Figures>
      <WearCourse course={part.course} now={now} height={320} />
      <Soft>
        {read.length === 0
          ? "Nothing was read of it: its age speaks, and how its kind wears here. "
          : `${read.length} ${read.length === 1 ? "reading" : "readings"}: full where measured on the part, hollow where read from cams and plungers. `}
        Shaded: 90 % of what is believed. The maker’s limits come first.
      </Soft>
    </Stack>
  );
}
