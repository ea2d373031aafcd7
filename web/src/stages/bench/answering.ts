import type { Schemas } from "../../api/client";

type Step = Schemas["PlanStep"];

/** All answers of one press, with the figures that were typed. */
export function quickAnswers(step: Step, typed: string[]): string[] {
  return step.one_press.map((said, i) => said ?? typed[i] ?? "");
}

/** The words of the press that says so. */
export function quickWords(step: Step): string {
  const rest = step.asked.filter((_, i) => step.one_press[i] !== null);
  const [first] = rest;
  if (!first) return "Record it";
  if (rest.every((a) => a.kind === "mark")) return rest.length > 1 ? "Marks meet" : "Mark meets";
  if (rest.length > 1) return "All as it should be";
  if (first.kind === "count") return `${first.expected ?? 0}: all of them`;
  return first.choices.find((c) => c.code === first.right[0])?.words ?? "As it should be";
}

/** Whether the tablet alone may take it as right until the server has judged it. */
export function looksRight(step: Step, answers: string[]): boolean {
  return step.asked.every((asked, i) => {
    const said = (answers[i] ?? "").trim();
    if (asked.choices.length) return asked.right.includes(said);
    if (asked.kind === "count") return said === String(asked.expected ?? 0);
    const value = /^([0-9]+(?:[.,][0-9]+)?)\s*(?:Nm|deg|°|mm)?$/.exec(said)?.[1];
    if (value === undefined) return false;
    const figure = Number(value.replace(",", "."));
    if (asked.stage) return Math.abs(figure - asked.stage.value) <= asked.stage.tolerance;
    return figure >= (asked.low ?? -Infinity) && figure <= (asked.high ?? Infinity);
  });
}
