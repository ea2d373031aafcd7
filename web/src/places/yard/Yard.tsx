import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { client, sendFile, take, Trouble, type Schemas } from "../../api/client";
import { meQuery, yardQuery } from "../../api/queries";
import { Ground, Main, Tab } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Due } from "./Due";
import { Hall } from "./Hall";
import { Button } from "../../kit/Button";
import { Line, Soft, StageHead, TroubleNote, Waiting } from "../../kit/page";
import { FilePick } from "../../kit/files";

const Units = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 330px), 1fr));
  gap: 0 28px;
`;
const UnitLine = styled.li`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  border-bottom: 1px solid var(--line);
  padding: 7px 0;
`;

const Steps = styled.ol`
  display: grid;
  gap: 10px;
  margin: 6px 0;
  padding-left: 1.4em;
  font-size: var(--name);
`;

export function Yard() {
  const yard = useQuery(yardQuery);
  const me = useQuery(meQuery);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState<Trouble | null>(null);

  async function go(work: Promise<Schemas["Changed"]>) {
    setTrouble(null);
    try {
      const done = await work;
      await queries.invalidateQueries({ queryKey: ["yard"] });
      void navigate(`/jobs/${done.id}/intake`);
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  const open = yard.data?.jobs.filter((j) => j.stage !== "done") ?? [];
  const done = yard.data?.jobs.filter((j) => j.stage === "done") ?? [];
  const idle = yard.data?.units.filter((u) => !u.open_job) ?? [];
  const mine = open.filter((j) => j.opened_by === me.data?.name).length;
  return (
    <Ground>
      <TopBar>
        <Tab to="/units">Units</Tab>
        <Tab to="/fleet">Fleet</Tab>
        <Tab to="/books">Engine books</Tab>
        <Tab to="/stores">Stores</Tab>
        <Tab to="/shop">Shop</Tab>
        {me.data?.role === "lead" && <Tab to="/people">People</Tab>}
      </TopBar>
      <Main>
        <StageHead
          title={yard.data ? yardWords(open.length, mine, yard.data.units.length) : "Yard"}
        >
          <Soft>{TODAY.format(new Date())}</Soft>
        </StageHead>
        <TroubleNote trouble={trouble} />
        {!yard.data ? (
          <Waiting error={yard.error} what="the yard" />
        ) : (
          <>
            <Hall places={yard.data.places} jobs={open} units={yard.data.units} />
            <Due />
            <section>
              <h2>In the yard</h2>
              {yard.data.units.length === 0 && <FirstSteps isLead={me.data?.role === "lead"} />}
              <Units>
                {idle.map((u) => (
                  <UnitLine key={u.engine_id}>
                    <div>
                      <strong>{u.name}</strong>
                      {u.is_one_of && `, ${u.position}`}
                      <Soft>
                        {u.kind}
                        {u.place && `, ${u.place}`} · {u.run_words}
                        {u.has_baseline ? " · own baseline" : ""}
                      </Soft>
                    </div>
                    <Button
                      onPress={() =>
                        void go(
                          take(
                            client.POST("/api/jobs", {
                              body: { unit_id: u.id, engine_id: u.engine_id, comeback_of: null },
                            }),
                          ),
                        )
                      }
                      aria-label={`Start job on ${u.name}${u.is_one_of ? `, ${u.position}` : ""}`}
                    >
                      Start job
                    </Button>
                  </UnitLine>
                ))}
              </Units>
            </section>
            <section>
              <h2>Signed jobs</h2>
              {done.length === 0 && <Soft>None yet.</Soft>}
              {done.map((j) => (
                <div key={j.id}>
                  <Link to={`/jobs/${j.id}/handover`}>
                    {j.number} · {j.unit}
                  </Link>{" "}
                  <Soft as="span">
                    {j.signed_at_depot ? `signed at ${j.signed_at_depot} · ` : ""}
                    {j.complaint}
                  </Soft>
                </div>
              ))}
              <Line $align="center">
                <FilePick
                  label="Job file"
                  accept={[".zip", ".json"]}
                  onFiles={([file]) => file && void go(sendFile("/api/import", file))}
                >
                  Bring in a job file
                </FilePick>
                <Link to="/seals">Whose seals count here</Link>
              </Line>
            </section>
          </>
        )}
      </Main>
    </Ground>
  );
}

const TODAY = new Intl.DateTimeFormat("en-GB", {
  weekday: "long",
  day: "numeric",
  month: "long",
});

/** What the yard comes to, in a line. */
function yardWords(open: number, mine: number, units: number): string {
  if (!units) return "Nothing here yet. What comes first stands below.";
  if (!open) return "No open job. Start one on a unit below.";
  const jobs = `${open} open ${open === 1 ? "job" : "jobs"}`;
  if (mine === open) return `${jobs}, ${open === 1 ? "opened" : "all opened"} by you`;
  return mine ? `${jobs}, ${mine} opened by you` : jobs;
}

/** What an empty shop does first, in its order. */
function FirstSteps({ isLead }: { isLead: boolean }) {
  if (!isLead)
    return (
      <Soft>No unit carries an engine yet. A lead takes in an engine book and adds units.</Soft>
    );
  return (
    <Steps>
      <li>
        <Link to="/books">Take in an engine book</Link>: one file an engine. Every check of it must
        pass.
      </li>
      <li>
        <Link to="/units">Add units and mount their engines</Link>, one by one or from a list.
      </li>
      <li>
        <Link to="/people">Make accounts</Link> for those who work here, and{" "}
        <Link to="/shop">name the shop</Link>.
      </li>
    </Steps>
  );
}
