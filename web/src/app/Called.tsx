import { useEffect, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { Button } from "../kit/Button";
import { forget, ring, useTimers } from "../kit/timers";

const Strip = styled.div`
  position: fixed;
  left: 50%;
  top: 70px;
  transform: translateX(-50%);
  z-index: 20;
  width: min(640px, calc(100vw - 28px));
  padding: 14px 16px;
  border: 3px solid var(--pen);
  background: var(--sheet);
  font-size: var(--bench);
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  &:empty {
    display: none;
  }
`;

/** Timers that are over, called on whatever page one is by then. */
export function Called() {
  const timers = useTimers();
  const [now, setNow] = useState(Date.now);
  const hasTimers = timers.length > 0;
  useEffect(() => {
    if (!hasTimers) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [hasTimers]);
  const over = timers.filter((t) => t.over <= now);
  const called = over.map((t) => t.key).join();
  useEffect(() => {
    if (called) ring();
  }, [called]);
  return (
    <Strip role="alert">
      {over.map((t) => (
        <span key={t.key}>
          <strong>Over: {t.title}.</strong> <Link to={t.to}>{t.unit}</Link>{" "}
          <Button onPress={() => forget(t.key)}>Heard</Button>
        </span>
      ))}
    </Strip>
  );
}
