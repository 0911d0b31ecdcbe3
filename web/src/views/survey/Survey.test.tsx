import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { marksOf, standing } from "./marked";
import { Survey } from "./Survey";

const box = { x: 0, y: 0, width: 100, height: 40 };
const variant = (i: number) => ({ id: `v${i}`, choices: [`size ${i}`], picture: "", width: 40, height: 20 });
const member = (id: string, page: string) => ({
  id,
  page,
  layers: [id],
  box,
  likeness: 1,
  changes: 0,
  component: "",
  joined: false,
  made: [],
});
const find = (change: object = {}) => ({
  id: "repeat:a",
  kind: "repeat",
  name: "PlotCard",
  family: "",
  inside: "",
  members: [member("a", "p1"), member("b", "p1"), member("c", "p2")],
  likeness: 0.9,
  shows: ["title", "holder"],
  nearest: [{ kind: "contract", name: "SeedOffer", likeness: 0.61, matches: 3, missing: ["price"], extra: [], component: "seed-offer" }],
  component: "",
  draftable: true,
  onPages: ["p1", "p2"],
  inFamilies: [],
  ...change,
});
const doubt = (id: string, change: object = {}) => ({
  id,
  rule: "layer-name",
  layer: "a",
  layers: ["a"],
  page: "p1",
  family: "",
  message: `“${id}” has no name of its own.`,
  where: "Plots",
  outcome: "",
  reason: "",
  ...change,
});
const piece = (id: string, change: object = {}) => ({
  id,
  name: id,
  kind: "family",
  level: 0,
  of: [],
  built: false,
  state: "ready",
  component: "",
  draftable: true,
  ...change,
});
const survey = (change: object = {}) =>
  ({
    document: "furrow",
    name: "Furrow",
    revision: 4,
    finds: [
      find(),
      find({
        id: "list:x",
        kind: "list",
        name: "Label",
        shows: [],
        nearest: [],
        onPages: ["p2"],
        members: [member("x", "p2"), member("y", "p2"), member("z", "p2")],
      }),
    ],
    families: [
      {
        id: "bed",
        name: "BedCard",
        description: "A bed.",
        uses: [{ layer: "u", page: "p1", box, choices: {}, overrides: 0, layers: 2, replaced: 2, other: true }],
        axes: [{ name: "size", values: ["s", "m"], default: "m" }],
        variants: [variant(1)],
        component: "",
      },
      {
        id: "tool",
        name: "ToolRow",
        description: "A tool.",
        uses: [],
        axes: [],
        variants: Array.from({ length: 15 }, (_, i) => variant(i)),
        component: "tool-row",
      },
    ],
    pages: [
      { id: "p1", name: "Plots", width: 1440, height: 900, layers: 80, loose: [] },
      { id: "p2", name: "Tool shed", width: 390, height: 844, layers: 30, loose: [] },
    ],
    doubts: [doubt("one"), doubt("two", { outcome: "asked", reason: "What is it?" })],
    rules: [
      { id: "layer-name", title: "Layers that nobody has named", why: "Names become those of parts.", fix: "Name them.", off: false },
      { id: "colors-near", title: "Colours that are nearly the same", why: "", fix: "", off: true },
    ],
    widths: [],
    sections: [],
    order: [
      piece("bed"),
      piece("tool", { level: 1, state: "in work", component: "tool-row", draftable: false, of: ["bed"] }),
      piece("Sheds", { kind: "planned", draftable: false }),
    ],
    cycles: [["bed", "tool"]],
    ...change,
  }) as unknown as Schema["Survey"];
const drawn = { picture: "<svg></svg>", layers: [{ id: "a", name: "Group 1", kind: "group", depth: 0, box }] };
const opened = {
  copies: ["a", "b", "c"].map((id) => ({ id, picture: "<svg></svg>", width: 100, height: 40 })),
  props: [
    {
      name: "title",
      kind: "text",
      kinds: ["text", "rich text"],
      options: [],
      says: ["Plot 1", "Plot 2", ""],
      merges: [],
      explains: [],
      layers: ["a", "b", ""],
      boxes: [box, box, { x: 0, y: 0, width: 0, height: 0 }],
    },
    {
      name: "tone",
      kind: "choice",
      kinds: ["choice", "flag"],
      options: ["green", "red"],
      says: ["green", "red", "red"],
      merges: ["size"],
      explains: ["color", "fill"],
      layers: ["a", "b", "c"],
      boxes: [box, box, box],
    },
    {
      name: "size",
      kind: "choice",
      kinds: ["choice"],
      options: ["small", "large"],
      says: ["small", "large", "small"],
      merges: ["tone"],
      explains: ["font-size"],
      layers: ["a", "b", "c"],
      boxes: [box, box, box],
    },
  ],
};

