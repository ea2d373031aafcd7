import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { fleetQuery } from "../../api/fleetQueries";
import { meQuery } from "../../api/queries";
import type { Schemas } from "../../api/client";
import { DayBar, DayScale } from "../../drawing/DayBar";
import { Select } from "../../kit/Select";
import { Line, Soft, StageHead, Waiting } from "../../kit/page";
import { PlainList, Said } from "../../kit/text";
import { dayWords, hoursWords } from "./days";
import { Frame } from "./Frame";

type Engine = Schemas["FleetLineOut"];

const Row = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 5fr) 110px minmax(0, 6fr) 120px;
  gap: 4px 16px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 8px 0;
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr) 96px 100px;
    & > :nth-child(3) {
      grid-column: 1 / -1;
      order: 9;
    }
  }
`;
const Heads = styled(Row).attrs({ as: "div" })`
  border: none;
  padding: 0;
  align-items: end;
  font-size: var(--note);
  color: var(--soft);
`;
const Unit = styled(Link)`
  display: inline-block;
  min-height: 30px;
  font-weight: 700;
  font-size: var(--name);
`;
const Right = styled.div`
  text-align: right;
`;

/** Which engines come next: each between when and when its first part meets its limit. */
export function FleetPage() {
  const fleet = useQuery(fleetQuery);
  const isLead = useQuery(meQuery).data?.role === "lead";
  const [book, setBook] = useState("");
  if (!fleet.data)
    return (
      <Frame>
        <Waiting error={fleet.error} what="the fleet" />
      </Frame>
    );
  const { engines, currency, is_working: isWorking } = fleet.data;
  const books = [...new Set(engines.map((e) => e.book))].sort();
  const shown = engines.filter((e) => !book || e.book === book);
  const known = shown.filter((e) => e.hours !== null);
  return (
    <Frame>
      <StageHead title={fleet.data.headline}>
        <Soft role="status">{isWorking && "Worked out anew just now …"}</Soft>
      </StageHead>
      <Line $align="end">
        <Select
          label="Engine book"
          value={book}
          onChange={setBook}
          options={[
            { value: "", label: "All" },
            ...books.map((name) => ({ value: name, label: name })),
          ]}
        />
        {isLead && <Link to="/stores?list=wear">Wear measured before: put it in</Link>}
      </Line>
      {engines.length === 0 && (
        <Soft>No engine yet. A lead takes in an engine book and mounts engines on units.</Soft>
      )}
      {engines.length > 0 && known.length === 0 && isWorking && (
        <Soft>What closed jobs teach is being worked out: it stands here in a minute.</Soft>
      )}
      {known.length > 0 && (
        <Heads aria-hidden>
          <span />
          <Right>over a limit within 1000 h</Right>
          <DayScale />
          <Right>if left so long, {currency}</Right>
        </Heads>
      )}
      <PlainList aria-label="Engines, the dearest to leave first">
        {shown.map((e) => (
          <EngineRow key={e.engine_id} engine={e} />
        ))}
      </PlainList>
      {known.length > 0 && (
        <Soft>
          Each bar: between when and when the first part meets its limit, 90 % of it, from today to
          five years on; the stroke is its middle, ▲ the day to look again. Odds within 1000 h; what
          they would cost is by the shop’s rates. An engine without a reading goes by its age and by
          how its kind wears here.
        </Soft>
      )}
    </Frame>
  );
}

function EngineRow({ engine: e }: { engine: Engine }) {
  const isOver = e.is_over;
  const when =
    `${e.unit || e.number}: limit met between ${dayWords(e.limit_on.low, "far off")} and ` +
    `${dayWords(e.limit_on.high, "far off")}, look again ${dayWords(e.look_on, "not foreseen")}`;
  return (
    <Row>
      <div>
        <Unit to={`/fleet/${e.engine_id}`}>{e.unit || `Engine ${e.number}`}</Unit>{" "}
        <Soft as="span">
          {e.tag && `${e.tag} · `}
          {e.book}
          {e.hours !== null && ` · ${hoursWords(e.hours)}`}
          {e.comebacks > 0 && ` · came back ${e.comebacks === 1 ? "once" : `${e.comebacks} times`}`}
        </Soft>
        <Soft>{e.words}</Soft>
      </div>
      <Right>
        {e.risk !== null && (
          <Said $size={28} $tone={isOver ? "stop" : e.risk > 0.3 ? "care" : "ink"}>
            {odds(e.risk)}
          </Said>
        )}
      </Right>
      {e.hours === null ? (
        <Soft>Read its meter once: hours are what this goes by.</Soft>
      ) : (
        <DayBar
          low={e.limit_on.low}
          middle={e.limit_on.middle}
          high={e.limit_on.high}
          look={e.look_on}
          isOver={isOver}
          label={when}
        />
      )}
      <Right>
        {e.hours !== null && (
          <>
            <strong>{Math.round(e.cost).toLocaleString("en-GB")}</strong>
          </>
        )}
      </Right>
    </Row>
  );
}

/** A chance as it is said: never quite none, never quite sure. */
export function odds(p: number): string {
  if (p > 0.99) return ">99 %";
  return p < 0.01 ? "<1 %" : `${Math.round(100 * p)} %`;
}
