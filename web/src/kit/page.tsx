import type { ReactNode } from "react";
import styled from "styled-components";
import type { Trouble } from "../api/client";
import { useArrival } from "./arrival";
import { Said } from "./text";

/** A part of a page: space and a hairline set it off, no box round it. */
export const Sheet = styled.section`
  padding: 12px 0 10px;
  header + &:not(:first-child) {
    border-top: none;
    padding-top: 0;
  }
  border-top: 1px solid var(--line);
  display: grid;
  gap: 12px;
  align-content: start;
  min-width: 0;
`;
export const Stack = styled.div<{ $gap?: number }>`
  display: grid;
  gap: ${({ $gap }) => $gap ?? 14}px;
  align-content: start;
  min-width: 0;
  &[hidden] {
    display: none;
  }
`;
export const Columns = styled.div<{ $of: string }>`
  display: grid;
  grid-template-columns: ${({ $of }) => $of};
  gap: 14px;
  align-items: start;
  min-width: 0;
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr);
  }
`;
export const Line = styled.div<{ $align?: string; $gap?: string; $keeps?: boolean }>`
  display: flex;
  flex-wrap: ${({ $keeps }) => ($keeps ? "nowrap" : "wrap")};
  gap: ${({ $gap }) => $gap ?? "10px"};
  align-items: ${({ $align }) => $align ?? "end"};
`;
export const Soft = styled.p`
  color: var(--soft);
  font-size: var(--note);
`;
export const Unit = styled.span<{ $size?: number }>`
  font-weight: 400;
  color: var(--soft);
  font-size: ${({ $size }) => ($size ? `${$size}px` : "max(13px, 0.72em)")};
  margin-left: 0.15em;
`;
/** The figure that matters. */
export const Big = styled(Said).attrs(({ $size }) => ({ $size: $size ?? 32 }))`
  line-height: 1.1;
`;

const Stop = styled.div`
  border-left: 6px solid var(--red);
  background: var(--red-tint);
  padding: 10px 14px;
  display: grid;
  gap: 4px;
`;
const Care = styled(Stop)`
  border-color: var(--ochre);
  background: var(--ochre-tint);
`;
const Tag = styled.strong`
  & > :first-child {
    color: var(--red);
  }
  display: inline-flex;
  gap: 8px;
  align-items: center;
`;
const CareTag = styled(Tag)`
  & > :first-child {
    color: var(--ochre);
  }
`;

/** A red-lead notice: something stands in the way. */
export function StopNote({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <Stop role="alert">
      <Tag>
        <span aria-hidden>■</span>
        {title}
      </Tag>
      {children}
    </Stop>
  );
}

export function CareNote({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <Care role="note">
      <CareTag>
        <span aria-hidden>▲</span>
        {title}
      </CareTag>
      {children}
    </Care>
  );
}

/**
 * What went wrong, where it went wrong: what was read, what was expected, what to do, and what
 * others changed.
 */
export function TroubleNote({ trouble }: { trouble: Trouble | null }) {
  if (!trouble) return null;
  const { message, read, expected, advice, changes, faults, request } = trouble.detail;
  return (
    <StopNote title={message}>
      {read && <div>Read: {read}</div>}
      {expected && <div>Expected: {expected}</div>}
      {advice && <div>{advice}</div>}
      {[...faults, ...changes].map((line) => (
        <div key={line}>· {line}</div>
      ))}
      {request && <Soft as="div">Number {request}, for whoever looks into the log.</Soft>}
    </StopNote>
  );
}

const Head = styled.header`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: baseline;
  justify-content: space-between;
`;

/** The head of a page: one who comes to it finds its top, and is told where they are. */
export function StageHead({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <Head>
      <h1 ref={useArrival()} tabIndex={-1}>
        {title}
      </h1>
      {children}
    </Head>
  );
}

/** While something loads, or when it cannot: never an empty screen. */
export function Waiting({ error, what }: { error: Error | null; what: string }) {
  if (error && "detail" in error) return <TroubleNote trouble={error as Trouble} />;
  return <Soft role="status">{error ? error.message : `Fetching ${what} …`}</Soft>;
}
