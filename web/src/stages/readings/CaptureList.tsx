import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { client, take, type Schemas } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button, Field } from "../../kit/controls";
import { Line, Sheet, Soft, TroubleNote } from "../../kit/page";
import { clock } from "../../kit/words";
import { Told } from "../../kit/text";

const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Row = styled.li<{ $gone: boolean }>`
  border-top: 1px solid var(--line);
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 0 12px;
  & > a {
    display: grid;
    grid-template-columns: 52px minmax(0, 1fr) auto;
    gap: 4px 12px;
    padding: 10px 0;
    min-height: 48px;
    align-items: center;
    text-decoration: none;
    color: inherit;
  }
  & a:hover strong {
    text-decoration: underline;
  }
  ${({ $gone }) => $gone && "color: var(--soft); & strong { text-decoration: line-through; }"}
`;
const Why = styled.div`
  grid-column: 1 / -1;
  padding-bottom: 10px;
`;

interface Props {
  id: number;
  captures: Schemas["CaptureOut"][];
  isFixed: boolean;
}

/** Captures kept, newest first; each opens for a close look, and can be taken back as a whole. */
export function CaptureList({ id, captures, isFixed }: Props) {
  const { change, trouble, isBusy } = useChange(id);
  const [asked, setAsked] = useState<number | null>(null);
  const [reason, setReason] = useState("");

  async function onTakeBack(capture: number) {
    const path = { params: { path: { job_id: id, capture_id: capture } } };
    const address = "/api/jobs/{job_id}/captures/{capture_id}/strike";
    const done = await change((version) =>
      take(client.POST(address, { ...path, body: { version, reason } })),
    );
    if (done) {
      setAsked(null);
      setReason("");
    }
  }
  return (
    <Sheet>
      <h2>Captures</h2>
      <TroubleNote trouble={trouble} />
      <Rows>
        {[...captures].reverse().map((c) => (
          <Row key={c.id} $gone={c.struck !== null}>
            <Link to={`/jobs/${id}/readings/capture/${c.id}`}>
              <span>C{c.id}</span>
              <span>
                <strong>
                  {c.seconds.toFixed(1)} s at {Math.round(c.rpm)} rpm
                </strong>{" "}
                from {c.source}
                {c.phase === "after" ? ", after the repair" : ""}
                <Soft>
                  {c.taken_by}, {clock(c.taken_at)} ·{" "}
                  {c.struck !== null ? `taken back: ${c.struck}` : c.quality_verdict}
                </Soft>
              </span>
              <Told as="span" $tone="measured">
                Look closely
              </Told>
            </Link>
            {c.struck === null && !isFixed && (
              <Button
                aria-label={`Take back C${c.id}`}
                aria-expanded={asked === c.id}
                onPress={() => setAsked(asked === c.id ? null : c.id)}
              >
                Take back
              </Button>
            )}
            {asked === c.id && c.struck === null && (
              <Why>
                <Line>
                  <Field
                    label="Take it back because"
                    value={reason}
                    onChange={setReason}
                    autoFocus
                  />
                  <Button
                    look="stop"
                    isDisabled={isBusy || reason.trim().length < 3}
                    onPress={() => void onTakeBack(c.id)}
                  >
                    Take it back
                  </Button>
                </Line>
                <Soft>It and its readings stay readable, and no longer count.</Soft>
              </Why>
            )}
          </Row>
        ))}
      </Rows>
    </Sheet>
  );
}
