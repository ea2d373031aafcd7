import { useEffect, useRef } from "react";
import styled from "styled-components";
import { useAttention } from "../kit/arrival";
import { Sheet } from "../kit/page";
import { STAGES } from "./stages";

/** Where a key belongs to what has the focus: what is typed in, chosen from, or laid over. */
const IN_PLAY = [
  "input, textarea, select, [contenteditable=true]",
  "[role=radiogroup], [role=listbox], [role=menu], [role=slider], [role=spinbutton]",
  "[role=combobox], [role=dialog], [role=alertdialog]",
].join();

/** The name of a press: the key, with "mod+" before it where Control or Command is held. */
export function keyName(event: KeyboardEvent): string {
  const isMod = event.ctrlKey || event.metaKey;
  return `${isMod ? "mod+" : ""}${event.key.length === 1 ? event.key.toLowerCase() : event.key}`;
}

/** Keys that work wherever nothing is being typed or chosen. */
export function useKeys(keys: Record<string, () => void>) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      const at = event.target as HTMLElement | null;
      if (event.altKey || event.defaultPrevented || at?.closest(IN_PLAY)) return;
      const act = latest.current[keyName(event)];
      if (!act) return;
      event.preventDefault(); // what a key opens must not be typed into
      act();
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
  @media (max-width: 1100px) {
    grid-template-columns: repeat(2, auto 1fr);
  }
`;

export function KeyList() {
  const lines: [string, string][] = [
    ...STAGES.map((s, i): [string, string] => [String(i + 1), s.name]),
    ["y", "Yard"],
    ["/", "Search"],
    ["n", "Fold or unfold the notebook"],
    ["Ctrl Z", "Undo the last change"],
    ["?", "Show or hide this list"],
  ];
  return (
    <Sheet aria-label="Keys">
      <h2 ref={useAttention()} tabIndex={-1}>
        Keys, while nothing is being typed or chosen
      </h2>
      <Pairs>
        {lines.map(([key, what]) => [
          <dt key={key}>{key}</dt>,
          <dd key={`${key} what`}>{what}</dd>,
        ])}
      </Pairs>
    </Sheet>
  );
}
