import type { ReactNode } from "react";
import { Ground, Main, Tab } from "../../app/place";
import { TopBar } from "../../app/TopBar";

/** The frame of the fleet's pages. */
export function Frame({ children }: { children: ReactNode }) {
  return (
    <Ground>
      <TopBar>
        <Tab to="/" end>
          Yard
        </Tab>
        <Tab to="/fleet" end>
          Fleet
        </Tab>
        <Tab to="/fleet/trust">What to trust</Tab>
      </TopBar>
      <Main>{children}</Main>
    </Ground>
  );
}
