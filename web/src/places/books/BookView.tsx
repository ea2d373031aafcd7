import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { bookQuery } from "../../api/bookQueries";
import type { Schemas } from "../../api/client";
import {
  Big,
  CareNote,
  Columns,
  Sheet,
  Soft,
  Stack,
  StageHead,
  StopNote,
  Waiting,
} from "../../kit/page";
import { Checks } from "./Checks";

/** A book laid open: does it hold, what it says, and where each figure stands in the file. */
export function BookView() {
  const id = Number(useParams().book);
  const book = useQuery(bookQuery(id));
  const b = book.data;
  if (!b) return <Waiting error={book.error} what="the engine book" />;
  const faults = b.checks.filter((c) => !c.holds);
  const chains = b.facts.filter((f) => f.kind === "chain");
  return (
    <>
      <StageHead title={b.name}>
        <Soft>
          {b.kind} · revision {b.revision}
        </Soft>
      </StageHead>
      {faults.length > 0 && (
        <StopNote title={`The book has ${faults.length} faults`}>
          {faults.map((f) => (
            <div key={f.path + f.found}>
              {f.path}: {f.found}, expected {f.expected}
            </div>
          ))}
        </StopNote>
      )}
      <Columns $of="minmax(0, 1fr) minmax(0, 1fr) minmax(0, 1fr)">
        <Sheet>
          <h2>Service position</h2>
          <Big>{b.positions[0]?.crank_deg}°</Big>
          <p>{b.service}</p>
          {b.positions.slice(1).map((p) => (
            <div key={p.name}>
              <strong>
                {p.name} at {p.crank_deg}°
              </strong>
              {p.tool && <Soft as="span"> with {p.tool}</Soft>}
              <div>{p.text}</div>
            </div>
          ))}
        </Sheet>
        <Sheet>
          <h2>Chains</h2>
          {chains.map((c) => (
            <div key={c.part}>
              <strong>{c.name}</strong>
              {c.facts.map((f) => (
                <div key={f.label}>
                  <Soft as="span">{f.label}: </Soft>
                  {f.value}
                </div>
              ))}
            </div>
          ))}
          <div>
            All marks agree again after <strong>{b.turns_for_all}</strong> crank turns.
          </div>
        </Sheet>
        <Sheet>
          <h2>Valves and pistons</h2>
          <p>{b.clearance}</p>
          <Link to={`/books/${id}/touch`}>Touch map, jumps and holding</Link>
          <h2>Limits</h2>
          {b.limits.map((f) => (
            <div key={f.label}>
              <Soft as="span">{f.label}: </Soft>
              {f.value}
            </div>
          ))}
          <Soft>
            {b.components} components, {b.operations} operations.
          </Soft>
          <Soft>{b.notice}</Soft>
        </Sheet>
      </Columns>
      <Columns $of="minmax(0, 1fr) minmax(0, 1fr)">
        <Marks marks={b.marks.filter((m) => m.is_timing)} title="Timing marks" />
        <Stack>
          <CareNote title="Not timing marks">
            {b.marks
              .filter((m) => !m.is_timing)
              .map((m) => (
                <div key={m.name}>
                  <strong>{m.name}</strong>: {m.purpose}
                </div>
              ))}
          </CareNote>
          <Sheet>
            <h2>Tools</h2>
            {b.tools.map((t) => (
              <div key={t.name}>
                <strong>{t.name}</strong>: {t.text}
                {t.workshop_method && <Soft as="div">Without it: {t.workshop_method}</Soft>}
              </div>
            ))}
          </Sheet>
        </Stack>
      </Columns>
      <Sheet>
        <h2>
          Worked out from the book: {b.checks.length - faults.length} of {b.checks.length} checks
          hold
        </h2>
        <Checks checks={b.checks} />
      </Sheet>
    </>
  );
}

function Marks({ marks, title }: { marks: Schemas["MarkLine"][]; title: string }) {
  return (
    <Sheet>
      <h2>{title}</h2>
      {marks.map((m) => (
        <div key={m.name}>
          <strong>{m.name}</strong> at {m.clock}
          {m.at_deg ? `, crank ${m.at_deg}°` : ""} meets {m.meets}
          <Soft as="div">
            may miss {m.miss_before_deg}° before, {m.miss_after_deg}° after the tensioner is let go
          </Soft>
        </div>
      ))}
    </Sheet>
  );
}
