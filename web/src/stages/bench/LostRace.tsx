import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../kit/controls";
import { dropDraft, readDraft, usePerson } from "../../kit/draft";
import { CareNote, Line, Sheet, Soft } from "../../kit/page";

export function stepDraft(id: number, ref: string, occurrence: number) {
  return `step ${id} ${ref} ${occurrence}`;
}

/**
 * What somebody typed at a step that another person closed first: told, and kept until it is put
 * aside.
 */
export function LostRace({ id, bench }: { id: number; bench: Schemas["BenchOut"] }) {
  const person = usePerson();
  const [, setDropped] = useState(0);
  const lost = bench.steps.flatMap((step) => {
    const times = bench.occurrences[step.ref] ?? 0;
    return Array.from({ length: times }, (_, k) => stepDraft(id, step.ref, k))
      .map((what) => ({
        step,
        what,
        typed: Object.entries(readDraft<Record<string, string>>(person, what)),
      }))
      .filter((found) => found.typed.length > 0);
  });
  if (!lost.length) return null;
  return (
    <Sheet aria-label="Typed but not recorded">
      {lost.map(({ step, what, typed }) => {
        const record = bench.records.find((r) => r.step === step.ref);
        const who = record?.by ?? "somebody else";
        return (
          <CareNote
            key={what}
            title={`“${step.title}” was recorded by ${who} while you were at it`}
          >
            {record && <div>Recorded: {record.seen.map((s) => s.said).join("; ")}</div>}
            <div>
              You had typed:{" "}
              {typed.map(([i, value]) => `${step.asked[Number(i)]?.ask ?? ""} ${value}`).join("; ")}
            </div>
            <Soft>Yours was not recorded. If it matters, open the step again and record it.</Soft>
            <Line>
              <Button
                onPress={() => {
                  dropDraft(person, what);
                  setDropped((n) => n + 1);
                }}
              >
                Put mine aside
              </Button>
            </Line>
          </CareNote>
        );
      })}
    </Sheet>
  );
}
