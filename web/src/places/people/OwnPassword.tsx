import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { client, take, Trouble, type Schemas } from "../../api/client";
import { meQuery } from "../../api/queries";
import { Ground, Main } from "../../app/place";
import { TopBar } from "../../app/TopBar";
import { Button, Field } from "../../kit/controls";
import { ServerForm } from "../../kit/form";
import { Line, Sheet, Soft } from "../../kit/page";
import { OwnPin } from "./OwnPin";

const Narrow = styled.div`
  max-width: 460px;
`;

/** One's own password; when somebody else gave it, this page comes before all others. */
export function OwnPassword({ me }: { me: Schemas["Me"] }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const [again, setAgain] = useState("");
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const isTwice = fresh === again;

  async function onSubmit() {
    try {
      const body = { old, new: fresh };
      const after = await take(client.PUT("/api/session/password", { body }));
      queries.setQueryData(meQuery.queryKey, after);
      void navigate("/");
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  return (
    <Ground>
      <TopBar />
      <Main>
        <Narrow>
          <Sheet>
            <h1>{me.is_password_due ? "Choose your own password" : "Your password"}</h1>
            <Soft>
              {me.is_password_due
                ? "Somebody else gave you the one you came with. Replace it, then all is open."
                : "You stay signed in here, and are signed out everywhere else."}
            </Soft>
            <ServerForm
              trouble={trouble}
              onSubmit={() => {
                if (old && fresh && isTwice) void onSubmit();
              }}
            >
              <Field
                name="old"
                label={me.is_password_due ? "The one-time password" : "The password you have"}
                value={old}
                onChange={setOld}
                type="password"
                autoComplete="current-password"
              />
              <Field
                name="new"
                label="New password"
                value={fresh}
                onChange={setFresh}
                type="password"
                autoComplete="new-password"
                hint="10 letters or more. Three or four words that do not belong together do well."
              />
              <Field
                label="New password once more"
                value={again}
                onChange={setAgain}
                type="password"
                autoComplete="new-password"
                hint={again && !isTwice ? "The two are not alike yet." : undefined}
              />
              <Line>
                <Button look="main" type="submit" isDisabled={!old || !fresh || !isTwice}>
                  Take the new password
                </Button>
                {!me.is_password_due && (
                  <Button onPress={() => void navigate("/")}>Leave it</Button>
                )}
              </Line>
            </ServerForm>
          </Sheet>
          {!me.is_password_due && <OwnPin me={me} />}
        </Narrow>
      </Main>
    </Ground>
  );
}
