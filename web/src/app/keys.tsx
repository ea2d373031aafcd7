import { useEffect, useRef } from "react";
import styled from "styled-components";
import { Sheet } from "../kit/page";
import { STAGES } from "./stages";

/** Single keys that work wherever nothing is being typed. */
export function useKeys(keys: Record<string, () => void>) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      const isTyping =
        /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) &&
        (target as HTMLInputElement).type !== "radio";
      if (isTyping || event.ctrlKey || event.metaKey || event.altKey) return;
      latest.current[event.key]?.();
    }
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}

const Pairs = styled.dl`
  display: grid;
  grid-template-columns: repeat(4, auto 1fr);
  gap: 4px 12px;
  margin: 0;
  dt {
    font-weight: 700;
  }
  dd {
    margin: 0;
  }
`;

export function KeyList() {
  const lines: [string, string][] = [
    ...STAGES.map((s, i): [string, string] => [String(i + 1), s.name]),
    ["y", "Yard"],
    ["u", "Undo the last change"],
    ["?", "Show or hide this list"],
  ];
  return (
    <Sheet aria-label="Keys">
      <h2>Keys</h2>
      <Pairs>
        {lines.map(([key, what]) => [
          <dt key={key}>{key}</dt>,
          <dd key={`${key} what`}>{what}</dd>,
        ])}
      </Pairs>
    </Sheet>
  );
}
