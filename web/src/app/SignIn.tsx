import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { client, rememberCsrf, take, Trouble, type Schemas } from "../api/client";
import { ServerForm } from "../kit/form";
import { Button, Field } from "../kit/controls";
import { Sheet, Soft } from "../kit/page";

const Ground = styled.main`
  min-height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(320px, 440px);
  @media (max-width: 900px) {
    grid-template-columns: 1fr;
  }
`;
const Wall = styled.div`
  background: #2f5d50;
  color: #fff;
  padding: 48px;
  display: grid;
  align-content: space-between;
  gap: 32px;
  overflow: hidden;
  @media (max-width: 900px) {
    display: none;
  }
`;
const Desk = styled.div`
  display: grid;
  align-content: center;
  padding: 32px;
`;
const Mark = styled.strong`
  font-size: 22px;
`;
const Claim = styled.p`
  font-size: 30px;
  line-height: 1.3;
  max-width: 22ch;
`;

/** A plain picture of the work: teeth as ticks, one of them a tooth late. */
function Ticks() {
  return (
    <svg viewBox="0 0 600 150" width="100%" aria-hidden>
      {Array.from({ length: 24 }, (_, i) => (
        <line
          key={i}
          x1={12 + i * 25}
          x2={12 + i * 25}
          y1={i % 6 ? 92 : 74}
          y2={118}
          stroke="#fff"
          strokeOpacity={0.55}
          strokeWidth={2}
        />
      ))}
      <line
        x1={162}
        x2={162}
        y1={20}
        y2={118}
        stroke="#fff"
        strokeWidth={2}
        strokeDasharray="5 5"
      />
      <rect x={204} y={38} width={16} height={16} fill="#F2C230" transform="rotate(45 212 46)" />
      <line x1={162} x2={212} y1={46} y2={46} stroke="#F2C230" strokeWidth={3} />
    </svg>
  );
}

/** The way in: a sign-in, or in an empty depot the making of its first lead. */
export function SignIn({ isEmpty }: { isEmpty: boolean }) {
  return (
    <Ground>
      <Wall>
        <Mark>Flaneur</Mark>
        <div>
          <Ticks />
          <Claim>Is it the chain, the guide or the phaser? Measure, know, mend, prove.</Claim>
        </div>
        <span />
      </Wall>
      <Desk>{isEmpty ? <FirstLead /> : <Known />}</Desk>
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
      rememberCsrf(me.csrf);
      queries.setQueryData(["me"], me);
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  return { enter, trouble };
}

function Known() {
  const { enter, trouble } = useEntry();
  const [login, setLogin] = useState("");
  const [password, setPassword] = useState("");
  function onSubmit() {
    void enter(take(client.POST("/api/session", { body: { login: login.trim(), password } })));
  }
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
