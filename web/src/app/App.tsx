import { useQuery } from "@tanstack/react-query";
import { Navigate, Route, Routes, useParams } from "react-router";
import { meQuery } from "../api/queries";
import { Waiting } from "../kit/page";
import { Yard } from "../places/Yard";
import { Bench } from "../stages/bench/Bench";
import { Handover } from "../stages/handover/Handover";
import { Intake } from "../stages/intake/Intake";
import { Plan } from "../stages/plan/Plan";
import { Proof } from "../stages/proof/Proof";
import { Readings } from "../stages/readings/Readings";
import { Verdict } from "../stages/verdict/Verdict";
import { JobShell } from "./JobShell";
import { SignIn } from "./SignIn";

/** Any other address inside a job leads to its first stage. */
function ToIntake() {
  return <Navigate to={`/jobs/${useParams().id}/intake`} replace />;
}

export function App() {
  const me = useQuery(meQuery);
  if (!me.data) return <main style={{ padding: 24 }}><Waiting error={me.error} what="who you are" /></main>;
  if (!me.data.name) return <SignIn />;
  return (
    <Routes>
      <Route path="/" element={<Yard />} />
      <Route path="/jobs/:id" element={<JobShell />}>
        <Route path="intake" element={<Intake />} />
        <Route path="readings" element={<Readings />} />
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
