import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { Survey } from "./Survey";

const box = { x: 0, y: 0, width: 100, height: 40 };
const variant = (i: number) => ({ id: `v${i}`, choices: [`size ${i}`], picture: "", width: 40, height: 20 });
const survey = (change: Partial<Schema["Survey"]> = {}) =>
  ({
    document: "furrow",
    name: "Furrow",
    revision: 4,
    families: [
      {
        id: "bed",
        name: "BedCard",
        description: "A bed.",
        uses: 1,
        axes: [{ name: "size", values: ["s", "m"], default: "m" }],
        variants: [variant(1)],
      },
      {
        id: "tool",
        name: "ToolRow",
        description: "A tool.",
        uses: 2,
        axes: [],
        variants: Array.from({ length: 15 }, (_, i) => variant(i)),
        component: "tool-row",
      },
    ],
    pages: [
      {
        id: "p1",
        name: "Plots",
        width: 1440,
        height: 900,
        layers: 80,
        picture: "",
        uses: [{ family: "BedCard", box }],
        unnamed: [],
        loose: [],
      },
      {
        id: "p2",
        name: "Tool shed",
        width: 390,
        height: 844,
        layers: 30,
        picture: "",
        uses: [],
        unnamed: [{ name: "Group 14", box }],
        loose: [],
      },
    ],
    ...change,
  }) as unknown as Schema["Survey"];

describe("the survey", () => {
  it("shows families with their axes, and a page at a time", async () => {
    server.answer("GET /survey", () => [survey()]);
    show(<Survey />);
    expect(await screen.findByText("revision 4 · 2 families")).toBeTruthy();
    expect(screen.getByText("A bed. 1 use on the pages.")).toBeTruthy();
    expect(screen.getByTitle("the default").textContent).toBe("m");
    expect(screen.getByText(/1440 × 900 px · 80 layers · 1 use of families · 0 layers nobody/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Tool shed" }));
    expect(await screen.findByText(/390 × 844 px/)).toBeTruthy();
    expect(screen.getByTitle("unnamed: Group 14")).toBeTruthy();
  });

  it("shows many variants on demand", async () => {
    server.answer("GET /survey", () => [survey()]);
    show(<Survey />);
    const tool = await screen.findByRole("article", { name: "ToolRow" });
    expect(tool.querySelectorAll("li")).toHaveLength(12);
    fireEvent.click(screen.getByRole("button", { name: "All 15 variants" }));
    expect(tool.querySelectorAll("li")).toHaveLength(15);
  });

  it("drafts a family once: what is on the bench is gone to", async () => {
    server.answer("GET /survey", () => [survey()]);
    server.answer("POST /components", () => ({ slug: "bed-card" }));
    show(<Survey />);
    expect((await screen.findByRole("link", { name: "On the bench" })).getAttribute("href")).toBe("/bench/tool-row");
    fireEvent.click(screen.getByRole("button", { name: "Draft a contract" }));
    await waitFor(() => expect(server.asked("POST /components")).toEqual([{ document: "furrow", family: "bed" }]));
  });

  it("says why a family cannot be drafted", async () => {
    server.answer("GET /survey", () => [survey()]);
    server.answer(
      "POST /components",
      () => new Refusal({ status: 422, message: "BedCard cannot be drafted: its variants hold other layers." }),
    );
    show(<Survey />);
    fireEvent.click(await screen.findByRole("button", { name: "Draft a contract" }));
    expect(await screen.findByText("BedCard cannot be drafted: its variants hold other layers.")).toBeTruthy();
  });

  it("of nothing says what to do, and an empty document what it lacks", async () => {
    server.answer("GET /survey", () => []);
    const { unmount } = show(<Survey />);
    expect(await screen.findByText("No design to survey")).toBeTruthy();
    unmount();
    server.answer("GET /survey", () => [survey({ families: [], pages: [] })]);
    show(<Survey />);
    expect(await screen.findByText(/holds no families/)).toBeTruthy();
    expect(screen.getByText("The document holds no pages.")).toBeTruthy();
  });
});
