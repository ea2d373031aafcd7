import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { keysQuery, meQuery } from "../../api/queries";
import { Ground, Main, Tab } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Button, Field } from "../../kit/controls";
import { Line, Sheet, Soft, StageHead, TroubleNote, Waiting } from "../../kit/page";
import { clock } from "../../kit/words";

const Key = styled.code`
  font-family: var(--mono, monospace);
  font-size: var(--body);
  letter-spacing: 0.03em;
  overflow-wrap: anywhere;
  display: block;
`;
const Known = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Depot = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 4px 14px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 10px 0;
`;

/** A key as it can be read out and compared. */
function inFours(key: string) {
  return key.replace(/(.{4})(?=.)/g, "$1 ");
}

/**
 * Whose signatures count here: this depot's own key, and those of other depots that a lead has
 * entered.
 */
export function Keys() {
  const keys = useQuery(keysQuery);
  const me = useQuery(meQuery);
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [depot, setDepot] = useState("");
  const [key, setKey] = useState("");
  const isLead = me.data?.role === "lead";

  async function go(send: Promise<Schemas["Keys"]>) {
    try {
      queries.setQueryData(keysQuery.queryKey, await send);
      setTrouble(null);
      return true;
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
      return false;
    }
  }
  async function onAdd() {
    const body = { public_key: key.replace(/\s/g, ""), depot: depot.trim() };
    if (await go(take(client.POST("/api/keys", { body })))) {
      setDepot("");
      setKey("");
    }
  }
  return (
    <Ground>
      <TopBar>
        <Tab to="/" end>
          Yard
        </Tab>
      </TopBar>
      <Main>
        <StageHead title="Seals">
          <Soft>
            A signed job from another depot counts as signed here when its key is on this page.
          </Soft>
        </StageHead>
        {!keys.data ? (
          <Waiting error={keys.error} what="the keys" />
        ) : (
          <>
            <Sheet>
              <h2>{keys.data.depot}</h2>
              {keys.data.own_key ? (
                <Key>{inFours(keys.data.own_key)}</Key>
              ) : (
                <Soft>This depot has no key: nothing can be signed.</Soft>
              )}
              <Soft>
                The public key of this depot. Give it to others over a way you trust; read it out to
                compare.
              </Soft>
            </Sheet>
            <Sheet>
              <h2>Depots believed here</h2>
              {keys.data.trusted.length === 0 && (
                <Soft>None. A job that another depot signed comes in as an open job.</Soft>
              )}
              <Known>
                {keys.data.trusted.map((k) => (
                  <Depot key={k.public_key}>
                    <div>
                      <strong>{k.depot}</strong>
                      <Key>{inFours(k.public_key)}</Key>
                      <Soft>
                        entered by {k.added_by}, {clock(k.added_at)}
                      </Soft>
                    </div>
                    {isLead && (
                      <Button
                        look="stop"
                        aria-label={`Believe no longer: ${k.depot}`}
                        onPress={() =>
                          void go(
                            take(
                              client.DELETE("/api/keys/{public_key}", {
                                params: { path: { public_key: k.public_key } },
                              }),
                            ),
                          )
                        }
                      >
                        Believe no longer
                      </Button>
                    )}
                  </Depot>
                ))}
              </Known>
            </Sheet>
            <TroubleNote trouble={trouble} />
            {isLead ? (
              <Sheet>
                <h2>Believe another depot</h2>
                <Field label="Its name, as you know it" value={depot} onChange={setDepot} />
                <Field
                  label="Its public key"
                  value={key}
                  onChange={setKey}
                  hint="64 figures and letters a to f"
                />
                <Line>
                  <Button
                    look="main"
                    isDisabled={depot.trim().length < 2 || !/^[0-9a-fA-F\s]{64,}$/.test(key)}
                    onPress={() => void onAdd()}
                  >
                    Believe its seals
                  </Button>
                </Line>
              </Sheet>
            ) : (
              <Soft>A lead enters the keys of other depots.</Soft>
            )}
          </>
        )}
      </Main>
    </Ground>
  );
}
