import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Suspense, useState, type ReactNode } from "react";
import { Link } from "react-router";
import { Button } from "react-aria-components";
import styled from "styled-components";
import { client, rememberCsrf, take } from "../api/client";
import { meQuery } from "../api/queries";
import { Mark } from "../drawing/chain/Mark";
import { dropAllDrafts } from "../kit/draft";
import { useKeys } from "./keys";
import { page } from "./page";
import { applyTheme, storedTheme, type Theme } from "./theme";

const Bar = styled.header`
  grid-column: 1 / -1;
  display: flex;
  align-items: stretch;
  gap: 6px;
  min-height: 62px;
  padding: 0 14px;
  background: var(--sheet);
  border-bottom: 2px solid var(--enamel);
  @media (max-width: 1000px) {
    flex-wrap: wrap;
    justify-content: end;
  }
`;
const Name = styled(Link)`
  display: flex;
  align-items: center;
  gap: 10px;
  font-weight: 700;
  font-size: 22px;
  color: var(--enamel);
  text-decoration: none;
  padding-right: 18px;
  min-height: 48px;
  @media (max-width: 480px) {
    & > span {
      position: absolute;
      clip-path: inset(50%);
    }
  }
  @media (max-width: 1000px) {
    margin-right: auto;
  }
`;
const Middle = styled.div`
  flex: 1;
  display: flex;
  align-items: stretch;
  min-width: 0;
  @media (max-width: 1000px) {
    order: 9;
    flex: 1 0 100%;
    &:empty {
      display: none;
    }
  }
`;
const Quiet = styled(Button)`
  background: none;
  border: none;
  color: var(--soft);
  cursor: pointer;
  min-width: 48px;
  padding: 0 8px;
  font-size: var(--note);
  &[data-hovered] {
    color: var(--ink);
    text-decoration: underline;
  }
`;

const Who = styled(Link)`
  display: flex;
  align-items: center;
  min-width: 48px;
  font-size: var(--note);
  color: var(--soft);
  padding: 0 8px;
`;

const Search = page(() => import("./search/Search").then((m) => m.Search));

export function TopBar({ children }: { children?: ReactNode }) {
  const me = useQuery(meQuery);
  const queries = useQueryClient();
  const [theme, setTheme] = useState<Theme>(storedTheme);
  const [searches, setSearches] = useState(false);
  useKeys({ "/": () => setSearches(true) });

  function onTheme() {
    const next = theme === "lamp" ? "daylight" : "lamp";
    applyTheme(next);
    setTheme(next);
  }
  async function onSignOut() {
    const gone = await take(client.DELETE("/api/session"));
    dropAllDrafts();
    if ("caches" in window) await caches.delete("answers");
    rememberCsrf(gone.csrf);
    queries.setQueryData(["me"], gone);
    queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "me" });
  }
  return (
    <Bar>
      <Name to="/">
        <Mark />
        <span>Flaneur</span>
      </Name>
      <Middle>{children}</Middle>
      {me.data?.name && !me.data.is_password_due && (
        <Quiet onPress={() => setSearches(true)}>Search</Quiet>
      )}
      {searches && (
        <Suspense>
          <Search onLeave={() => setSearches(false)} />
        </Suspense>
      )}
      <Quiet onPress={onTheme} aria-label={`Theme is ${theme}; change it`}>
        {theme === "lamp" ? "lamp" : "daylight"}
      </Quiet>
      {me.data?.name && (
        <Who to="/password" aria-label={`${me.data.name}: change your password`}>
          {me.data.name.split(" ")[0]}
        </Who>
      )}
      <Quiet onPress={() => void onSignOut()}>Sign out</Quiet>
    </Bar>
  );
}
