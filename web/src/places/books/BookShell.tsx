import { useQuery } from "@tanstack/react-query";
import { Outlet, useParams } from "react-router";
import styled from "styled-components";
import { bookQuery } from "../../api/bookQueries";
import { Ground, Main, Tab } from "../../app/place";
import { TopBar } from "../../app/TopBar";

const Tabs = styled.nav`
  display: flex;
  flex-wrap: wrap;
  min-width: 0;
`;
const VIEWS = [
  ["", "Book"],
  ["face", "Drive face"],
  ["counts", "Link counts"],
  ["touch", "Touch map"],
  ["sheet", "Position sheet"],
] as const;

const BookName = styled.span`
  align-self: center;
  padding-left: 10px;
  color: var(--soft);
  font-size: var(--note);
`;

/** One engine book: its views along the top. */
export function BookShell() {
  const id = useParams().book ?? "";
  const book = useQuery(bookQuery(Number(id)));
  return (
    <Ground>
      <TopBar>
        <Tabs aria-label="Views of the engine book">
          <Tab to="/books" end>
            All books
          </Tab>
          {VIEWS.map(([path, name]) => (
            <Tab key={path} to={`/books/${id}${path && `/${path}`}`} end>
              {name}
            </Tab>
          ))}
          <BookName>{book.data?.name}</BookName>
        </Tabs>
      </TopBar>
      <Main>
        <Outlet />
      </Main>
    </Ground>
  );
}
