import { useQuery } from "@tanstack/react-query";
import { NavLink, Outlet, useParams } from "react-router";
import styled from "styled-components";
import { bookQuery } from "../../api/bookQueries";
import { TopBar } from "../../app/TopBar";
import { Soft } from "../../kit/page";

export const Ground = styled.div`display: grid; grid-template-rows: auto minmax(0, 1fr); height: 100%; @media print { display: block; height: auto; }`;
export const Main = styled.main`
  position: relative; padding: 14px 18px; overflow-y: auto; display: grid; gap: 12px; align-content: start; min-width: 0;
  @media print { overflow: visible; padding: 0; }
`;
const Tabs = styled.nav`display: flex; flex-wrap: wrap; min-width: 0;`;
const Tab = styled(NavLink)`
  display: flex; align-items: center; padding: 0 11px; text-decoration: none; color: var(--soft); white-space: nowrap; min-height: 48px; font-size: 15px;
  border-bottom: 4px solid transparent; margin-bottom: -2px;
  &.active { color: var(--ink); border-color: var(--enamel); font-weight: 700; }
`;
const VIEWS = [["", "Book"], ["face", "Drive face"], ["counts", "Link counts"], ["touch", "Touch map"], ["sheet", "Position sheet"]] as const;

/** One engine book: its views along the top. */
export function BookShell() {
  const id = useParams().book ?? "";
  const book = useQuery(bookQuery(Number(id)));
  return (
    <Ground>
      <TopBar>
        <Tabs aria-label="Views of the engine book">
          <Tab to="/books" end>All books</Tab>
          {VIEWS.map(([path, name]) => <Tab key={path} to={`/books/${id}${path && `/${path}`}`} end>{name}</Tab>)}
          <Soft as="span" style={{ alignSelf: "center", paddingLeft: 10 }}>{book.data?.name}</Soft>
        </Tabs>
      </TopBar>
      <Main><Outlet /></Main>
    </Ground>
  );
}
