import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { storesQuery } from "../../api/unitQueries";
import { Ground, Main, Tab } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Button } from "../../kit/controls";
import { Line, StageHead, Waiting } from "../../kit/page";
import { StoreList } from "./StoreList";

/** The shop's lists: stock, orders, suppliers, tools, torque wrenches. */
export function StoresPage() {
  const found = useQuery(storesQuery);
  const [asked, setAsked] = useSearchParams();
  const lists = found.data?.lists ?? [];
  const shown = lists.find((list) => list.kind === asked.get("list")) ?? lists[0];
  return (
    <Ground>
      <TopBar>
        <Tab to="/" end>
          Yard
        </Tab>
        <Tab to="/stores">Stores</Tab>
      </TopBar>
      <Main>
        <StageHead title="Stores" />
        {!shown ? (
          <Waiting error={found.error} what="the lists" />
        ) : (
          <>
            <Line>
              {lists.map((list) => (
                <Button
                  key={list.kind}
                  look={list.kind === shown.kind ? "main" : "plain"}
                  aria-pressed={list.kind === shown.kind}
                  onPress={() => setAsked({ list: list.kind }, { replace: true })}
                >
                  {`${list.name}: ${list.rows.length}`}
                </Button>
              ))}
            </Line>
            <StoreList key={shown.kind} list={shown} />
          </>
        )}
      </Main>
    </Ground>
  );
}
