import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { Refusal, server, show } from "../../test-server";
import { Icons, meant } from "./Icons";

const icon = (name: string, more = {}) => ({
  name,
  words: "",
  file: `${name}.svg`,
  drawing: { viewBox: [0, 0, 8, 8], paths: [{ d: "M0 0H8V8Z" }] },
  cleaned: [],
  lost: [],
  usedBy: [],
  otherwise: [],
  removed: false,
  added: "2026-01-01T00:00:00Z",
  ...more,
});

describe("the icons of the library", () => {
  it("are found by all words that are typed, in their names or in what finds them", () => {
    expect(meant({ name: "leaf-outline", words: "Bean, garden" }, "gar LEAF")).toBe(true);
    expect(meant({ name: "leaf-outline", words: "Bean" }, "leaf shed")).toBe(false);
    expect(meant({ name: "leaf", words: "" }, " ")).toBe(true);
  });

  it("are walked, renamed and taken out by keyboard", async () => {
    server.answer("GET /icons", () => [icon("leaf"), icon("spade", { usedBy: ["ShedSign"] })]);
    for (const operation of ["POST /icons/spade", "POST /icons/spade/remove"]) server.answer(operation, () => ({}));
    show(<Icons />);
    const field = await screen.findByRole("searchbox");
    expect(screen.getByText("2 icons")).not.toBeNull();
    fireEvent.keyDown(field, { key: "ArrowDown" });
    const [leaf, spade] = screen.getAllByRole("row").slice(1) as [HTMLElement, HTMLElement];
    expect(document.activeElement).toBe(leaf);
    fireEvent.keyDown(leaf, { key: "ArrowDown" });
    expect(document.activeElement).toBe(spade);
    expect(within(spade).getByText("ShedSign")).not.toBeNull();
    fireEvent.keyDown(spade, { key: "Enter" });
    const name = screen.getByLabelText("Name of spade");
    fireEvent.change(name, { target: { value: "shovel" } });
    fireEvent.keyDown(name, { key: "Enter" });
    await waitFor(() => expect(server.asked("POST /icons/spade")).toEqual([{ name: "shovel", words: "" }]));
    await waitFor(() => expect(screen.queryByLabelText("Name of spade")).toBeNull());
    fireEvent.keyDown(screen.getAllByRole("row")[2]!, { key: "Delete" });
    await waitFor(() => expect(server.asked("POST /icons/spade/remove")).toHaveLength(1));
  });

  it("say of every file that is dropped what was changed, what is lost, and what was not taken", async () => {
    let n = 0;
    server.answer("GET /icons", () => []);
    server.answer("POST /icons", () =>
      ++n === 2
        ? new Refusal({ status: 422, message: "b.svg is no icon: it shows nothing." })
        : { name: "a", added: true, replaced: n === 3, cleaned: ["2 shapes are paths now"], lost: n === 3 ? ["mask is not kept"] : [] },
    );
    show(<Icons />);
    await screen.findByText(/No icon yet/);
    const files = ["a.svg", "b.svg", "c.svg"].map((name) => new File(["<svg/>"], name));
    fireEvent.drop(window, { dataTransfer: { types: ["Files"], files } });
    const outcome = await screen.findByLabelText("What became of the files");
    await waitFor(() => expect(within(outcome).getAllByRole("listitem")).toHaveLength(3));
    const [a, b, c] = within(outcome).getAllByRole("listitem") as [HTMLElement, HTMLElement, HTMLElement];
    expect(a.textContent).toContain("a.svg is a · 2 shapes are paths now");
    expect(b.textContent).toContain("b.svg not taken: b.svg is no icon: it shows nothing.");
    expect(c.textContent).toContain("in the place of one that was drawn otherwise");
    expect(c.textContent).toContain("not as in the file: mask is not kept");
  });
});
