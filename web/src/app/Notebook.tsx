import styled from "styled-components";
import type { Schemas } from "../api/client";
import { Soft } from "../kit/page";
import { clock } from "../kit/words";
import { Told } from "../kit/text";

const Page = styled.ol`
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  display: grid;
  gap: 10px;
`;
const Entry = styled.li<{ $gone: boolean }>`
  font-size: var(--note);
  line-height: 1.4;
  overflow-wrap: anywhere;
  border-top: 1px solid var(--line);
  padding-top: 8px;
  ${({ $gone }) => $gone && "text-decoration: line-through; color: var(--soft);"}
`;

const OneLine = styled(Told)`
  min-height: 1.5em;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
`;

/** The newest line of a folded notebook: what was recorded last, and that it was. */
export function LastWritten({ entries }: { entries: Schemas["NotebookEntry"][] }) {
  const last = entries[entries.length - 1];
  return (
    <OneLine $tone="soft" $size={15} role="status">
      {last ? `Written last, ${clock(last.at)}, ${last.by}: ${last.words}` : "Nothing written yet."}
    </OneLine>
  );
}

/** The job in sentences, newest first. */
export function Notebook({ entries }: { entries: Schemas["NotebookEntry"][] }) {
  if (!entries.length) return <Soft>Nothing written yet.</Soft>;
  return (
    <Page>
      {[...entries].reverse().map((e) => (
        <Entry key={e.id} $gone={e.is_reversed}>
          <Told $tone="soft" $size={13.5}>
            {clock(e.at)} · {e.by}
          </Told>
          {e.words}
        </Entry>
      ))}
    </Page>
  );
}
