import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import styled from "styled-components";
import { booksQuery } from "../../api/bookQueries";
import { Ground, Main, Tab } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Soft, StageHead, Waiting } from "../../kit/page";
import { Examine } from "./Examine";
import { Adopt } from "./TakeIn";
import { Said, Told } from "../../kit/text";

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
  padding: 12px 0;
  border-top: 1px solid var(--line);
  color: var(--ink);
  text-decoration: none;
  height: 100%;
  align-content: start;
  &:hover :first-child {
    text-decoration: underline;
  }
`;

/** Every engine the depot has a book of, and a place to check a book being written. */
export function Books() {
  const books = useQuery(booksQuery);
  return (
    <Ground>
      <TopBar>
        <Tab to="/" end>
          Yard
        </Tab>
        <Tab to="/books">Engine books</Tab>
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
            {books.data.books.length === 0 && (
              <Soft as="li">No book yet. Check one below; a lead takes it into the shop.</Soft>
            )}
            {books.data.books.map((b) => (
              <li key={b.id}>
                <Card to={`/books/${b.id}/face`}>
                  <Said $size={19}>{b.name}</Said>
                  <span>{b.kind}</span>
                  <Soft as="span">
                    {b.chains} {b.chains === 1 ? "chain" : "chains"}, {b.links} links ·{" "}
                    {b.phasers
                      ? `${b.phasers} ${b.phasers === 1 ? "phaser" : "phasers"}`
                      : "no phasers"}{" "}
                    · revision {b.revision}
                  </Soft>
                  {!b.knows_clearance && (
                    <Told as="span" $tone="care">
                      ▲ clearance unknown: treat as touching
                    </Told>
                  )}
                  {b.is_adopted ? (
                    <Soft as="span">
                      {b.units.length ? b.units.join(", ") : "No unit carries it."}
                    </Soft>
                  ) : (
                    <Told as="span" $tone="care">
                      ▲ brought by {b.came_by}; serves no new job until a lead says so
                    </Told>
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
