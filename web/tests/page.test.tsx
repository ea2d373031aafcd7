// @vitest-environment jsdom
import { act, useState, type ReactNode } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Trouble, unknownTrouble } from "../src/api/client";
import { Failing } from "../src/app/Failing";
import { Choice, Field } from "../src/kit/controls";
import { ServerForm } from "../src/kit/form";

vi.stubGlobal("IS_REACT_ACT_ENVIRONMENT", true);
let root: Root;
beforeEach(() => {
  const place = document.createElement("div");
  document.body.replaceChildren(place);
  root = createRoot(place);
});
afterEach(() => act(() => root.unmount()));

const draw = (page: ReactNode) => act(() => root.render(page));
const said = () => document.body.textContent;

function find(selector: string): HTMLInputElement {
  const found = document.querySelector<HTMLInputElement>(selector);
  if (!found) throw new Error(`there is no ${selector}`);
  return found;
}

/** Types as a person does: React hears of it by the event. */
function type(input: HTMLInputElement, value: string) {
  const own = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value");
  act(() => {
    own?.set?.call(input, value);
    input.dispatchEvent(new Event("input", { bubbles: true }));
  });
}

describe("a form the server answers", () => {
  const refused = new Trouble(422, {
    ...unknownTrouble("").detail,
    message: "This is not a number.",
    expected: "degrees",
    field: "value",
  });

  function Page({ trouble, onSubmit }: { trouble: Trouble | null; onSubmit: () => void }) {
    const [value, setValue] = useState("");
    const [other, setOther] = useState("");
    return (
      <ServerForm trouble={trouble} onSubmit={onSubmit}>
        <Field name="value" label="Reading" value={value} onChange={setValue} />
        <Field name="other" label="Other" value={other} onChange={setOther} />
        <button type="submit">Send</button>
      </ServerForm>
    );
  }

  it("says what is wrong at the field, until that field is typed in", () => {
    draw(<Page trouble={refused} onSubmit={vi.fn()} />);
    const field = find("input[name=value]");
    expect(field.getAttribute("aria-invalid")).toBe("true");
    expect(said()).toContain("This is not a number. Expected: degrees.");
    expect(document.querySelector("[role=alert]")).toBeNull();
    type(find("input[name=other]"), "x");
    expect(said()).toContain("This is not a number.");
    type(field, "2.5");
    expect(said()).not.toContain("This is not a number.");
    expect(field.getAttribute("aria-invalid")).toBeNull();
  });

  it("says at its end what is about no field of it, and is sent by its button", () => {
    const sent = vi.fn();
    const other = new Trouble(409, { ...refused.detail, field: "elsewhere" });
    draw(<Page trouble={other} onSubmit={sent} />);
    expect(find("[role=alert]").textContent).toContain("This is not a number.");
    act(() => find("button").click());
    expect(sent).toHaveBeenCalledOnce();
  });
});

it("a choice with nothing chosen is reached by Tab", () => {
  const options = [
    { value: "a", label: "freely" },
    { value: "b", label: "binds" },
  ];
  draw(<Choice label="Arm swings?" value={null} onChange={vi.fn()} options={options} />);
  const reached = [...document.querySelectorAll<HTMLInputElement>("input")].map((r) => r.tabIndex);
  expect(reached).toContain(0);
});

describe("a page that breaks", () => {
  let isBroken = true;
  function Broken() {
    if (isBroken) throw new Error("no such part");
    return <p>whole again</p>;
  }

  it("leaves a way on, and is forgotten elsewhere", () => {
    vi.spyOn(console, "error").mockImplementation(() => undefined);
    isBroken = true;
    draw(
      <Failing at="/a">
        <Broken />
      </Failing>,
    );
    expect(said()).toContain("This page broke.");
    expect(said()).toContain("no such part");
    isBroken = false;
    act(() => find("button").click());
    expect(said()).toContain("whole again");
    isBroken = true;
    draw(
      <Failing at="/a">
        <Broken />
      </Failing>,
    );
    draw(
      <Failing at="/b">
        <p>another place</p>
      </Failing>,
    );
    expect(said()).toBe("another place");
  });
});
