import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Autocomplete, Input, ListBox, ListBoxItem, SearchField } from "react-aria-components";
import { useMatch, useNavigate } from "react-router";
import styled from "styled-components";
import { Trouble, type Schemas } from "../../api/client";
import { jobQuery, searchQuery } from "../../api/queries";
import { Dialog } from "../../kit/Dialog";
import { Soft, TroubleNote } from "../../kit/page";

const Box = styled(Input)`
  width: 100%;
  min-height: 60px;
  padding: 10px 14px;
  font-size: var(--name);
  background: var(--sheet);
  color: var(--ink);
  border: 2px solid var(--enamel);
`;
const Hits = styled(ListBox<Schemas["HitOut"]>)`
  display: grid;
  outline: none;
`;
const Hit = styled(ListBoxItem)`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 14px;
  align-items: center;
  min-height: 56px;
  padding: 6px 14px;
  border-top: 1px solid var(--line);
  cursor: pointer;
  &[data-hovered] {
    text-decoration: underline;
  }
  &&[data-focused] {
    background: var(--enamel-tint);
    box-shadow: inset 6px 0 0 var(--pen);
    outline: none;
  }
`;
/** Where a hit leads; a part of the engine at work is shown in its job. */
function way(hit: Schemas["HitOut"], job: { id: number; book: number } | null): string {
  if (hit.kind === "job")
    return `/jobs/${hit.job}/${hit.stage === "done" ? "handover" : hit.stage}`;
  if (hit.kind !== "part") return `/units?unit=${hit.unit}`;
  return job && job.book === hit.book
    ? `/jobs/${job.id}/engine?part=${hit.part}`
    : `/books/${hit.book}/face?part=${hit.part}`;
}

/** One field over everything: a unit, an engine, a job's number, a part. */
export function Search({ onLeave }: { onLeave: () => void }) {
  const [typed, setTyped] = useState("");
  const navigate = useNavigate();
  const id = Number(useMatch("/jobs/:id/*")?.params.id ?? 0);
  const job = useQuery({ ...jobQuery(id), enabled: id > 0 }).data;
  const at = job ? { id, book: job.book_id } : null;
  const found = useQuery(searchQuery(typed.trim(), at?.book));
  const hits = (typed.trim() && found.data?.hits) || [];
  const keyed = hits.map((hit, i) => ({ ...hit, id: `${i}` }));
  return (
    <Dialog title="Search" isOpen onLeave={onLeave}>
      <Autocomplete inputValue={typed} onInputChange={setTyped}>
        <SearchField aria-label="A unit, an engine, a job number or a part" autoFocus>
          <Box placeholder="A unit, an engine, a job number or a part" />
        </SearchField>
        {found.error instanceof Trouble && <TroubleNote trouble={found.error} />}
        <Hits
          aria-label="Found"
          items={keyed}
          onAction={(key) => {
            const hit = hits[Number(key)];
            if (!hit) return;
            onLeave();
            void navigate(way(hit, at));
          }}
        >
          {(hit) => (
            <Hit textValue={hit.title}>
              <div>
                <strong>{hit.title}</strong>
                <Soft>{hit.detail}</Soft>
              </div>
              <Soft>{hit.kind}</Soft>
            </Hit>
          )}
        </Hits>
        <Soft role="status">
          {!typed.trim()
            ? "Type a piece of it; arrows choose, Enter goes there."
            : found.data && hits.length === 0
              ? `Nothing here is called “${typed.trim()}”.`
              : ""}
        </Soft>
      </Autocomplete>
    </Dialog>
  );
}
