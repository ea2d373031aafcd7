import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { peopleQuery } from "../../api/queries";
import { Ground, Main, Tab } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Button, Choice, Field } from "../../kit/controls";
import { ServerForm } from "../../kit/form";
import { Columns, Line, Sheet, Soft, Stack, StageHead, TroubleNote, Waiting } from "../../kit/page";
import { clock } from "../../kit/words";

type Account = Schemas["PersonLine"];
type Role = Schemas["Role"];

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
`;
const Row = styled.li<{ $isOff: boolean }>`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 6px 14px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 10px 0;
  ${({ $isOff }) => $isOff && "strong { text-decoration: line-through; }"}
  @media (max-width: 700px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Told = styled.output`
  display: grid;
  gap: 4px;
  padding: 14px 18px;
  border: 2px solid var(--enamel);
  background: var(--enamel-tint);
`;
const Secret = styled.code`
  font-family: var(--typed);
  font-size: var(--head);
  letter-spacing: 0.06em;
`;
const ROLES = [
  { value: "technician", label: "Technician" },
  { value: "lead", label: "Lead" },
] as const;
const ACTS: Record<Schemas["AccountAct"], string> = {
  added: "account made",
  role_given: "is now",
  deactivated: "deactivated",
  reactivated: "reactivated",
  password_reset: "one-time password given",
  password_changed: "chose a new password",
  pin_set: "set a PIN",
  pin_dropped: "has no PIN any longer",
};

function stateOf(one: Account): string {
  if (!one.is_active) return "deactivated; the record keeps the name";
  if (one.is_password_due) return "has not yet chosen a password";
  return one.last_seen ? `last here ${clock(one.last_seen)}` : "not been here yet";
}

/** Who has an account: a lead makes, changes and ends accounts here. */
export function People() {
  const people = useQuery(peopleQuery);
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const [asked, setAsked] = useState<number | null>(null);
  const [isBusy, setBusy] = useState(false);
  const [isNew, setNew] = useState(false);

  async function go(send: Promise<Schemas["People"]>, isOfNew = false) {
    setBusy(true);
    setNew(isOfNew);
    try {
      queries.setQueryData(peopleQuery.queryKey, await send);
      setTrouble(null);
      setAsked(null);
      return true;
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
      return false;
    } finally {
      setBusy(false);
    }
  }
  const at = (one: Account) => ({ params: { path: { user_id: one.id } } });
  const told = people.data?.one_time_password;
  return (
    <Ground>
      <TopBar>
        <Tab to="/" end>
          Yard
        </Tab>
        <Tab to="/people">People</Tab>
      </TopBar>
      <Main>
        <StageHead title="People">
          <Soft>Who may sign in. Nobody is deleted: what they did stands under their name.</Soft>
        </StageHead>
        <TroubleNote trouble={isNew ? null : trouble} />
        {told && (
          <Told aria-label="One-time password">
            <span>One-time password of {people.data?.one_time_of}</span>
            <Secret>{told}</Secret>
            <Soft as="span">
              Hand it over now: it is shown this once. At the first sign-in it must be replaced.
            </Soft>
          </Told>
        )}
        {!people.data ? (
          <Waiting error={people.error} what="the people" />
        ) : (
          <Columns $of="minmax(0, 3fr) minmax(0, 2fr)">
            <Sheet>
              <h2>Accounts</h2>
              <List>
                {people.data.people.map((one) => (
                  <Row key={one.id} $isOff={!one.is_active}>
                    <div>
                      <strong>{one.name}</strong> {one.is_me && <Soft as="span">you</Soft>}
                      <Soft>
                        {one.login} · {one.role} · {stateOf(one)}
                      </Soft>
                    </div>
                    {asked === one.id ? (
                      <Line>
                        <Button
                          look="stop"
                          isDisabled={isBusy}
                          onPress={() =>
                            void go(
                              take(
                                client.POST("/api/people/{user_id}/deactivate", {
                                  ...at(one),
                                  body: {},
                                }),
                              ),
                            )
                          }
                        >
                          Yes, end {one.name.split(" ")[0]}’s access
                        </Button>
                        <Button onPress={() => setAsked(null)}>Keep</Button>
                      </Line>
                    ) : (
                      <Acts
                        one={one}
                        isBusy={isBusy}
                        onRole={(role) =>
                          void go(
                            take(
                              client.PUT("/api/people/{user_id}/role", {
                                ...at(one),
                                body: { role },
                              }),
                            ),
                          )
                        }
                        onReset={() =>
                          void go(
                            take(
                              client.POST("/api/people/{user_id}/reset", { ...at(one), body: {} }),
                            ),
                          )
                        }
                        onEnd={() => setAsked(one.id)}
                        onAgain={() =>
                          void go(
                            take(
                              client.POST("/api/people/{user_id}/reactivate", {
                                ...at(one),
                                body: {},
                              }),
                            ),
                          )
                        }
                      />
                    )}
                  </Row>
                ))}
              </List>
            </Sheet>
            <Stack>
              <NewAccount
                isBusy={isBusy}
                trouble={isNew ? trouble : null}
                onAdd={(body) => go(take(client.POST("/api/people", { body })), true)}
              />
              <Lately events={people.data.events} />
            </Stack>
          </Columns>
        )}
      </Main>
    </Ground>
  );
}

interface ActsProps {
  one: Account;
  isBusy: boolean;
  onRole: (role: Role) => void;
  onReset: () => void;
  onEnd: () => void;
  onAgain: () => void;
}

function Acts({ one, isBusy, onRole, onReset, onEnd, onAgain }: ActsProps) {
  if (!one.is_active)
    return (
      <Button isDisabled={isBusy} onPress={onAgain} aria-label={`Reactivate ${one.name}`}>
        Reactivate
      </Button>
    );
  if (one.is_only_lead) return <Soft>the only lead</Soft>;
  const other: Role = one.role === "lead" ? "technician" : "lead";
  return (
    <Line>
      <Button
        isDisabled={isBusy}
        onPress={() => onRole(other)}
        aria-label={`Make ${other}: ${one.name}`}
      >
        Make {other}
      </Button>
      <Button isDisabled={isBusy} onPress={onReset} aria-label={`New password: ${one.name}`}>
        New password
      </Button>
      <Button look="stop" onPress={onEnd} aria-label={`Deactivate ${one.name}`}>
        Deactivate
      </Button>
    </Line>
  );
}

function NewAccount({
  isBusy,
  trouble,
  onAdd,
}: {
  isBusy: boolean;
  trouble: Trouble | null;
  onAdd: (body: Schemas["PersonIn"]) => Promise<boolean>;
}) {
  const [name, setName] = useState("");
  const [login, setLogin] = useState("");
  const [role, setRole] = useState<Role>("technician");
  const isWhole = name.trim().length > 1 && login.trim().length > 1;
  async function onPress() {
    if (!(await onAdd({ name: name.trim(), login: login.trim(), role }))) return;
    setName("");
    setLogin("");
  }
  return (
    <Sheet>
      <h2>Somebody new</h2>
      <ServerForm
        trouble={trouble}
        onSubmit={() => {
          if (!isBusy && isWhole) void onPress();
        }}
      >
        <Field name="name" label="Name, as the record writes it" value={name} onChange={setName} />
        <Field
          name="login"
          label="Login"
          value={login}
          onChange={(text) => setLogin(text.toLowerCase())}
          hint="letters a to z, figures, dot, dash; at least two"
        />
        <Choice label="May be" value={role} onChange={setRole} options={ROLES} />
        <Line>
          <Button look="main" type="submit" isDisabled={isBusy || !isWhole}>
            Make the account
          </Button>
        </Line>
      </ServerForm>
    </Sheet>
  );
}

function Lately({ events }: { events: Schemas["EventLine"][] }) {
  return (
    <Sheet>
      <h2>Lately</h2>
      {events.length === 0 && <Soft>Nothing was done to an account yet.</Soft>}
      {events.map((e, i) => (
        <Soft key={i}>
          {clock(e.at)} · {e.name}: {ACTS[e.act]}
          {e.act === "role_given" && ` a ${e.role}`}, by {e.by ?? "the command line"}
        </Soft>
      ))}
    </Sheet>
  );
}
