import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, NavLink } from "react-router";
import styled from "styled-components";
import { booksQuery } from "../../api/bookQueries";
import { client, take, Trouble } from "../../api/client";
import { meQuery } from "../../api/queries";
import { Ground, Main } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Button } from "../../kit/controls";
import { Soft, StageHead, TroubleNote, Waiting } from "../../kit/page";
import { Examine } from "./Examine";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 380px), 1fr));
  gap: 10px;
`;
const Card = styled(Link)`
  display: grid;
  gap: 6px;
  padding: 14px;
  background: var(--sheet);
  border: 1px solid var(--line);
  color: var(--ink);
  text-decoration: none;
  height: 100%;
  align-content: start;
  &:hover {
    border-color: var(--enamel);
  }
`;

/** Every engine the depot has a book of, and a place to check a book being written. */
export function Books() {
  const books = useQuery(booksQuery);
  return (
    <Ground>
      <TopBar>
        <NavLink to="/" style={{ alignSelf: "center", padding: "12px" }}>
          Yard
        </NavLink>
      </TopBar>
      <Main>
        <StageHead title="Engine books">
          <Soft>
            One file an engine: geometry, counts, marks, clearances, steps. Choose one to turn it.
          </Soft>
        </StageHead>
        {!books.data ? (
          <Waiting error={books.error} what="the engine books" />
        ) : (
          <List>
            {books.data.books.map((b) => (
              <li key={b.id}>
                <Card to={`/books/${b.id}/face`}>
                  <strong style={{ fontSize: 19 }}>{b.name}</strong>
                  <span>{b.kind}</span>
                  <Soft as="span">
                    {b.chains} {b.chains === 1 ? "chain" : "chains"}, {b.links} links ·{" "}
                    {b.phasers
                      ? `${b.phasers} ${b.phasers === 1 ? "phaser" : "phasers"}`
                      : "no phasers"}{" "}
                    · revision {b.revision}
                  </Soft>
                  {!b.knows_clearance && (
                    <span style={{ color: "var(--ochre)" }}>
                      ▲ clearance unknown: treat as touching
                    </span>
                  )}
                  {b.is_adopted ? (
                    <Soft as="span">
                      {b.units.length ? b.units.join(", ") : "No unit carries it."}
                    </Soft>
                  ) : (
                    <span style={{ color: "var(--ochre)" }}>
                      ▲ came with a job file, brought by {b.came_by}; serves that job only
                    </span>
                  )}
                </Card>
                {!b.is_adopted && <Adopt book={b.id} name={b.name} />}
              </li>
            ))}
          </List>
        )}
        <Examine />
      </Main>
    </Ground>
  );
}

/** A lead takes a book that came with a job file into use, after reading what its checks found. */
function Adopt({ book, name }: { book: number; name: string }) {
  const queries = useQueryClient();
  const me = useQuery(meQuery);
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
  if (me.data?.role !== "lead") return <Soft>A lead reads its checks and decides.</Soft>;
  return (
    <>
      <Button onPress={() => void onAdopt()} aria-label={`Use it for new jobs: ${name}`}>
        Use it for new jobs
      </Button>
      <TroubleNote trouble={trouble} />
    </>
  );
}
