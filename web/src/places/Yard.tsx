import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { client, sendFile, take, Trouble, type Schemas } from "../api/client";
import { meQuery, yardQuery } from "../api/queries";
import { Ground, Main, Tab } from "../app/place";
import { TopBar } from "../app/TopBar";
import { STAGES } from "../app/stages";
import { Button } from "../kit/Button";
import { Line, Soft, StageHead, TroubleNote, Waiting } from "../kit/page";
import { FilePick } from "../kit/files";

const Lanes = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(7, minmax(0, 1fr));
  gap: 8px;
  @media (max-width: 1000px) {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
`;
const Lane = styled.li<{ $empty: boolean }>`
  border-top: 4px solid ${({ $empty }) => ($empty ? "var(--line)" : "var(--enamel)")};
  padding-top: 6px;
  display: grid;
  gap: 8px;
  align-content: start;
  min-width: 0;
`;
const InWork = styled(Link)`
  white-space: nowrap;
`;
const LaneName = styled.h2`
  font-size: 16px;
`;
const Card = styled(Link)`
  display: grid;
  gap: 6px;
  padding: 12px;
  background: var(--sheet);
  border: 1px solid var(--line);
  color: var(--ink);
  text-decoration: none;
  overflow-wrap: anywhere;
  min-height: 48px;
  &:hover {
    border-color: var(--enamel);
  }
`;
const Units = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 8px;
`;
const UnitLine = styled.li`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  background: var(--sheet);
  border: 1px solid var(--line);
  padding: 8px 12px;
`;

const Steps = styled.ol`
  display: grid;
  gap: 10px;
  margin: 6px 0;
  padding-left: 1.4em;
  font-size: 18px;
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
  const stageOf = (job: number) => yard.data?.jobs.find((j) => j.id === job)?.stage ?? "intake";
  return (
    <Ground>
      <TopBar>
        <Tab to="/units">Units</Tab>
        <Tab to="/books">Engine books</Tab>
        <Tab to="/shop">Shop</Tab>
        {me.data?.role === "lead" && <Tab to="/people">People</Tab>}
      </TopBar>
      <Main>
        <StageHead title="Yard">
          <Soft>
            {open.length
              ? `${open.length} open ${open.length === 1 ? "job" : "jobs"}. Choose one to go on where it stands.`
              : yard.data?.units.length
                ? "No open job. Start one on a unit below."
                : "Nothing here yet. What comes first stands below."}
          </Soft>
        </StageHead>
        <TroubleNote trouble={trouble} />
        {!yard.data ? (
          <Waiting error={yard.error} what="the yard" />
        ) : (
          <>
            <Lanes aria-label="Open jobs by stage">
              {STAGES.map((s) => {
                const here = open.filter((j) => j.stage === s.id);
                return (
                  <Lane key={s.id} $empty={!here.length}>
                    <LaneName>
                      {s.name} <Soft as="span">{here.length || "–"}</Soft>
                    </LaneName>
                    {here.map((j) => (
                      <Card key={j.id} to={`/jobs/${j.id}/${j.stage}`}>
                        <strong>{j.unit}</strong>
                        <Soft as="span">
                          {j.number}
                          {j.is_imported ? " · from a file" : ""}
                        </Soft>
                        <span>{j.next_action}</span>
                      </Card>
                    ))}
                  </Lane>
                );
              })}
            </Lanes>
            <section>
              <h2>Units</h2>
              {yard.data.units.length === 0 && <FirstSteps isLead={me.data?.role === "lead"} />}
              <Units>
                {yard.data.units.map((u) => (
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
                    {u.open_job ? (
                      <InWork to={`/jobs/${u.open_job}/${stageOf(u.open_job)}`}>in work</InWork>
                    ) : (
                      <Button
                        onPress={() =>
                          void go(
                            take(
                              client.POST("/api/jobs", {
                                body: { unit_id: u.id, engine_id: u.engine_id },
                              }),
                            ),
                          )
                        }
                        aria-label={`Start job on ${u.name}${u.is_one_of ? `, ${u.position}` : ""}`}
                      >
                        Start job
                      </Button>
                    )}
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
                  accept={[".json"]}
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
