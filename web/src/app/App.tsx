import { useQuery } from "@tanstack/react-query";
import { Navigate, Route, Routes, useParams } from "react-router";
import type { Schemas } from "../api/client";
import { meQuery } from "../api/queries";
import { Waiting } from "../kit/page";
import { BookShell } from "../places/books/BookShell";
import { Books } from "../places/books/Books";
import { BookView } from "../places/books/BookView";
import { CountPage } from "../places/books/CountPage";
import { FacePage } from "../places/books/FacePage";
import { PositionSheet } from "../places/books/PositionSheet";
import { TouchPage } from "../places/books/TouchPage";
import { Keys } from "../places/keys/Keys";
import { OwnPassword } from "../places/people/OwnPassword";
import { People } from "../places/people/People";
import { ShopPage } from "../places/shop/ShopPage";
import { UnitsPage } from "../places/units/UnitsPage";
import { Yard } from "../places/Yard";
import { Bench } from "../stages/bench/Bench";
import { Handover } from "../stages/handover/Handover";
import { Intake } from "../stages/intake/Intake";
import { Plan } from "../stages/plan/Plan";
import { Proof } from "../stages/proof/Proof";
import { CaptureView } from "../stages/readings/capture/CaptureView";
import { Live } from "../stages/readings/live/Live";
import { Readings } from "../stages/readings/Readings";
import { WorksheetPage } from "../stages/readings/sheets/WorksheetPage";
import { Sweep } from "../stages/readings/sweep/Sweep";
import { Verdict } from "../stages/verdict/Verdict";
import { JobShell } from "./JobShell";
import { Overdue } from "./Overdue";
import { SignIn } from "./SignIn";
import { Main } from "./place";

/** Any other address inside a job leads to its first stage. */
function ToIntake() {
  return <Navigate to={`/jobs/${useParams().id}/intake`} replace />;
}

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
      <Overdue />
    </>
  );
}

/** Who may come in, and what comes first. */
function Door({ me }: { me: Schemas["Me"] }) {
  if (!me.name) return <SignIn isEmpty={me.is_empty} />;
  return me.is_password_due ? <OwnPassword me={me} /> : <Places me={me} />;
}

function Places({ me }: { me: Schemas["Me"] }) {
  return (
    <Routes>
      <Route path="/" element={<Yard />} />
      <Route path="/seals" element={<Keys />} />
      <Route path="/units" element={<UnitsPage />} />
      <Route path="/shop" element={<ShopPage />} />
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
        <Route path="intake" element={<Intake />} />
        <Route path="readings" element={<Readings />} />
        <Route path="readings/capture/:capture" element={<CaptureView />} />
        <Route path="readings/live" element={<Live />} />
        <Route path="readings/sweep" element={<Sweep />} />
        <Route path="readings/sheet/:kind" element={<WorksheetPage />} />
        <Route path="verdict" element={<Verdict />} />
        <Route path="plan" element={<Plan />} />
        <Route path="bench" element={<Bench />} />
        <Route path="proof" element={<Proof />} />
        <Route path="handover" element={<Handover />} />
        <Route index element={<ToIntake />} />
        <Route path="*" element={<ToIntake />} />
      </Route>
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}
