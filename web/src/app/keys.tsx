import { useEffect, useRef } from "react";
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
      <dl
        style={{
          display: "grid",
          gridTemplateColumns: "repeat(4, auto 1fr)",
          gap: "4px 12px",
          margin: 0,
        }}
      >
        {lines.map(([key, what]) => [
          <dt key={key} style={{ fontWeight: 700 }}>
            {key}
          </dt>,
          <dd key={`${key} what`} style={{ margin: 0 }}>
            {what}
          </dd>,
        ])}
      </dl>
    </Sheet>
  );
}