function begin(change: object = {}) {
  server.answer("GET /survey", () => [survey(change)]);
  server.answer("GET /survey/page", () => drawn);
  server.answer("GET /survey/find", () => opened);
  return show(<Survey />);
}
const list = (name: RegExp) => fireEvent.click(screen.getByRole("button", { name }));

describe("the survey", () => {
  it("lists what repeats, and filters by the page", async () => {
    begin();
    expect(await screen.findByText("the same thing 3 times")).toBeTruthy();
    expect(screen.getByText("title, holder · nearest: SeedOffer 0.61")).toBeTruthy();
    expect(screen.getByText("3 in a line, of one look")).toBeTruthy();
    fireEvent.click(screen.getByLabelText("on this page alone"));
    expect(screen.queryByText("3 in a line, of one look")).toBeNull();
  });

  it("turns pages by a key", async () => {
    begin();
    const pages = await screen.findByLabelText<HTMLSelectElement>("Page");
    expect(pages.value).toBe("p1");
    fireEvent.keyDown(document.documentElement, { key: "PageDown" });
    await waitFor(() => expect(screen.getByLabelText<HTMLSelectElement>("Page").value).toBe("p2"));
    fireEvent.keyDown(document.documentElement, { key: "PageDown" });
    await waitFor(() => expect(screen.getByLabelText<HTMLSelectElement>("Page").value).toBe("p1"));
  });

  it("drafts a find as it was asked: names, props dropped, copies left out", async () => {
    server.answer("POST /survey/find", () => ({ slug: "plot-card", inside: [], notes: [] }));
    begin();
    fireEvent.click(await screen.findByText("PlotCard"));
    fireEvent.change(await screen.findByLabelText("Name of title"), { target: { value: "plot" } });
    fireEvent.click(screen.getAllByRole("button", { name: "drop" })[1]!);
    fireEvent.click(screen.getByRole("checkbox", { name: /1\.2/ }));
    fireEvent.change(screen.getByLabelText("Kind of title"), { target: { value: "rich text" } });
    fireEvent.change(screen.getByLabelText("Name of the component"), { target: { value: "Bed card" } });
    fireEvent.click(screen.getByRole("button", { name: "Draft Bed card" }));
    await waitFor(() =>
      expect(server.asked("POST /survey/find")).toEqual([
        {
          document: "furrow",
          find: "repeat:a",
          name: "Bed card",
          left: ["b"],
          renamed: { title: "plot" },
          dropped: ["tone"],
          kinds: { title: "rich text" },
          merged: {},
        },
      ]),
    );
  });

  it("makes two props one, and no prop of another's into a third", async () => {
    server.answer("POST /survey/find", () => ({ slug: "plot-card", inside: [], notes: [] }));
    begin();
    fireEvent.click(await screen.findByText("PlotCard"));
    expect(screen.queryByLabelText("title is one with")).toBeNull();
    fireEvent.change(await screen.findByLabelText("size is one with"), { target: { value: "tone" } });
    expect(screen.queryByLabelText("tone is one with")).toBeNull();
    expect((screen.getByLabelText("Name of size") as HTMLInputElement).disabled).toBe(true);
    fireEvent.click(screen.getAllByRole("button", { name: "drop" })[1]!);
    expect((screen.getByLabelText("Name of size") as HTMLInputElement).disabled).toBe(false);
    fireEvent.click(screen.getByRole("button", { name: "keep" }));
    fireEvent.change(screen.getByLabelText("size is one with"), { target: { value: "tone" } });
    fireEvent.click(screen.getByRole("button", { name: "Draft PlotCard" }));
    await waitFor(() => expect(server.asked("POST /survey/find")).toMatchObject([{ merged: { size: "tone" }, dropped: [] }]));
  });

  it("adds what is marked to the find that is open, and takes it off", async () => {
    server.answer("POST /survey/copy", () => ({}));
    begin({ finds: [find({ members: [member("a", "p1"), member("b", "p1"), { ...member("c", "p2"), joined: true, made: ["x", "c"] }] })] });
    fireEvent.click(await screen.findByText("PlotCard"));
    fireEvent.click(await screen.findByRole("button", { name: "take off" }));
    await waitFor(() => expect(server.asked("POST /survey/copy")).toEqual([{ document: "furrow", find: "", layers: ["x", "c"] }]));
    expect(screen.queryByText("Take the mark back")).toBeNull();
  });

  it("draws the first of very many copies, and says how many there are", async () => {
    const members = Array.from({ length: 250 }, (_, i) => member(`m${i}`, "p1"));
    const copies = members.slice(0, 200).map(({ id }) => ({ id, picture: "<svg></svg>", width: 100, height: 40 }));
    begin({ finds: [find({ members })] });
    server.answer("GET /survey/find", () => ({ copies, props: [] }));
    fireEvent.click(await screen.findByText("PlotCard"));
    const shown = await screen.findByLabelText("Copies, side by side");
    expect(shown.querySelectorAll("li")).toHaveLength(40);
    fireEvent.click(screen.getByRole("button", { name: "160 more copies" }));
    expect(shown.querySelectorAll("li")).toHaveLength(200);
    expect(screen.getByText("50 copies are not drawn here; all become uses.")).toBeTruthy();
  });

  it("takes copies as uses of a component there is", async () => {
    server.answer("POST /survey/uses", () => ({}));
    begin();
    fireEvent.click(await screen.findByText("PlotCard"));
    fireEvent.click(await screen.findByRole("button", { name: "it is this" }));
    await waitFor(() =>
      expect(server.asked("POST /survey/uses")).toEqual([{ document: "furrow", find: "repeat:a", component: "seed-offer" }]),
    );
  });

  it("shows families with their axes, and many variants on demand", async () => {
    server.answer("POST /components", () => ({ slug: "bed-card", inside: [], notes: [] }));
    begin();
    await screen.findByText("PlotCard");
    list(/^Families/);
    expect(screen.getByTitle("the default").textContent).toBe("m");
    expect(screen.getByText(/1 of them hardly one/)).toBeTruthy();
    const tool = screen.getByRole("article", { name: "ToolRow" });
    expect(tool.querySelectorAll("li")).toHaveLength(6);
    fireEvent.click(screen.getByRole("button", { name: "All 15 variants" }));
    expect(tool.querySelectorAll("li")).toHaveLength(15);
    expect(screen.getByRole("link", { name: "On the bench" }).getAttribute("href")).toBe("/bench/tool-row");
    fireEvent.click(screen.getByRole("button", { name: "Draft a contract" }));
    await waitFor(() => expect(server.asked("POST /components")).toEqual([{ document: "furrow", family: "bed" }]));
  });

  it("says why a family cannot be drafted", async () => {
    server.answer(
      "POST /components",
      () => new Refusal({ status: 422, message: "BedCard cannot be drafted: its variants hold other layers." }),
    );
    begin();
    await screen.findByText("PlotCard");
    list(/^Families/);
    fireEvent.click(screen.getByRole("button", { name: "Draft a contract" }));
    expect(await screen.findByText("BedCard cannot be drafted: its variants hold other layers.")).toBeTruthy();
  });

  it("asks for a reason before a doubt is set aside, and puts it to the designer without", async () => {
    server.answer("POST /survey/doubt", () => ({}));
    begin();
    await screen.findByText("PlotCard");
    list(/^Doubts 1/);
    fireEvent.click(screen.getByText("“one” has no name of its own."));
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Set aside" }).disabled).toBe(true);
    fireEvent.change(screen.getByLabelText("Reason, or what is asked"), { target: { value: "a sketch" } });
    fireEvent.click(screen.getByRole("button", { name: "Set aside" }));
    await waitFor(() =>
      expect(server.asked("POST /survey/doubt")).toEqual([{ document: "furrow", doubt: "one", outcome: "aside", reason: "a sketch" }]),
    );
    expect(screen.getByRole("link", { name: "HTML" }).getAttribute("href")).toContain("/survey/questions?document=furrow&markdown=false");
    fireEvent.click(screen.getByText("Questions 1"));
    expect(await screen.findByText("“two” has no name of its own.")).toBeTruthy();
  });

  it("switches rules off and on", async () => {
    server.answer("POST /survey/rule", () => ({}));
    begin();
    await screen.findByText("PlotCard");
    list(/^Doubts 1/);
    fireEvent.click(screen.getByRole("button", { name: "do not ask this" }));
    fireEvent.click(screen.getByRole("button", { name: "Colours that are nearly the same" }));
    await waitFor(() =>
      expect(server.asked("POST /survey/rule")).toEqual([
        { rule: "layer-name", off: true },
        { rule: "colors-near", off: false },
      ]),
    );
  });

  it("is walked by keys on the wall, where what a piece rests on is told", async () => {
    begin();
    await screen.findByText("PlotCard");
    list(/^Order/);
    const brick = (id: string) => document.querySelector<HTMLElement>(`[data-brick=${id}]`)!;
    brick("bed").focus();
    await waitFor(() => expect(brick("tool").dataset["over"]).toBeTruthy());
    expect(brick("Sheds").dataset["over"]).toBeUndefined();
    fireEvent.keyDown(brick("bed"), { key: "ArrowUp" });
    expect(document.activeElement).toBe(brick("tool"));
    await waitFor(() => expect(brick("bed").dataset["under"]).toBeTruthy());
  });

  it("marks layers in the list, and says what large pieces are like", async () => {
    begin({
      sections: [
        {
          page: "p1",
          layer: "a",
          name: "Group 1",
          nearest: [{ kind: "contract", name: "Banner", likeness: 0.8, matches: 2, missing: [], extra: [], component: "banner" }],
        },
      ],
    });
    await screen.findByText("PlotCard");
    list(/^Layers/);
    expect(await screen.findByText(/Mark layers, here or on the picture/)).toBeTruthy();
  });

  it("takes back what was marked by hand", async () => {
    server.answer("POST /survey/marked", () => ({}));
    begin({ finds: [find({ members: [{ ...member("a", "p1"), layers: ["a"], made: ["a", "b"] }] })] });
    expect(await screen.findByText("once, as it was marked")).toBeTruthy();
    fireEvent.click(screen.getByText("PlotCard"));
    fireEvent.click(await screen.findByRole("button", { name: "Take the mark back" }));
    await waitFor(() => expect(server.asked("POST /survey/marked")).toEqual([{ document: "furrow", layers: ["a", "b"], one: false }]));
  });

  it("drafts a level, plans a part by name, and names what goes round", async () => {
    server.answer("POST /survey/level", () => []);
    server.answer("POST /survey/plan", () => ({}));
    begin();
    await screen.findByText("PlotCard");
    list(/^Order/);
    expect(screen.getByRole("alert").textContent).toContain("bed, tool are made of each other");
    expect(screen.getByText("1 of 3 components is there.")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Draft bed" }));
    await waitFor(() => expect(server.asked("POST /survey/level")).toEqual([{ document: "furrow", level: 0 }]));
    fireEvent.change(screen.getByLabelText("Component that no drawing shows yet"), { target: { value: "Seed swap" } });
    fireEvent.click(screen.getByRole("button", { name: "Add" }));
    fireEvent.click(screen.getByRole("button", { name: "take off" }));
    await waitFor(() =>
      expect(server.asked("POST /survey/plan")).toEqual([
        { name: "Seed swap", wanted: true },
        { name: "Sheds", wanted: false },
      ]),
    );
  });

  it("says what is not as it was in the revision before", async () => {
    begin({
      since: {
        revision: 3,
        newFinds: ["list:x"],
        changedFinds: ["repeat:a"],
        goneFinds: ["Chip"],
        newDoubts: ["one"],
        goneDoubts: ["old"],
      },
    });
    expect(await screen.findByText("Since revision 3: 1 find new · 1 find changed · 1 find gone: Chip")).toBeTruthy();
    expect(screen.getAllByText(/^(new|changed)$/).map((e) => e.textContent.trim())).toEqual(["changed", "new"]);
    list(/^Doubts 1/);
    expect(screen.getByText("Since revision 3: 1 doubt new · 1 doubt gone")).toBeTruthy();
  });

  it("tells what a second width hides, puts elsewhere, and leaves open", async () => {
    begin({
      widths: [
        {
          name: "Plots",
          pages: ["p2", "p1"],
          at: [390, 1440],
          undrawn: [
            { from: 390, to: 1440 },
            { from: 1440, to: 0 },
          ],
          pieces: [
            { name: "Title", layers: { p1: "a", p2: "b" }, what: "stays", when: [] },
            { name: "Aside", layers: { p1: "c", p2: "d" }, what: "rearranged", when: [] },
            { name: "Banner", layers: { p1: "e" }, what: "shown", when: [{ from: 1440, to: 1440 }] },
          ],
        },
      ],
    });
    await screen.findByText("PlotCard");
    list(/^Widths 1/);
    expect(screen.getByText("No drawing says what happens between 390 and 1440 px, above 1440 px.")).toBeTruthy();
    expect(screen.getByText("at both")).toBeTruthy();
    expect(screen.getByText("rearranged")).toBeTruthy();
    expect(screen.getByText("only at 1440 px")).toBeTruthy();
  });

  it("of a long design says how far it is, and claims nothing before it is read", async () => {
    const under = {
      document: "furrow",
      name: "Furrow",
      revision: 4,
      state: "running",
      step: "layers",
      share: 0,
      trouble: "",
      earlier: false,
    };
    server.answer("GET /survey/readings", () => [{ ...under, step: "what is alike", share: 0.31 }]);
    let stopped: unknown;
    server.answer("POST /survey/reading", (body) => {
      stopped = body;
      return {};
    });
    begin({ finds: [], families: [], doubts: [], order: [], reading: under });
    await waitFor(() => expect(screen.getByLabelText("Reading").textContent).toContain("Being read: what is alike, 31 %"));
    expect(screen.queryByText(/Nothing repeats/)).toBeNull();
    expect(screen.getByRole("button", { name: "Finds" })).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Stop" }));
    await waitFor(() => expect(stopped).toEqual({ document: "furrow", revision: 4, stop: true }));
  });

  it("shows what was read before while it is read again", async () => {
    server.answer("GET /survey/readings", () => []);
    begin({
      reading: {
        document: "furrow",
        name: "Furrow",
        revision: 4,
        state: "failed",
        step: "",
        share: 0,
        trouble: "out of memory",
        earlier: true,
      },
    });
    expect((await screen.findByLabelText("Reading")).textContent).toMatch(
      /failed: out of memory.*read before the last changes.*Read again/,
    );
    expect(screen.getByText("PlotCard")).toBeTruthy();
  });

  it("of nothing says what to do, and an empty document what it lacks", async () => {
    server.answer("GET /survey", () => []);
    const { unmount } = show(<Survey />);
    expect(await screen.findByText("No design to survey")).toBeTruthy();
    unmount();
    begin({ families: [], pages: [], finds: [], doubts: [], order: [] });
    expect(await screen.findByText("The document holds no pages.")).toBeTruthy();
    expect(screen.getByText(/Nothing repeats that is not a family already/)).toBeTruthy();
    list(/^Families/);
    expect(screen.getByText(/holds no families/)).toBeTruthy();
  });
});

describe("what is marked on a page", () => {
  const s = survey();
  it("is numbered as in the list beside it", () => {
    expect(marksOf(s, "finds", "p1", [], undefined).map((m) => m.label)).toEqual(["1.1", "1.2"]);
    expect(marksOf(s, "finds", "p2", [], s.finds[1]).map((m) => m.label)).toEqual(["2.1", "2.2", "2.3"]);
    expect(marksOf(s, "families", "p1", [], undefined).map((m) => [m.group, m.label])).toEqual([["bed", "1"]]);
    expect(marksOf(s, "layers", "p1", [], undefined)).toEqual([]);
  });
  it("of doubts are those that stand, where their layers are", () => {
    expect(marksOf(s, "doubts", "p1", drawn.layers as Schema["DrawnLayer"][], undefined).map((m) => m.group)).toEqual(["one"]);
    expect(marksOf(s, "doubts", "p1", [], undefined)).toEqual([]);
    expect(standing(s, "doubts")).toBe(1);
    expect(standing(s, "order")).toBe(3);
  });
});
