/** The seven stages in the order of the job. */
export const STAGES = [
  { id: "intake", name: "Intake" },
  { id: "readings", name: "Readings" },
  { id: "verdict", name: "Verdict" },
  { id: "plan", name: "Plan" },
  { id: "bench", name: "Bench" },
  { id: "proof", name: "Proof" },
  { id: "handover", name: "Handover" },
] as const;
export type StageId = (typeof STAGES)[number]["id"];
