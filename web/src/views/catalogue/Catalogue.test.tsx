import { fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { Schema } from "../../api/client";
import { server, show } from "../../test-server";
import { Catalogue } from "./Catalogue";

const entry = (name: string, change: Partial<Schema["Entry"]> = {}): Schema["Entry"] => ({
  slug: name.toLowerCase(),
  name,
  purpose: `What ${name} is for`,
  shelf: "Cards",
  props: ["tone"],
  deprecated: "",
  drawn: false,
  fills: false,
  build: "1.t1",
  shown: {},
  errors: 0,
  warnings: 0,
  usedBy: 0,
  width: 200,
  height: 40,
  status: "released",
  version: "1.0.0",
  updated: "2026-11-01T08:00:00Z",
  trials: 0,
  uses: 3,
  cases: 2,
  facts: 10,
  differs: 0,
  waiting: 0,
  inCode: "",
  inCodeWait: 0,
  measured: true,
  ...change,
});
const library: Schema["LibraryView"] = {
  name: "hollowbeck",
  newest: "1.0.0",
  version: "1.1.0",
  level: "minor",
  changes: [{ level: "minor", text: "CropTag 1.0.0 is added" }],
  blocked: [],
  releases: [
    { version: "1.0.0", told: [{ runs: [{ text: "First release." }] }], changes: [], by: "Ines", released: "2026-11-01T08:00:00Z" },
  ],
};

// The list shows what is in sight, and nothing has a size here.
beforeEach(() => {
  vi.spyOn(Element.prototype, "clientHeight", "get").mockReturnValue(2000);
  vi.spyOn(Element.prototype, "clientWidth", "get").mockReturnValue(1200);
  server.answer("GET /project", () => ({ preview: "http://preview" }));
  server.answer("GET /primitives", () => []);
  server.answer("GET /library", () => library);
});
afterEach(() => vi.restoreAllMocks());
const said = () =>
  screen
    .queryAllByRole("row")
    .slice(1)
    .map((r) => r.querySelector("[role=rowheader]")?.textContent ?? r.querySelector("a")?.textContent);
const field = () => screen.findByPlaceholderText("Find by name, use, prop, option, token, text");

describe("the catalogue", () => {
  it("puts components on their shelves, both by name, those on none last", async () => {
    server.answer("GET /components", () => [
      entry("Zinnia"),
      entry("Draft", { shelf: "", status: "draft", version: "" }),
      entry("ToolRow", { shelf: "Shed" }),
      entry("BedCard"),
      entry("Lamp", { shelf: "Access" }),
    ]);
    show(<Catalogue />);
    await screen.findByText("5 components");
    await waitFor(() =>
      expect(said()).toEqual(["Access 1", "Lamp", "Cards 2", "BedCard", "Zinnia", "Shed 1", "ToolRow", "On no shelf yet 1", "Draft"]),
    );
  });

  it("shows what is found, the best first, and where the words stand", async () => {
    server.answer("GET /components", () => [entry("BedCard"), entry("ToolRow"), entry("CropTag")]);
    server.answer("GET /catalogue", (_, query) =>
      query.get("words") === "chip"
        ? [
            { slug: "croptag", why: [{ word: "chip", field: "synonym", said: "CropTag" }] },
            { slug: "stack", why: [] },
            { slug: "bedcard", why: [{ word: "chip", field: "text", said: "A chip of wood" }] },
          ]
        : [],
    );
    server.answer("GET /primitives", () => [
      { slug: "stack", name: "Stack", purpose: "One below the other.", props: ["gap"] },
      { slug: "row", name: "Row", purpose: "Side by side.", props: ["gap"] },
    ]);
    show(<Catalogue />);
    fireEvent.change(await field(), { target: { value: "chip" } });
    expect(await screen.findByText("2 of 3 components")).toBeTruthy();
    await waitFor(() => expect(said()).toEqual(["CropTag", "BedCard"]));
    expect(screen.getByText("chip: another word for CropTag")).toBeTruthy();
    expect(screen.getByText("text “A chip of wood”")).toBeTruthy();
    expect(screen.getByRole("link", { name: "Stack" })).toBeTruthy();
    expect(screen.queryByRole("link", { name: "Row" })).toBeNull();
    fireEvent.change(await field(), { target: { value: "wheelbarrow" } });
    expect(await screen.findByText(/No component has that/)).toBeTruthy();
  });

  it("is held to a status and to how components stand", async () => {
    server.answer("GET /components", () => [
      entry("Level", { measured: true, differs: 0 }),
      entry("Moved", { waiting: 2 }),
      entry("Otherwise", { differs: 1 }),
      entry("Unmeasured", { measured: false }),
      entry("Found", { warnings: 1, uses: 0 }),
      entry("Old", { status: "deprecated", deprecated: "Use Level instead.", usedBy: 1, uses: 0 }),
    ]);
    show(<Catalogue />);
    await screen.findByText("6 components");
    expect(await screen.findByText("Use Level instead.")).toBeTruthy();
    const held = (label: string, value: string) => {
      fireEvent.change(screen.getByLabelText(label), { target: { value } });
      return said().filter((s) => s && !s.startsWith("Cards"));
    };
    expect(held("Standing", "level")).toEqual(["Found", "Level", "Old"]);
    expect(held("Standing", "decide")).toEqual(["Moved"]);
    expect(held("Standing", "differs")).toEqual(["Otherwise"]);
    expect(held("Standing", "unmeasured")).toEqual(["Unmeasured"]);
    expect(held("Standing", "findings")).toEqual(["Found"]);
    expect(held("Standing", "unused")).toEqual(["Found"]);
    expect(held("Standing", "")).toHaveLength(6);
    expect(held("Status", "deprecated")).toEqual(["Old"]);
    expect(held("Status", "draft")).toEqual([]);
  });

  it("is gone through by the arrows", async () => {
    server.answer("GET /components", () => [entry("BedCard"), entry("ToolRow"), entry("Lamp", { shelf: "Access" })]);
    show(<Catalogue />);
    fireEvent.keyDown(await field(), { key: "ArrowDown" });
    const grid = screen.getByRole("grid");
    const chosen = () => grid.getAttribute("aria-activedescendant");
    expect(document.activeElement).toBe(grid);
    expect(chosen()).toBe("entry-lamp");
    fireEvent.keyDown(grid, { key: "ArrowDown" });
    expect(chosen()).toBe("entry-bedcard");
    fireEvent.keyDown(grid, { key: "End" });
    expect(chosen()).toBe("entry-toolrow");
    fireEvent.keyDown(grid, { key: "ArrowDown" });
    expect(chosen()).toBe("entry-toolrow");
    fireEvent.keyDown(grid, { key: "Home" });
    expect(chosen()).toBe("entry-lamp");
  });

  it("finds by a drawing what it is like", async () => {
    server.answer("GET /components", () => [entry("BedCard"), entry("ToolRow")]);
    server.answer("POST /catalogue/like", () => ({
      name: "Some card",
      drawn: { picture: "<svg xmlns='http://www.w3.org/2000/svg'></svg>", width: 100, height: 50 },
      hits: [{ slug: "bedcard", name: "BedCard", likeness: 0.8, matches: 3, missing: ["tag"], extra: 2 }],
    }));
    show(<Catalogue />, "/catalogue?like=furrow%3Aa,b");
    expect(await screen.findByText("0.80")).toBeTruthy();
    expect(server.asked("POST /catalogue/like")).toEqual([{ document: "furrow", layers: ["a", "b"] }]);
    expect(screen.getByText("3 pieces alike, 1 only there, 2 only here")).toBeTruthy();
    fireEvent.click(screen.getByText("Close"));
    expect(screen.queryByText("0.80")).toBeNull();
    const file = new File(["<svg/>"], "card.svg");
    fireEvent.change(screen.getByLabelText("A drawing"), { target: { files: [file] } });
    await screen.findByText("0.80");
    expect(server.asked("POST /catalogue/like")[1]).toEqual({ file: "card.svg", text: "<svg/>" });
  });

  it("releases the library as a whole, with what is written of it", async () => {
    server.answer("GET /components", () => [entry("BedCard")]);
    server.answer("POST /library", () => {
      const done = { ...library, newest: "1.1.0", level: "none", changes: [] };
      server.answer("GET /library", () => done);
      return done;
    });
    show(<Catalogue />);
    fireEvent.click(await screen.findByText("Library 1.0.0, 1.1.0 could be"));
    expect(screen.getByText("npm package").getAttribute("href")).toMatch(/\/library\/1\.0\.0\.tgz$/);
    const note = screen.getByLabelText<HTMLTextAreaElement>("Changelog for its users");
    expect(note.value).toBe("- CropTag 1.0.0 is added");
    fireEvent.change(note, { target: { value: "A tag." } });
    fireEvent.click(screen.getByText("Release the library as 1.1.0"));
    expect(await screen.findByText("All that is released is in 1.1.0.")).toBeTruthy();
    expect(server.asked("POST /library")).toEqual([{ version: "1.1.0", note: "A tag." }]);
  });

  it("does not release a library whose pieces do not fit", async () => {
    server.answer("GET /components", () => [entry("BedCard")]);
    server.answer("GET /library", () => ({
      ...library,
      newest: "",
      releases: [],
      blocked: ["PlotCard is made of CropTag, which is not released."],
    }));
    show(<Catalogue />);
    fireEvent.click(await screen.findByText("Library, not released"));
    expect(screen.getByText("PlotCard is made of CropTag, which is not released.")).toBeTruthy();
    expect(screen.getByText<HTMLElement>("Release the library as 1.1.0").closest("button")!.disabled).toBe(true);
  });

  it("says what to do while there is nothing, and lists the layout primitives", async () => {
    server.answer("GET /components", () => []);
    server.answer("GET /primitives", () => [{ slug: "stack", name: "Stack", purpose: "One below the other.", props: ["gap"] }]);
    show(<Catalogue />);
    expect(await screen.findByText("Nothing is in the catalogue yet")).toBeTruthy();
    expect(screen.getByRole("link", { name: "To the bench" }).getAttribute("href")).toBe("/bench");
    expect((await screen.findByRole("link", { name: "Stack" })).getAttribute("href")).toBe("/catalogue/stack");
  });
});
