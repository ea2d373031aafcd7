import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Suspense, useEffect } from "react";
import { Navigate, Route, Routes, useLocation, useMatch, useParams } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../api/client";
import { keepSending } from "../api/outbox";
import { meQuery } from "../api/queries";
import { Waiting } from "../kit/page";
import { Failing } from "./Failing";
import { Called } from "./Called";
import { Overdue } from "./Overdue";
import { page } from "./page";
import { Main } from "./place";

const BookShell = page(() => import("../places/books/BookShell").then((m) => m.BookShell));
const Books = page(() => import("../places/books/Books").then((m) => m.Books));
const BookView = page(() => import("../places/books/BookView").then((m) => m.BookView));
const CountPage = page(() => import("../places/books/CountPage").then((m) => m.CountPage));
const FacePage = page(() => import("../places/books/FacePage").then((m) => m.FacePage));
const PositionSheet = page(() =>
  import("../places/books/PositionSheet").then((m) => m.PositionSheet),
);
const TouchPage = page(() => import("../places/books/TouchPage").then((m) => m.TouchPage));
const EnginePage = page(() => import("../places/fleet/EnginePage").then((m) => m.EnginePage));
const FleetPage = page(() => import("../places/fleet/FleetPage").then((m) => m.FleetPage));
const TrustPage = page(() => import("../places/fleet/TrustPage").then((m) => m.TrustPage));
const Keys = page(() => import("../places/keys/Keys").then((m) => m.Keys));
const OwnPassword = page(() => import("../places/people/OwnPassword").then((m) => m.OwnPassword));
const People = page(() => import("../places/people/People").then((m) => m.People));
const ShopPage = page(() => import("../places/shop/ShopPage").then((m) => m.ShopPage));
const StoresPage = page(() => import("../places/stores/StoresPage").then((m) => m.StoresPage));
const UnitsPage = page(() => import("../places/units/UnitsPage").then((m) => m.UnitsPage));
const Bench = page(() => import("../stages/bench/Bench").then((m) => m.Bench));
const Handover = page(() => import("../stages/handover/Handover").then((m) => m.Handover));
const Intake = page(() => import("../stages/intake/Intake").then((m) => m.Intake));
const Estimate = page(() => import("../stages/plan/Estimate").then((m) => m.Estimate));
const Plan = page(() => import("../stages/plan/Plan").then((m) => m.Plan));
const Proof = page(() => import("../stages/proof/Proof").then((m) => m.Proof));
const CaptureView = page(() =>
  import("../stages/readings/capture/CaptureView").then((m) => m.CaptureView),
);
const FirstStart = page(() => import("../stages/proof/start/FirstStart").then((m) => m.FirstStart));
const Live = page(() => import("../stages/readings/live/Live").then((m) => m.Live));
const Readings = page(() => import("../stages/readings/Readings").then((m) => m.Readings));
const WorksheetPage = page(() =>
  import("../stages/readings/sheets/WorksheetPage").then((m) => m.WorksheetPage),
);
const Sweep = page(() => import("../stages/readings/sweep/Sweep").then((m) => m.Sweep));
const Verdict = page(() => import("../stages/verdict/Verdict").then((m) => m.Verdict));
const SecondLook = page(() => import("./SecondLook").then((m) => m.SecondLook));
const SignIn = page(() => import("./SignIn").then((m) => m.SignIn));
const JobShell = page(() => import("./JobShell").then((m) => m.JobShell));
const Yard = page(() => import("../places/yard/Yard").then((m) => m.Yard));

/** Any other address inside a job leads to its first stage. */
function ToIntake() {
  return <Navigate to={`/jobs/${useParams().id}/intake`} replace />;
}

const Skip = styled.a`
  position: absolute;
  left: -100vw;
  z-index: 40;
  padding: 12px 18px;
  background: var(--pen);
  color: var(--on-pen);
  font-weight: 700;
  &:focus {
    left: 8px;
    top: 8px;
  }
`;

export function App() {
  const me = useQuery(meQuery);
  if (!me.data)
    return (
      <Main>
        <Waiting error={me.error} what="who you are" />
      </Main>
    );
  return (
    <>
      <Door me={me.data} />
      {me.data.name && <Sending />}
      <Overdue />
      <Called />
    </>
  );
}

/** What was written without the network is sent as soon as somebody is signed in and it is back. */
function Sending() {
  const queries = useQueryClient();
  useEffect(
    () => keepSending((job) => void queries.invalidateQueries({ queryKey: ["job", job] })),
    [queries],
  );
  return null;
}

/** Who may come in, and what comes first. */
function Door({ me }: { me: Schemas["Me"] }) {
  const asked = useMatch("/look/:token");
  if (asked)
    return (
      <Suspense>
        <Routes>
          <Route path="/look/:token" element={<SecondLook />} />
        </Routes>
      </Suspense>
    );
  if (me.name && !me.is_password_due) return <Places me={me} />;
  return (
    <Suspense>{me.name ? <OwnPassword me={me} /> : <SignIn isEmpty={me.is_empty} />}</Suspense>
  );
}

function Places({ me }: { me: Schemas["Me"] }) {
  const { pathname } = useLocation();
  return (
    <Failing at={pathname}>
      <Skip href="#work">Skip to the work</Skip>
      <Suspense fallback={<Waiting error={null} what="the page" />}>
        <Ways me={me} />
      </Suspense>
    </Failing>
  );
}

function Ways({ me }: { me: Schemas["Me"] }) {
  return (
    <Routes>
      <Route path="/" element={<Yard />} />
      <Route path="/seals" element={<Keys />} />
      <Route path="/units" element={<UnitsPage />} />
      <Route path="/shop" element={<ShopPage />} />
      <Route path="/stores" element={<StoresPage />} />
      <Route path="/fleet" element={<FleetPage />} />
      <Route path="/fleet/trust" element={<TrustPage />} />
      <Route path="/fleet/:engine" element={<EnginePage />} />
      <Route path="/password" element={<OwnPassword me={me} />} />
      {me.role === "lead" && <Route path="/people" element={<People />} />}
      <Route path="/books" element={<Books />} />
      <Route path="/books/:book" element={<BookShell />}>
        <Route index element={<BookView />} />
        <Route path="face" element={<FacePage />} />
        <Route path="counts" element={<CountPage />} />
        <Route path="touch" element={<TouchPage />} />
        <Route path="sheet" element={<PositionSheet />} />
      </Route>
      <Route path="/jobs/:id" element={<JobShell />}>
        <Route path="engine" element={<FacePage />} />
        <Route path="engine/counts" element={<CountPage />} />
        <Route path="engine/touch" element={<TouchPage />} />
        <Route path="engine/sheet" element={<PositionSheet />} />
        <Route path="intake" element={<Intake />} />
        <Route path="readings" element={<Readings />} />
        <Route path="readings/capture/:capture" element={<CaptureView />} />
        <Route path="readings/live" element={<Live />} />
        <Route path="readings/sweep" element={<Sweep />} />
        <Route path="readings/sheet/:kind" element={<WorksheetPage />} />
        <Route path="verdict" element={<Verdict />} />
        <Route path="plan" element={<Plan />} />
        <Route path="plan/estimate" element={<Estimate />} />
        <Route path="bench" element={<Bench />} />
        <Route path="proof" element={<Proof />} />
        <Route path="proof/start" element={<FirstStart />} />
        <Route path="handover" element={<Handover />} />
        <Route index element={<ToIntake />} />
        <Route path="*" element={<ToIntake />} />
      </Route>
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}
