// @vitest-environment jsdom
import { act, useState, type ReactNode } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { OrderTray } from "../src/drawing/OrderTray";
import { Pieces } from "../src/drawing/Pieces";
import { knownHere, remember } from "../src/kit/knownHere";
import { PinPad } from "../src/kit/PinPad";

vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
let root: Root;
beforeEach(() => {
  localStorage.clear();
  const place = document.createElement("div");
  document.body.replaceChildren(place);
  root = createRoot(place);
});
afterEach(() => act(() => root.unmount()));

const draw = (page: ReactNode) => act(() => root.render(page));

describe("who is known on a shared tablet", () => {
  it("offers whoever has a PIN, the last first, and forgets who has none any longer", () => {
    remember("ivo", "Ivo Tarnholt", true);
    remember("pell", "Pell", true);
    remember("sunna", "Sunna Quill", false);
    expect(knownHere().map((p) => p.login)).toEqual(["pell", "ivo"]);
    remember("ivo", "Ivo Tarnholt", true);
    expect(knownHere().map((p) => p.login)).toEqual(["ivo", "pell"]);
    remember("pell", "Pell", false);
    expect(knownHere()).toEqual([{ login: "ivo", name: "Ivo Tarnholt" }]);
  });
  it("offers eight at most, and nobody where what is kept cannot be read", () => {
    for (let i = 0; i < 12; i++) remember(`p${i}`, `Person ${i}`, true);
    expect(knownHere()).toHaveLength(8);
    localStorage.setItem("known here", "{");
    expect(knownHere()).toEqual([]);
    localStorage.setItem("known here", '[{"login": "", "name": "Nobody"}, {}]');
    expect(knownHere()).toEqual([]);
  });
});

describe("the pad of a PIN", () => {
  function Pad() {
    const [pin, setPin] = useState("");
    return (
      <>
        <PinPad value={pin} onChange={setPin} />
        <output>{pin}</output>
      </>
    );
  }
  const pin = () => document.querySelector("output")?.textContent;
  function press(figure: string) {
    const key = [...document.querySelectorAll("button")].find((b) => b.textContent === figure);
    act(() => key?.click());
  }
  function type(value: string) {
    const input = document.querySelector("input");
    const own = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value");
    act(() => {
      own?.set?.call(input, value);
      input?.dispatchEvent(new Event("input", { bubbles: true }));
    });
  }
  it("takes figures pressed and typed, eight at most, and nothing else", () => {
    draw(<Pad />);
    for (const figure of "40916") press(figure);
    expect(pin()).toBe("40916");
    press("back");
    expect(pin()).toBe("4091");
    type("40 91x6-22 77 88");
    expect(pin()).toBe("40916227");
    press("3");
    expect(pin()).toBe("40916227");
  });
  it("never shows the figures, and is passed by with Tab", () => {
    draw(<Pad />);
    expect(document.querySelector("input")?.type).toBe("password");
    const keys = [...document.querySelectorAll("button")];
    expect(keys).toHaveLength(11);
    expect(keys.every((key) => key.tabIndex === -1)).toBe(true);
  });
});

describe("what lies in order", () => {
  it("draws each piece, and no more than lie side by side", () => {
    draw(<Pieces piece="rag" count={3} />);
    expect(document.querySelectorAll("path")).toHaveLength(3);
    draw(<Pieces piece="pin" count={40} />);
    expect(document.querySelectorAll("path")).toHaveLength(12);
  });
  it("draws a slot for each follower, by row and cylinder", () => {
    const rows = [
      { name: "Intake valves A", slots: ["1", "3", "5", "7"] },
      { name: "Exhaust valves A", slots: ["1", "3"] },
    ];
    draw(<OrderTray rows={rows} isOut />);
    const words = [...document.querySelectorAll("text")].map((t) => t.textContent);
    expect(words).toEqual(["Intake valves A", "1", "3", "5", "7", "Exhaust valves A", "1", "3"]);
    expect(document.body.textContent).toContain("Laid out cylinder by cylinder");
    draw(<OrderTray rows={rows} isOut={false} />);
    expect(document.body.textContent).toContain("From the tray cylinder by cylinder");
  });
});
