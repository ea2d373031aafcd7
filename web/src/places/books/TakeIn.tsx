import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { booksQuery, changesQuery } from "../../api/bookQueries";
import { client, take, Trouble } from "../../api/client";
import { meQuery } from "../../api/queries";
import { Button } from "../../kit/controls";
import { Line, Soft, TroubleNote, Waiting } from "../../kit/page";

const Figures = styled.table`
  border-collapse: collapse;
  width: 100%;
  font-size: var(--note);
  th,
  td {
    text-align: left;
    vertical-align: top;
    padding: 5px 10px 5px 0;
    border-top: 1px solid var(--line);
    overflow-wrap: anywhere;
  }
  th {
    font-weight: 400;
    color: var(--soft);
  }
`;

/** A lead keeps a book that passed its checks; another lead then makes it current. */
export function TakeIn({ text, onKept }: { text: string; onKept: () => void }) {
  const queries = useQueryClient();
  const isLead = useQuery(meQuery).data?.role === "lead";
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [isBusy, setBusy] = useState(false);
  async function onPress() {
    setBusy(true);
    try {
      const kept = await take(client.POST("/api/books", { body: { text } }));
      queries.setQueryData(booksQuery.queryKey, kept);
      onKept();
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
    setBusy(false);
  }
  if (!isLead) return <Soft>A lead takes it into the shop.</Soft>;
  return (
    <>
      <Line>
        <Button look="main" isDisabled={isBusy} onPress={() => void onPress()}>
          {isBusy ? "Being checked once more …" : "Take it into the shop"}
        </Button>
      </Line>
      <Soft>
        The first book of an engine serves at once. A further revision waits until a lead who did
        not take it in has read what it changes, and says so.
      </Soft>
      <TroubleNote trouble={trouble} />
    </>
  );
}

/** What a waiting book changes in figures, and the press that makes it current for new jobs. */
export function Adopt({ book, name }: { book: number; name: string }) {
  const queries = useQueryClient();
  const isLead = useQuery(meQuery).data?.role === "lead";
  const [isOpen, setOpen] = useState(false);
  const changes = useQuery({ ...changesQuery(book), enabled: isOpen });
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  async function onAdopt() {
    try {
      const path = { params: { path: { book_id: book } } };
      queries.setQueryData(
        booksQuery.queryKey,
        await take(client.POST("/api/books/{book_id}/adopt", { ...path, body: {} })),
      );
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  return (
    <>
      <Line>
        <Button onPress={() => setOpen(!isOpen)} aria-label={`What it changes: ${name}`}>
          {isOpen ? "Close" : "What it changes"}
        </Button>
        {isLead && (
          <Button
            look="main"
            onPress={() => void onAdopt()}
            aria-label={`Use it for new jobs: ${name}`}
          >
            Use it for new jobs
          </Button>
        )}
      </Line>
      {!isLead && <Soft>A lead reads its checks and decides.</Soft>}
      <TroubleNote trouble={trouble} />
      {isOpen &&
        (changes.data ? (
          <Changed found={changes.data} />
        ) : (
          <Waiting error={changes.error} what="what it changes" />
        ))}
    </>
  );
}

function Changed({
  found,
}: {
  found: { against: number | null; changes: { where: string; before: string; after: string }[] };
}) {
  if (found.against === null) return <Soft>The first book of its engine here.</Soft>;
  if (!found.changes.length)
    return <Soft>No figure changes against revision {found.against}.</Soft>;
  return (
    <Figures>
      <thead>
        <tr>
          <th>Against revision {found.against}</th>
          <th>was</th>
          <th>becomes</th>
        </tr>
      </thead>
      <tbody>
        {found.changes.map((c) => (
          <tr key={c.where}>
            <td>{c.where}</td>
            <td>{c.before}</td>
            <td>
              <strong>{c.after}</strong>
            </td>
          </tr>
        ))}
      </tbody>
    </Figures>
  );
}
