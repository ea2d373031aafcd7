import { useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import styled from "styled-components";
import { client, rememberCsrf, take, Trouble, type Schemas } from "../api/client";
import { Mark } from "../drawing/chain/Mark";
import { knownHere, remember } from "../kit/knownHere";
import { Turn } from "../drawing/turn/turn";
import { TurningDrive } from "../drawing/turn/TurningDrive";
import { ServerForm } from "../kit/form";
import { Button, Field } from "../kit/controls";
import { Sheet, Soft } from "../kit/page";
import { ByPin } from "./ByPin";
import face from "../theme/face.json";

const Ground = styled.main`
  min-height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(320px, 480px);
  @media (max-width: 900px) {
    grid-template-columns: 1fr;
    grid-template-rows: minmax(0, 34vh) auto;
  }
`;
const Wall = styled.div`
  position: relative;
  height: 100vh;
  padding: 24px;
  @media (max-width: 900px) {
    height: auto;
    padding: 12px;
  }
`;
const Desk = styled.div`
  display: grid;
  align-content: center;
  gap: 22px;
  padding: 32px;
  background: var(--sheet);
`;
const Brand = styled.strong`
  display: flex;
  align-items: center;
  gap: 12px;
  font-size: var(--head);
  color: var(--enamel);
`;
const FACE = face as Schemas["DrivePicture"];

/** The way in, beside an engine's face; or in an empty depot the making of its first lead. */
export function SignIn({ isEmpty }: { isEmpty: boolean }) {
  const turn = useMemo(() => new Turn(FACE.service_deg), []);
  return (
    <Ground>
      <Wall>
        <TurningDrive
          picture={FACE}
          lobes={[]}
          plane="main"
          turn={turn}
          hasLabels={false}
          label="An engine to turn by dragging"
        />
      </Wall>
      <Desk>
        <Brand>
          <Mark height={30} />
          Flaneur
        </Brand>
        {isEmpty ? <FirstLead /> : <Known />}
      </Desk>
    </Ground>
  );
}

function Caution() {
  return (
    <Soft>
      The maker&apos;s service information, local codes and a licensed technician&apos;s judgement
      come first. Flaneur never replaces them.
    </Soft>
  );
}

/** Lets somebody in, and keeps what went wrong. */
function useEntry() {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  async function enter(send: Promise<Schemas["Me"]>) {
    setTrouble(null);
    try {
      const me = await send;
      if (me.login && me.name) remember(me.login, me.name, me.has_pin);
      rememberCsrf(me.csrf);
      queries.setQueryData(["me"], me);
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  return { enter, trouble, forget: () => setTrouble(null) };
}

function Known() {
  const { enter, trouble, forget } = useEntry();
  const [known] = useState(knownHere);
  const [byPassword, setByPassword] = useState(!known.length);
  const [login, setLogin] = useState("");
  const [password, setPassword] = useState("");
  function onSubmit() {
    void enter(take(client.POST("/api/session", { body: { login: login.trim(), password } })));
  }
  function onWay(isPassword: boolean) {
    forget();
    setByPassword(isPassword);
  }
  if (!byPassword)
    return (
      <>
        <ByPin known={known} trouble={trouble} enter={enter} onPassword={() => onWay(true)} />
        <Caution />
      </>
    );
  return (
    <Sheet>
      <h1>Sign in</h1>
      <ServerForm trouble={trouble} onSubmit={onSubmit}>
        <Field label="Login" value={login} onChange={setLogin} autoComplete="username" autoFocus />
        <Field
          label="Password"
          value={password}
          onChange={setPassword}
          type="password"
          autoComplete="current-password"
        />
        <Button look="main" type="submit">
          Sign in
        </Button>
        {known.length > 0 && <Button onPress={() => onWay(false)}>By PIN</Button>}
      </ServerForm>
      <Caution />
    </Sheet>
  );
}

function FirstLead() {
  const { enter, trouble } = useEntry();
  const [said, setSaid] = useState({ code: "", name: "", login: "", password: "" });
  const put = (part: Partial<typeof said>) => setSaid({ ...said, ...part });
  function onSubmit() {
    const body = { ...said, name: said.name.trim(), login: said.login.trim() };
    void enter(take(client.POST("/api/session/first", { body })));
  }
  return (
    <Sheet>
      <h1>The first lead</h1>
      <Soft>Nobody has an account here yet. The lead made now makes all the others.</Soft>
      <ServerForm trouble={trouble} onSubmit={onSubmit}>
        <Field
          name="code"
          label="One-time code"
          value={said.code}
          onChange={(code) => put({ code })}
          hint="It stands on the console where the server was started."
          autoFocus
        />
        <Field
          name="name"
          label="Your name, as the record writes it"
          value={said.name}
          onChange={(name) => put({ name })}
          autoComplete="name"
        />
        <Field
          name="login"
          label="Login"
          value={said.login}
          onChange={(login) => put({ login: login.toLowerCase() })}
          hint="letters a to z, figures, dot, dash; at least two"
          autoComplete="username"
        />
        <Field
          name="password"
          label="Password"
          value={said.password}
          onChange={(password) => put({ password })}
          type="password"
          autoComplete="new-password"
          hint="10 letters or more. Three or four words that do not belong together do well."
        />
        <Button look="main" type="submit" isDisabled={Object.values(said).some((v) => !v.trim())}>
          Make the first lead
        </Button>
      </ServerForm>
      <Caution />
    </Sheet>
  );
}
