import styled from "styled-components";
import { useWait } from "../api/waiting";

const Strip = styled.div`
  position: fixed;
  left: 50%;
  bottom: 14px;
  transform: translateX(-50%);
  z-index: 20;
  width: min(640px, calc(100vw - 28px));
  padding: 10px 16px;
  border: 2px solid var(--ochre);
  background: var(--ochre-tint);
  color: var(--ink);
  &:empty {
    display: none;
  }
`;
const WORDS = {
  late: "Flaneur has not answered for 3 s.",
  busy: "Flaneur is still at work on it.",
  silent: "Flaneur does not answer.",
};

/** What is safe while an answer is overdue: told on every page, by itself, and gone with it. */
export function Overdue() {
  const wait = useWait();
  return (
    <Strip role="status">
      {wait !== "none" && (
        <>
          <strong>▲ {WORDS[wait]}</strong> What you typed stays here. Nothing counts as recorded
          until the notebook shows it.
        </>
      )}
    </Strip>
  );
}
