import type { Schemas } from "../../api/client";
import { CareNote, Soft, StopNote } from "../../kit/page";
import { late } from "../../kit/words";
import { Ends } from "../../kit/text";

/** What a chain set a tooth wrong would show, looked for where it can be seen. */
export function OffReport({ data }: { data: Schemas["OffFace"] }) {
  const { off, valves } = data;
  const missing = off.marks.filter((m) => m.is_missed);
  const tools = off.tools.filter((t) => t.goes_in !== true);
  return (
    <>
      {valves.touches && (
        <StopNote title="Valves would touch">
          {valves.bent.map((v) => (
            <div key={v}>{v}</div>
          ))}
        </StopNote>
      )}
      {valves.unknown.length > 0 && (
        <CareNote title="Unknown: treat as touching">
          {valves.unknown.map((v) => (
            <div key={v}>{v}</div>
          ))}
        </CareNote>
      )}
      {off.does_not_show && <CareNote title="No signal shows this">{off.does_not_show}</CareNote>}
      <div>
        <h2>Ladder</h2>
        {off.cams.map((c) => (
          <Ends $keeps key={c.cam}>
            <span>{c.name}</span>
            <strong>{Math.abs(c.late_deg) < 0.05 ? "as the book" : late(c.late_deg)}</strong>
          </Ends>
        ))}
      </div>
      <div>
        <h2>Marks</h2>
        {missing.length === 0 && <Soft>No mark misses by more than it may.</Soft>}
        {missing.map((m) => (
          <div key={m.mark}>
            {m.name}: <strong>{m.words}</strong>
          </div>
        ))}
      </div>
      <div>
        <h2>Link count</h2>
        {off.counts.map((c) => (
          <div key={c.start + c.end}>
            {c.start} to {c.end}:{" "}
            {c.found === c.book ? (
              <Soft as="span">{c.found}, as the book</Soft>
            ) : (
              <strong>
                {c.found} instead of {c.book}
              </strong>
            )}
          </div>
        ))}
      </div>
      <div>
        <h2>Tools</h2>
        {tools.length === 0 && <Soft>Every tool still goes in: they cannot show this.</Soft>}
        {tools.map((t) => (
          <div key={t.tool}>
            {t.name}: <strong>{t.words}</strong>
          </div>
        ))}
      </div>
      {valves.touches === false && (
        <Soft>
          {valves.clear.join(" ")} Reserve: {valves.reserve}.
        </Soft>
      )}
    </>
  );
}
