import { Link } from "react-router";
import styled from "styled-components";
import type { Schemas } from "../../api/client";
import { Sheet, Soft } from "../../kit/page";
import { clock } from "../../kit/words";

const Rows = styled.ul`list-style: none; margin: 0; padding: 0;`;
const Row = styled.li`border-top: 1px solid var(--line); & a { display: grid; grid-template-columns: 52px minmax(0, 1fr) auto; gap: 4px 12px; padding: 10px 0; min-height: 48px; align-items: center; text-decoration: none; color: inherit; } & a:hover strong { text-decoration: underline; }`;

/** Captures kept, newest first; each opens for a close look. */
export function CaptureList({ id, captures }: { id: number; captures: Schemas["CaptureOut"][] }) {
  return (
    <Sheet>
      <h2>Captures</h2>
      <Rows>
        {[...captures].reverse().map((c) => (
          <Row key={c.id}>
            <Link to={`/jobs/${id}/readings/capture/${c.id}`}>
              <span>C{c.id}</span>
              <span>
                <strong>{c.seconds.toFixed(1)} s at {Math.round(c.rpm)} rpm</strong> from {c.source}{c.phase === "after" ? ", after the repair" : ""}
                <Soft>{c.taken_by}, {clock(c.taken_at)} · {c.quality.length === 0 ? "clean" : `${c.quality.length} ${c.quality.length === 1 ? "thing" : "things"} to know`}</Soft>
              </span>
              <span style={{ color: "var(--blue)" }}>Look closely</span>
            </Link>
          </Row>
        ))}
      </Rows>
    </Sheet>
  );
}
