import { useQuery } from "@tanstack/react-query";
import { Outlet, useParams } from "react-router";
import styled from "styled-components";
import { bookQuery } from "../../api/bookQueries";
import { Ground, Main, Tab } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Soft } from "../../kit/page";

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
          <Soft as="span" style={{ alignSelf: "center", paddingLeft: 10 }}>
            {book.data?.name}
          </Soft>
        </Tabs>
      </TopBar>
      <Main>
        <Outlet />
      </Main>
    </Ground>
  );
}
