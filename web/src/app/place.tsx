import { NavLink } from "react-router";
import styled from "styled-components";

/** The ground of a place outside a job: the bar on top, the rest scrolls. */
export const Ground = styled.div`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  height: 100%;
  @media print {
    display: block;
    height: auto;
  }
`;
export const Main = styled.main.attrs({ id: "work", tabIndex: -1 })`
  outline: none;
  position: relative;
  padding: 16px 18px;
  overflow-y: auto;
  display: grid;
  gap: 14px;
  align-content: start;
  min-width: 0;
  @media print {
    overflow: visible;
    padding: 0;
  }
`;
/** A tab of the top bar. */
export const Tab = styled(NavLink)`
  display: flex;
  align-items: center;
  gap: 7px;
  padding: 0 11px;
  text-decoration: none;
  color: var(--soft);
  white-space: nowrap;
  min-height: 48px;
  border-bottom: 4px solid transparent;
  margin-bottom: -2px;
  font-size: var(--note);
  &.active {
    color: var(--ink);
    border-color: var(--enamel);
    font-weight: 700;
  }
  small {
    font-size: var(--least);
  }
`;
