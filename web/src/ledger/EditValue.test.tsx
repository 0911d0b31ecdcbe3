import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";

import type { Schema } from "../api/client";
import { Refusal, server, show } from "../test-server";
import { EditValue } from "./EditValue";

const ripe = `[{"prop":"tone","is":"ripe"}]`;
const fact: Schema["Fact"] = {
  part: "root-id",
  name: "root",
  property: "background-color",
  facet: "paint",
  verdict: "design moved",
  whenKey: ripe,
};
const tokens: Schema["TokenPick"][] = [
  { path: "tag.ripe", type: "color", value: "#99aa33" },
  { path: "space.2", type: "dimension", value: "8px" },
];
const edit = "POST /components/bed-card/edit";

beforeEach(() => {
  server.answer("GET /components/bed-card/values", () => ({
    part: "root-id",
    property: "background-color",
    types: ["color"],
    declared: [
      { when: "", label: "", value: "#ffffff", edit: { do: "set", on: "parts/root-id/background-color", cell: "value", text: "" } },
      { when: ripe, label: "tone=ripe", value: "{tag.ripe}", edit: { do: "set", on: "rules/1/background-color", cell: "value" } },
    ],
  }));
  server.answer(edit, () => ({ revision: 5 }));
});

async function opened(close = vi.fn()) {
  show(<EditValue slug="bed-card" revision={4} fact={fact} tokens={tokens} theme="day" close={close} />);
  return { close, input: await screen.findByLabelText<HTMLInputElement>(/^Value/, { selector: "input" }) };
}
const set = () => fireEvent.click(screen.getByRole("button", { name: "Set" }));

describe("editing a value", () => {
  it("begins at the rule that says it, and writes there, by the condition's key", async () => {
    const { close, input } = await opened();
    expect(screen.getByRole("form", { name: "root · background-color" })).toBeTruthy();
    expect(document.activeElement, "what is typed at once goes nowhere").toBe(input);
    expect(input.value).toBe("{tag.ripe}");
    fireEvent.change(input, { target: { value: "  #000000 " } });
    set();
    await waitFor(() => expect(close).toHaveBeenCalled());
    expect(server.asked(edit)).toEqual([
      { revision: 4, edits: [{ part: "root-id", property: "background-color", when: ripe, value: "#000000" }] },
    ]);
  });

  it("tells before it is kept how far it reaches", async () => {
    server.answer("POST /components/bed-card/sheet/try", () => ({
      cases: 3,
      reaches: ["ShedCard"],
      before: [],
      after: [],
      changes: [],
      taken: [],
    }));
    const { input } = await opened();
    fireEvent.change(input, { target: { value: "#000000" } });
    await waitFor(() => expect(document.body.textContent).toContain("3 cases look otherwise here, and ShedCard follow."));
    expect(server.asked("POST /components/bed-card/sheet/try").at(-1)).toEqual({
      do: "set",
      on: "rules/1/background-color",
      cell: "value",
      text: "#000000",
    });
    expect(server.asked(edit)).toEqual([]);
  });

  it("can be of another place, with what is said there", async () => {
    const { input } = await opened();
    fireEvent.change(screen.getByLabelText("Where it is said"), { target: { value: "0" } });
    expect(input.value).toBe("#ffffff");
    expect(screen.queryByRole("button", { name: "Remove from this rule" })).toBeNull();
    set();
    await waitFor(() => expect(server.asked(edit)[0]).toMatchObject({ edits: [{ when: "", value: "#ffffff" }] }));
  });

  it("takes a value out of a rule, but cannot set nothing", async () => {
    const { input } = await opened();
    fireEvent.change(input, { target: { value: " " } });
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Set" }).disabled).toBe(true);
    fireEvent.click(screen.getByRole("button", { name: "Remove from this rule" }));
    await waitFor(() => expect(server.asked(edit)[0]).toMatchObject({ edits: [{ when: ripe, value: "" }] }));
  });

  it("is left with Escape, once the list of tokens is closed", async () => {
    const { close, input } = await opened();
    fireEvent.change(input, { target: { value: "{" } });
    await screen.findAllByRole("option", { hidden: true });
    fireEvent.keyDown(input, { key: "Escape" });
    expect(close).not.toHaveBeenCalled();
    await waitFor(() => expect(input.getAttribute("aria-expanded")).toBe("false"));
    fireEvent.keyDown(input, { key: "Escape" });
    expect(close).toHaveBeenCalled();
    expect(server.asked(edit)).toEqual([]);
  });

  it("offers the tokens that fit, and no others", async () => {
    const { input } = await opened();
    fireEvent.change(input, { target: { value: "{" } });
    fireEvent.focus(input);
    const offered = (await screen.findAllByRole("option", { hidden: true })).map((o) => o.textContent);
    expect(offered.join()).toContain("tag.ripe");
    expect(offered.join()).not.toContain("space.2");
  });

  it("stays open with what is wrong with a value", async () => {
    server.answer(
      edit,
      () =>
        new Refusal({
          status: 422,
          message: "The edit was not taken.",
          problems: [{ severity: "error", rule: "style-value", pointer: "/edits/0", message: "no colour: blurple", fix: "write a colour" }],
        }),
    );
    const { close, input } = await opened();
    fireEvent.change(input, { target: { value: "blurple" } });
    set();
    expect(await screen.findByText(/no colour: blurple/)).toBeTruthy();
    expect(screen.getByText(/write a colour\./)).toBeTruthy();
    expect(close).not.toHaveBeenCalled();
    expect(input.value).toBe("blurple");
  });

  it("shows both sides when somebody else was quicker", async () => {
    server.answer(
      edit,
      () => new Refusal({ status: 409, message: "Changed meanwhile.", current: { revision: 5, note: "gap set", changes: [] } }),
    );
    const { close } = await opened();
    set();
    expect(await screen.findByText(/Now at revision 5 \(gap set\)/)).toBeTruthy();
    expect(screen.getByText("nothing: both say the same")).toBeTruthy();
    expect(close).not.toHaveBeenCalled();
  });
});
