// @vitest-environment jsdom
import { act } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { keyName, useKeys } from "../src/app/keys";

vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
const one = vi.fn();
const undo = vi.fn();
let root: Root;

function Page() {
  useKeys({ "1": one, "mod+z": undo });
  return (
    <>
      <button>press</button>
      <input aria-label="a field" />
      <textarea aria-label="a long field" />
      <div role="radiogroup">
        <input type="radio" aria-label="an answer" />
      </div>
      <div role="dialog">
        <button>within</button>
      </div>
    </>
  );
}

beforeEach(() => {
  const place = document.createElement("div");
  document.body.replaceChildren(place);
  root = createRoot(place);
  act(() => root.render(<Page />));
  vi.clearAllMocks();
});
afterEach(() => act(() => root.unmount()));

function press(where: string, init: KeyboardEventInit) {
  const event = new KeyboardEvent("keydown", { bubbles: true, cancelable: true, ...init });
  document.querySelector(where)?.dispatchEvent(event);
  return event;
}

it("a key works where nothing is typed or chosen", () => {
  const event = press("button", { key: "1" });
  expect(one).toHaveBeenCalledOnce();
  expect(event.defaultPrevented).toBe(true);
});

it.each(["input[aria-label='a field']", "textarea", "[type=radio]", "[role=dialog] button"])(
  "never from %s",
  (where) => {
    press(where, { key: "1" });
    press(where, { key: "z", ctrlKey: true });
    expect(one).not.toHaveBeenCalled();
    expect(undo).not.toHaveBeenCalled();
  },
);

it("what changes the job asks for a chord", () => {
  press("button", { key: "u" });
  press("button", { key: "z" });
  expect(undo).not.toHaveBeenCalled();
  press("button", { key: "Z", metaKey: true });
  expect(undo).toHaveBeenCalledOnce();
  press("button", { key: "1", ctrlKey: true });
  expect(one).not.toHaveBeenCalled();
});

it("names a press", () => {
  expect(keyName(new KeyboardEvent("keydown", { key: "Z", ctrlKey: true }))).toBe("mod+z");
  expect(keyName(new KeyboardEvent("keydown", { key: "Escape" }))).toBe("Escape");
});
