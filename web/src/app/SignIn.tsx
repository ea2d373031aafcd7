import { useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import styled from "styled-components";
import { client, rememberCsrf, take, Trouble } from "../api/client";
import { Button, Field } from "../kit/controls";
import { Sheet, Soft, TroubleNote } from "../kit/page";

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

export function SignIn() {
  const queries = useQueryClient();
  const [login, setLogin] = useState("");
  const [password, setPassword] = useState("");
  const [trouble, setTrouble] = useState<Trouble | null>(null);

  async function onSubmit(event: FormEvent) {
    event.preventDefault();
    try {
      const me = await take(
        client.POST("/api/session", { body: { login: login.trim(), password } }),
      );
      rememberCsrf(me.csrf);
      queries.setQueryData(["me"], me);
    } catch (error) {
      if (error instanceof Trouble) setTrouble(error);
    }
  }
  return (
    <Ground>
      <Wall>
        <strong style={{ fontSize: 22 }}>Flaneur</strong>
        <div>
          <Ticks />
          <Claim>Is it the chain, the guide or the phaser? Measure, know, mend, prove.</Claim>
        </div>
        <span>Saltmere Island Fleet Depot</span>
      </Wall>
      <Desk>
        <Sheet as="form" onSubmit={(e: FormEvent) => void onSubmit(e)}>
          <h1>Sign in</h1>
          <Field
            label="Login"
            value={login}
            onChange={setLogin}
            autoComplete="username"
            autoFocus
          />
          <Field
            label="Password"
            value={password}
            onChange={setPassword}
            type="password"
            autoComplete="current-password"
          />
          <TroubleNote trouble={trouble} />
          <Button look="main" type="submit">
            Sign in
          </Button>
          <Soft>
            The maker&apos;s service information, local codes and a licensed technician&apos;s
            judgement come first. Flaneur never replaces them.
          </Soft>
        </Sheet>
      </Desk>
    </Ground>
  );
}
