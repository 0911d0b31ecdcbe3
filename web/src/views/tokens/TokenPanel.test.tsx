import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";

import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { TokenPanel } from "./TokenPanel";

const view = {
  revision: 12,
  files: ["core.json", "semantic.json", "dusk.json"],
  themes: [
    { name: "day", file: "semantic.json" },
    { name: "dusk", file: "dusk.json" },
    { name: "print", file: "" },
  ],
  rows: [
    { path: "page.ink", type: "color", cssName: "--page-ink", description: "Text of a page", deprecated: "", group: "page", values: [] },
    {
      path: "soil.900",
      type: "color",
      cssName: "--soil-900",
      description: "",
      deprecated: "",
      group: "soil",
      values: [{ value: "#221100" }],
    },
  ],
} as unknown as Schema["TokensView"];
const theme = (name: string, text: string, file: string) => ({ theme: name, text, file, value: "#221100", chain: [{ path: "soil.900" }] });
const detail = {
  path: "page.ink",
  type: "color",
  users: ["card.ink"],
  rests: 4,
  bindings: 2,
  layers: [{ where: "Plots", name: "Title", property: "color" }],
  contracts: [{ slug: "bed-card", name: "BedCard", part: "title", property: "color", when: "always" }],
  outputs: [{ file: "tokens.css", lines: ["--space-2: 8px"] }],
  themes: [
    theme("day", "{soil.900}", "semantic.json"),
    theme("dusk", "{soil.900}", "semantic.json"),
    theme("print", "{soil.900}", "semantic.json"),
  ],
} as unknown as Schema["TokenDetail"];
const nothing: Schema["Impact"] = { revision: 12, components: [], contrasts: [], layers: 0, tokens: [] };
const save = "POST /tokens";
const preview = "POST /tokens/preview";

beforeEach(() => {
  server.answer("GET /tokens/one", () => detail);
  server.answer(preview, () => nothing);
  server.answer(save, () => ({ revision: 13 }));
});

async function opened() {
  const put = vi.fn();
  show(<TokenPanel view={view} path="page.ink" put={put} />);
  await screen.findByRole("button", { name: "Rename" });
  return put;
}
const value = (label: string | RegExp) => screen.getByLabelText<HTMLInputElement>(label, { selector: "input" });
const click = (name: string | RegExp) => fireEvent.click(screen.getByRole("button", { name }));
/** Waits until what is typed was asked about, and saves it. */
async function saveIt(name: string | RegExp = "Save") {
  await waitFor(() => expect(screen.getByRole<HTMLButtonElement>("button", { name }).disabled).toBe(false));
  click(name);
}

describe("a token's values", () => {
  it("say where they come from and who rests on them", async () => {
    const put = await opened();
    expect(screen.getByText(/1 token points at it, 4 rest on it/)).toBeTruthy();
    expect(screen.getByText("and 1 more")).toBeTruthy();
    expect(screen.getByRole("link", { name: "BedCard" }).getAttribute("href")).toBe("/bench/bed-card");
    click("soil.900");
    expect(put).toHaveBeenCalledWith({ token: "soil.900", find: undefined, type: undefined });
  });

  it("are saved into the file that gives them, after what they change was shown", async () => {
    await opened();
    fireEvent.change(value("day"), { target: { value: " #000000 " } });
    await saveIt();
    const edit = { kind: "set", path: "page.ink", file: "semantic.json", type: "color", text: "#000000" };
    await waitFor(() => expect(server.asked(save)).toEqual([{ revision: 12, edits: [edit] }]));
    expect(server.asked(preview).at(-1)).toEqual({ revision: 12, edits: [edit] });
  });

  it("of a theme go into that theme's file; a theme without one follows", async () => {
    await opened();
    expect(screen.queryByRole("button", { name: "Another value in print" })).toBeNull();
    click("Another value in dusk");
    fireEvent.change(value("dusk"), { target: { value: "#eeeeee" } });
    expect(screen.getByText("to be written into dusk.json")).toBeTruthy();
    await saveIt();
    await waitFor(() => expect(server.asked(save)[0]).toMatchObject({ edits: [{ file: "dusk.json", text: "#eeeeee" }] }));
  });

  it("that are wrong cannot be saved, and say why", async () => {
    server.answer(preview, () => new Refusal({ status: 422, message: "page.ink: “#zz” is no colour." }));
    await opened();
    fireEvent.change(value("day"), { target: { value: "#zz" } });
    expect(await screen.findByText("page.ink: “#zz” is no colour.")).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Save" }).disabled).toBe(true);
    click("Discard changes");
    expect(value("day").value).toBe("{soil.900}");
    expect(screen.queryByRole("button", { name: "Save" })).toBeNull();
  });

  it("keep the revision they were typed on, so that another's edit is not overwritten", async () => {
    server.answer(save, () => new Refusal({ status: 409, message: "The tokens changed since you read them." }));
    await opened();
    fireEvent.change(value("day"), { target: { value: "#000000" } });
    await saveIt();
    expect(await screen.findByText("The tokens changed since you read them.")).toBeTruthy();
    expect(value("day").value, "what was typed is lost").toBe("#000000");
  });
});

describe("a token", () => {
  it("is renamed, and leaves its old name to the layers bound to it", async () => {
    const put = await opened();
    click("Rename");
    const name = value("New name");
    expect(name.value).toBe("page.ink");
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Save" }).disabled).toBe(true);
    fireEvent.change(name, { target: { value: " page.text " } });
    await saveIt();
    await waitFor(() => expect(put).toHaveBeenCalledWith({ token: "page.text" }));
    expect(server.asked(save)).toEqual([{ revision: 12, edits: [{ kind: "rename", path: "page.ink", to: "page.text", keepOld: true }] }]);
  });

  it("is described and deprecated in words", async () => {
    await opened();
    click("Describe");
    expect(value("What it is for").value).toBe("Text of a page");
    click("Deprecate");
    fireEvent.change(value(/empty takes the mark away/), { target: { value: "use page.text" } });
    click("Save");
    await waitFor(() =>
      expect(server.asked(save)[0]).toMatchObject({ edits: [{ kind: "deprecate", path: "page.ink", text: "use page.text" }] }),
    );
  });

  it("is removed once it was said what rests on it, and its panel goes", async () => {
    const put = await opened();
    click("Remove");
    await waitFor(() =>
      expect(server.asked(preview)).toContainEqual({ revision: 12, edits: [{ kind: "remove", path: "page.ink", text: "" }] }),
    );
    click("Remove page.ink");
    await waitFor(() => expect(put).toHaveBeenCalledWith({ token: undefined }));
  });
});
