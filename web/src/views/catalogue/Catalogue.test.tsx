import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { server, show } from "../../test-server";
import { Catalogue } from "./Catalogue";

const entry = (name: string, change: Partial<Schema["Entry"]> = {}): Schema["Entry"] => ({
  slug: name.toLowerCase(),
  name,
  purpose: `What ${name} is for`,
  shelf: "Cards",
  props: ["tone"],
  picture: "<svg xmlns='http://www.w3.org/2000/svg'></svg>",
  width: 200,
  height: 40,
  status: "released",
  version: "1.0.0",
  updated: "2026-11-01T08:00:00Z",
  uses: 3,
  cases: 2,
  facts: 10,
  differs: 0,
  waiting: 0,
  measured: true,
  ...change,
});
const rows = () => screen.queryAllByRole("row").filter((r) => r.querySelector("td"));

describe("the catalogue", () => {
  it("lists what is released, and nothing else", async () => {
    server.answer("GET /components", () => [entry("BedCard"), entry("Draft", { status: "draft", version: "" }), entry("ToolRow")]);
    show(<Catalogue />);
    expect(await screen.findByText("2 of 2 components")).toBeTruthy();
    expect(rows().map((r) => r.querySelector("a")?.getAttribute("href"))).toEqual(["/catalogue/bedcard", "/catalogue/toolrow"]);
    expect(rows()[0]!.textContent).toContain("1.0.0");
  });

  it("puts components on their shelves, both by name", async () => {
    server.answer("GET /components", () => [
      entry("Zinnia"),
      entry("ToolRow", { shelf: "Shed" }),
      entry("BedCard"),
      entry("Lamp", { shelf: "Access" }),
    ]);
    show(<Catalogue />);
    await screen.findByText("4 of 4 components");
    const said = screen
      .queryAllByRole("row")
      .slice(1)
      .map((r) => r.querySelector("th")?.textContent ?? r.querySelector("a")?.textContent);
    expect(said).toEqual(["Access", "Lamp", "Cards", "BedCard", "Zinnia", "Shed", "ToolRow"]);
  });

  it("lists the layout primitives below, released components or none", async () => {
    server.answer("GET /components", () => []);
    server.answer("GET /primitives", () => [
      { slug: "stack", name: "Stack", purpose: "Children one below the other.", props: ["gap", "align"] },
      { slug: "row", name: "Row", purpose: "Children side by side.", props: ["gap", "wrap"] },
    ]);
    show(<Catalogue />);
    expect(await screen.findByText("Nothing is released yet")).toBeTruthy();
    const link = await screen.findByRole("link", { name: "Stack" });
    expect(link.getAttribute("href")).toBe("/catalogue/stack");
    expect(rows().map((r) => r.textContent)).toEqual([
      "StackChildren one below the other.gap, align",
      "RowChildren side by side.gap, wrap",
    ]);
  });

  it("is searched by name, purpose, shelf and props, by every word", async () => {
    server.answer("GET /components", () => [
      entry("BedCard", { purpose: "A bed of the garden" }),
      entry("ToolRow", { shelf: "Shed", props: ["count", "due"] }),
    ]);
    show(<Catalogue />);
    const find = await screen.findByPlaceholderText("Find by name, purpose, prop");
    for (const [typed, found] of [
      ["bed", ["BedCard"]],
      ["GARDEN bed", ["BedCard"]],
      ["shed", ["ToolRow"]],
      ["due count", ["ToolRow"]],
      ["garden due", []],
      ["", ["BedCard", "ToolRow"]],
    ] as const) {
      fireEvent.change(find, { target: { value: typed } });
      expect(
        rows().map((r) => r.querySelector("a")?.textContent),
        typed,
      ).toEqual(found);
    }
    fireEvent.change(find, { target: { value: "nothing of the kind" } });
    expect(screen.getByText("No released component has that in its name, purpose or props.")).toBeTruthy();
  });

  it("says what to do while nothing is released", async () => {
    server.answer("GET /components", () => [entry("Draft", { status: "draft" })]);
    show(<Catalogue />);
    expect(await screen.findByText("Nothing is released yet")).toBeTruthy();
    expect(screen.getByRole("link", { name: "To the bench" }).getAttribute("href")).toBe("/bench");
  });
});
