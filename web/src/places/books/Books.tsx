import { useQuery } from "@tanstack/react-query";
import { Link, NavLink } from "react-router";
import styled from "styled-components";
import { booksQuery } from "../../api/bookQueries";
import { Ground, Main } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Soft, StageHead, Waiting } from "../../kit/page";
import { Examine } from "./Examine";

const List = styled.ul`list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(min(100%, 380px), 1fr)); gap: 10px;`;
const Card = styled(Link)`
  display: grid; gap: 6px; padding: 14px; background: var(--sheet); border: 1px solid var(--line); color: var(--ink); text-decoration: none; height: 100%; align-content: start;
  &:hover { border-color: var(--enamel); }
`;

/** Every engine the depot has a book of, and a place to check a book being written. */
export function Books() {
  const books = useQuery(booksQuery);
  return (
    <Ground>
      <TopBar><NavLink to="/" style={{ alignSelf: "center", padding: "12px" }}>Yard</NavLink></TopBar>
      <Main>
        <StageHead title="Engine books"><Soft>One file an engine: geometry, counts, marks, clearances, steps. Choose one to turn it.</Soft></StageHead>
        {!books.data ? <Waiting error={books.error} what="the engine books" /> : (
          <List>
            {books.data.books.map((b) => (
              <li key={b.id}>
                <Card to={`/books/${b.id}/face`}>
                  <strong style={{ fontSize: 19 }}>{b.name}</strong>
                  <span>{b.kind}</span>
                  <Soft as="span">{b.chains} {b.chains === 1 ? "chain" : "chains"}, {b.links} links · {b.phasers ? `${b.phasers} ${b.phasers === 1 ? "phaser" : "phasers"}` : "no phasers"} · revision {b.revision}</Soft>
                  {!b.knows_clearance && <span style={{ color: "var(--ochre)" }}>▲ clearance unknown: treat as touching</span>}
                  <Soft as="span">{b.units.length ? b.units.join(", ") : "No unit carries it."}</Soft>
                </Card>
              </li>
            ))}
          </List>
        )}
        <Examine />
      </Main>
    </Ground>
  );
}
