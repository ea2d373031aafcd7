import { useState } from "react";
import { NavLink, Outlet, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { client, take } from "../api/client";
import { useChange, useJob } from "../api/queries";
import { DriveFace } from "../drawing/DriveFace";
import { Button } from "../kit/controls";
import { CareNote, Soft, TroubleNote, Waiting } from "../kit/page";
import { KeyList, useKeys } from "./keys";
import { Notebook } from "./Notebook";
import { Tab } from "./place";
import { STAGES } from "./stages";
import { TopBar } from "./TopBar";
import { Ends } from "../kit/text";

const Frame = styled.div`
  display: grid;
  grid-template-columns: 226px minmax(0, 1fr) 248px;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100%;
  @media (max-width: 1100px) {
    grid-template-columns: 190px minmax(0, 1fr);
    height: auto;
    min-height: 100%;
  }
`;
const Rail = styled.aside`
  padding: 12px;
  border-right: 1px solid var(--line);
  overflow-y: auto;
  display: grid;
  gap: 10px;
  align-content: start;
  background: var(--sheet);
`;
const Main = styled.main`
  position: relative;
  padding: 16px;
  overflow-y: auto;
  display: grid;
  gap: 14px;
  align-content: start;
  min-width: 0;
`;
const Book = styled.aside`
  border-left: 1px solid var(--line);
  overflow-y: auto;
  background: var(--sheet);
  padding: 12px;
  @media (max-width: 1100px) {
    grid-column: 1 / -1;
    border-left: none;
    border-top: 1px solid var(--line);
  }
`;
const EngineLinks = styled.nav`
  display: grid;
  grid-template-columns: 1fr 1fr;
  font-size: 14px;
  a {
    min-height: 48px;
    display: flex;
    align-items: center;
    padding: 2px 6px;
    border: 1px solid var(--line);
    margin: -1px 0 0 -1px;
    line-height: 1.2;
  }
  a.active {
    font-weight: 700;
    color: var(--ink);
    background: var(--enamel-tint);
  }
`;
const Stages = styled.nav`
  display: flex;
  flex-wrap: wrap;
`;
const Next = styled.div`
  border: 2px solid var(--enamel);
  padding: 8px 10px;
  font-size: 15px;
`;

export function JobShell() {
  const id = Number(useParams().id);
  const job = useJob(id);
  const navigate = useNavigate();
  const [showsKeys, setShowsKeys] = useState(false);
  const { change, trouble } = useChange(id);

  async function onUndo() {
    await change((version) =>
      take(
        client.POST("/api/jobs/{job_id}/undo", {
          params: { path: { job_id: id } },
          body: { version },
        }),
      ),
    );
  }
  useKeys({
    "?": () => setShowsKeys((s) => !s),
    Escape: () => setShowsKeys(false),
    y: () => void navigate("/"),
    u: () => void (job.data?.can_undo && onUndo()),
    ...Object.fromEntries(
      STAGES.map((s, i) => [String(i + 1), () => void navigate(`/jobs/${id}/${s.id}`)]),
    ),
  });
  const data = job.data;
  return (
    <Frame>
      <TopBar>
        <Stages aria-label="Stages of the job">
          {STAGES.map((s, i) => (
            <Tab key={s.id} to={`/jobs/${id}/${s.id}`}>
              <small aria-hidden>{i + 1}</small>
              {s.name}
              {data?.stage === s.id && (
                <span title="The job stands here" aria-label="the job stands here">
                  ◆
                </span>
              )}
            </Tab>
          ))}
        </Stages>
      </TopBar>
      {!data ? (
        <Main>
          <Waiting error={job.error} what="the job" />
        </Main>
      ) : (
        <>
          <Rail aria-label="The engine" tabIndex={0}>
            <div>
              <h2>{data.unit.name}</h2>
              <Soft>
                {data.unit.tag} · {data.number} · {data.engine}, {data.unit.number}
              </Soft>
            </div>
            <Next>
              <Soft as="span">Next</Soft>
              <div>{data.next_action}</div>
            </Next>
            <DriveFace face={data.face} states={data.states} />
            <EngineLinks aria-label="This engine">
              <NavLink to={`/jobs/${id}/engine`}>Turn the engine</NavLink>
              <NavLink to={`/books/${data.book_id}/counts`}>Count links</NavLink>
              <NavLink to={`/books/${data.book_id}/touch`}>Touch map</NavLink>
              <NavLink to={`/books/${data.book_id}/sheet`}>Position sheet</NavLink>
            </EngineLinks>
            <Soft>{data.notice}</Soft>
          </Rail>
          <Main>
            {job.error && <Waiting error={job.error} what="the job" />}
            {showsKeys && <KeyList />}
            {data.imported_by && (
              <CareNote
                title={data.signed_at_depot ? `Signed at ${data.signed_at_depot}` : "From a file"}
              >
                {data.import_note}
              </CareNote>
            )}
            <Outlet />
          </Main>
          <Book aria-label="Notebook" tabIndex={0}>
            <Ends $align="center">
              <h2>Notebook</h2>
              <Button onPress={() => void onUndo()} isDisabled={!data.can_undo}>
                Undo
              </Button>
            </Ends>
            <TroubleNote trouble={trouble} />
            <Notebook entries={data.notebook} />
          </Book>
        </>
      )}
    </Frame>
  );
}
