import { Suspense, useState, useSyncExternalStore } from "react";
import { Link, NavLink, Outlet, useLocation, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { client, take, type Schemas } from "../api/client";
import { useChange, useJob } from "../api/queries";
import { StageChain } from "../drawing/chain/StageChain";
import { DriveFace } from "../drawing/DriveFace";
import { Button } from "../kit/Button";
import { CareNote, Line, Soft, TroubleNote, Waiting } from "../kit/page";
import { Failing } from "./Failing";
import { KeyList, useKeys } from "./keys";
import { LastWritten, Notebook } from "./Notebook";
import { page } from "./page";
import { Main } from "./place";
import { STAGES } from "./stages";
import { TopBar } from "./TopBar";
import { Ends } from "../kit/text";

/** Rail, work and notebook; on the bench the engine takes half of the width. */
const railOf = ($isBench: boolean) => ($isBench ? "minmax(0, 0.9fr)" : "236px");
const Frame = styled.div<{ $folded: boolean; $isBench: boolean }>`
  display: grid;
  grid-template-columns: ${({ $isBench }) => railOf($isBench)} minmax(0, 1fr) ${({ $folded }) =>
      $folded ? "84px" : "248px"};
  grid-template-rows: auto auto minmax(0, 1fr);
  height: 100%;
  @media (max-width: 1100px) {
    grid-template-columns: ${({ $isBench }) => ($isBench ? "minmax(0, 0.7fr)" : "200px")} minmax(
        0,
        1fr
      );
    height: auto;
    min-height: 100%;
  }
  @media (max-width: 640px) {
    grid-template-columns: minmax(0, 1fr);
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
  @media (max-width: 640px) {
    order: 1;
    border-right: none;
  }
`;
const Work = styled(Main)`
  padding: 16px;
  @media (max-width: 1100px) {
    overflow: visible;
  }
`;
const Book = styled.aside`
  border-left: 1px solid var(--line);
  overflow-y: auto;
  background: var(--sheet);
  padding: 12px;
  display: grid;
  gap: 8px;
  align-content: start;
  @media (max-width: 1100px) {
    grid-column: 1 / -1;
    border-left: none;
    border-top: 1px solid var(--line);
    order: 2;
  }
`;
const EngineLinks = styled.nav`
  display: grid;
  grid-template-columns: 1fr 1fr;
  font-size: var(--note);
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
const Upright = styled(Button)`
  padding: 8px 4px;
  font-size: var(--least);
  white-space: normal;
`;
/** What comes next, at the end of the page and never out of sight. */
const Onward = styled.div`
  position: sticky;
  bottom: -16px;
  margin: 0 -16px -16px;
  padding: 10px 16px;
  background: var(--sheet);
  border-top: 2px solid var(--enamel);
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: center;
  @media (max-width: 1100px) {
    bottom: 0;
  }
`;
const Press = styled(Link)`
  display: inline-flex;
  align-items: center;
  min-height: 60px;
  padding: 8px 22px;
  background: var(--enamel);
  color: var(--on-enamel);
  font-size: var(--name);
  font-weight: 700;
  line-height: 1.2;
  text-decoration: none;
`;
const Run = styled.div`
  grid-column: 1 / -1;
  background: var(--sheet);
  &:not(:empty) {
    border-bottom: 1px solid var(--line);
  }
`;
const Next = styled.div`
  border: 2px solid var(--enamel);
  padding: 8px 10px;
  font-size: var(--note);
`;

const BenchFace = page(() => import("../stages/bench/BenchFace").then((m) => m.BenchFace));
const BenchRun = page(() => import("../stages/bench/BenchFace").then((m) => m.BenchRun));

const SMALL = window.matchMedia("(max-width: 1100px)");
function onSmall(tell: () => void) {
  SMALL.addEventListener("change", tell);
  return () => SMALL.removeEventListener("change", tell);
}
/** Whether the notebook stands below the work, where there is nothing to fold it for. */
function useSmall() {
  return useSyncExternalStore(onSmall, () => SMALL.matches);
}

/** Where what comes next is done. */
function wayTo(job: Schemas["JobOut"]) {
  const stage = job.stage === "done" ? "handover" : job.stage;
  const step = job.next.step ? `?step=${encodeURIComponent(job.next.step)}` : "";
  return { stage, to: `/jobs/${job.id}/${stage}${step}` };
}

/**
 * Whether the notebook is folded: on the bench and in large pictures from the start, elsewhere not;
 * as one left it the last time.
 */
function useFold(isLarge: boolean): [boolean, () => void] {
  const key = isLarge ? "notebook beside work" : "notebook";
  const [said, setSaid] = useState<Record<string, string | null>>({});
  const kept = said[key] ?? localStorage.getItem(key);
  const folded = kept === null ? isLarge : kept === "folded";
  const turn = () => {
    const next = folded ? "open" : "folded";
    localStorage.setItem(key, next);
    setSaid((all) => ({ ...all, [key]: next }));
  };
  return [folded, turn];
}

export function JobShell() {
  const id = Number(useParams().id);
  const job = useJob(id);
  const navigate = useNavigate();
  const [showsKeys, setShowsKeys] = useState(false);
  const { change, trouble, isBusy } = useChange(id);
  const { pathname } = useLocation();
  const here = pathname.split("/")[3] ?? "";
  const isSmall = useSmall();
  const [isFolded, onFold] = useFold(["bench", "engine", "plan"].includes(here));
  const folded = isFolded && !isSmall;

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
    n: onFold,
    "mod+z": () => void (job.data?.can_undo && onUndo()),
    ...Object.fromEntries(
      STAGES.map((s, i) => [String(i + 1), () => void navigate(`/jobs/${id}/${s.id}`)]),
    ),
  });
  const data = job.data;
  const isThere = data ? wayTo(data).stage === here : true;
  return (
    <Frame $folded={folded} $isBench={here === "bench"}>
      <TopBar>
        <StageChain job={id} stage={data?.stage} />
      </TopBar>
      <Run>
        {data && here === "bench" && (
          <Suspense>
            <BenchRun job={data} />
          </Suspense>
        )}
      </Run>
      {!data ? (
        <Work>
          <Waiting error={job.error} what="the job" />
        </Work>
      ) : (
        <>
          <Rail aria-label="The engine" tabIndex={0}>
            {here !== "bench" && (
              <div>
                <h2>{data.unit.name}</h2>
                <Soft>
                  {data.unit.tag} · {data.number} · {data.engine}, {data.unit.number}
                </Soft>
              </div>
            )}
            {isThere && here !== "bench" && (
              <Next>
                <Soft as="span">Next, here</Soft>
                <div>{data.next.words}</div>
              </Next>
            )}
            {here === "bench" ? (
              <Suspense>
                <BenchFace job={data} />
              </Suspense>
            ) : (
              <DriveFace face={data.face} states={data.states} />
            )}
            <EngineLinks aria-label="This engine">
              <NavLink to={`/jobs/${id}/engine`} end>
                Turn the engine
              </NavLink>
              <NavLink to={`/jobs/${id}/engine/counts`}>Count links</NavLink>
              <NavLink to={`/jobs/${id}/engine/touch`}>Touch map</NavLink>
              <NavLink to={`/jobs/${id}/engine/sheet`}>Position sheet</NavLink>
            </EngineLinks>
            <Soft>{data.notice}</Soft>
          </Rail>
          <Work>
            {folded && <LastWritten entries={data.notebook} />}
            {job.error && <Waiting error={job.error} what="the job" />}
            {showsKeys && <KeyList />}
            {data.imported_by && (
              <CareNote
                title={data.signed_at_depot ? `Signed at ${data.signed_at_depot}` : "From a file"}
              >
                {data.import_note}
              </CareNote>
            )}
            <Failing at={pathname}>
              <Suspense fallback={<Waiting error={null} what="the page" />}>
                <Outlet />
              </Suspense>
            </Failing>
            {!isThere && (
              <Onward>
                <Press to={wayTo(data).to}>{data.next.press} →</Press>
                <Soft>{data.next.words}</Soft>
              </Onward>
            )}
          </Work>
          <Book aria-label="Notebook" tabIndex={0}>
            {folded ? (
              <>
                <Upright onPress={onFold} aria-expanded={false}>
                  Note&shy;book
                </Upright>
                <Upright onPress={() => void onUndo()} isDisabled={!data.can_undo || isBusy}>
                  Undo
                </Upright>
              </>
            ) : (
              <>
                <Ends $align="center">
                  <h2>Notebook</h2>
                  <Line>
                    <Button onPress={() => void onUndo()} isDisabled={!data.can_undo || isBusy}>
                      Undo
                    </Button>
                    {!isSmall && (
                      <Button onPress={onFold} aria-expanded aria-label="Fold the notebook">
                        Fold
                      </Button>
                    )}
                  </Line>
                </Ends>
                <Notebook entries={data.notebook} />
              </>
            )}
            <TroubleNote trouble={trouble} />
          </Book>
        </>
      )}
    </Frame>
  );
}
