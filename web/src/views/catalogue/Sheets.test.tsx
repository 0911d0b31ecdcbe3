import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { beforeEach, describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { ComponentPage } from "./ComponentPage";

const at = "GET /components/bed-card";
const flag = {
  id: "strong",
  name: "strong",
  kind: "flag",
  purpose: "",
  options: [],
  default: false,
  shown: false,
  control: "switch",
  required: false,
  deprecated: "",
};
const oneCase = (key: string, props: Record<string, unknown> = {}) =>
  ({
    key,
    name: key,
    fills: false,
    width: 120,
    height: 40,
    new: [],
    props,
    states: [],
    paths: { root: [] },
    boxes: {},
    container: 0,
    default: key === "plain",
    choices: [],
  }) as unknown as Schema["CaseView"];
const bench = {
  slug: "bed-card",
  name: "BedCard",
  purpose: "A bed.",
  status: "released",
  version: "2.0.0",
  shelf: "Cards",
  build: "b1",
  agreed: 4,
  props: [flag],
  states: ["hover", "disabled"],
  uses: [],
  usedBy: [],
  parts: [
    {
      id: "root",
      name: "root",
      element: "article",
      depth: 0,
      role: "article",
      called: "",
      changed: [{ by: "strong", prop: "strong", what: ["color"] }],
    },
    { id: "words", name: "words", element: "h3", depth: 1, role: "heading", called: "Leeks", changed: [] },
  ],
  do: [],
  dont: [],
  themes: [
    { name: "day", attributes: {} },
    { name: "dusk", attributes: { "data-theme": "dusk" } },
  ],
  cases: [oneCase("plain", { strong: false }), oneCase("loud", { strong: true })],
} as unknown as Schema["Bench"];
const about: Schema["About"] = {
  owner: "Ines, plot 41",
  links: [{ text: "Minutes", address: "https://example.org/minutes" }],
  notes: [{ kind: "item", runs: [{ text: "One a bed", strong: true }] }],
  deprecated: "Too small. Use PlotCard instead.",
  instead: "plot-card",
  effects: [{ prop: "strong", parts: [{ part: "root", name: "root", what: ["color"] }], cases: 1 }],
  contrasts: [
    { theme: "day", part: "words", ratio: 7.2, needs: 4.5, fails: false, where: "" },
    { theme: "dusk", part: "words", ratio: 2.1, needs: 4.5, fails: true, where: "strong" },
  ],
  keys: [{ part: "root", keys: ["Enter", "Space"] }],
  tokens: [{ path: "space.2", type: "dimension", value: "8px", where: ["root · gap"] }],
  pages: [{ page: "plots", name: "Plots", uses: 3 }],
  trials: [{ slug: "beds", name: "Beds", uses: 2 }],
  document: "furrow",
  madeOf: [{ name: "CropTag", slug: "crop-tag", level: 1, times: 2 }],
  usedBy: [],
  examples: [{ meant: "dont", case: oneCase("two at once") }],
};
const release = (version: string, before: string, steps: Schema["MigrationStep"][] = []): Schema["ReleaseView"] => ({
  version,
  before,
  level: "minor",
  told: before ? [{ kind: "paragraph", runs: [{ text: `What ${version} changed` }] }] : [],
  changes: before ? [{ level: "minor", text: "the prop strong is added" }] : [],
  steps,
  released: "2026-11-01T08:00:00Z",
  by: "Ines",
});
const review: Schema["Review"] = {
  approval: false,
  revision: 7,
  release: "2.0.0",
  changes: [{ level: "patch", text: "root · gap is 8px", key: "root gap " }],
  cases: [
    { ...oneCase("loud"), differs: true, released: { strong: true } },
    { ...oneCase("plain"), differs: false, released: {} },
  ],
  comments: [
    {
      id: 3,
      place: "fact",
      key: "root gap ",
      words: "root · gap",
      told: [{ kind: "paragraph", runs: [{ text: "Too much?" }] }],
      by: "Tomás",
      at: "2026-11-02T08:00:00Z",
      resolver: "",
    },
  ],
};

beforeEach(() => {
  server.answer(at, () => bench);
  server.answer("GET /components", () => [
    { slug: "bed-card", uses: 7, usedBy: 1, facts: 10, differs: 0, measured: true, waiting: 0, status: "deprecated" },
  ]);
  server.answer("GET /project", () => ({ preview: "http://preview.test/c/hollowbeck" }));
  server.answer(`${at}/about`, () => about);
  server.answer(`${at}/behaviour`, () => ({ has: false, events: [], ways: [], scenarios: [] }));
  server.answer(`${at}/releases`, () => [release("2.0.0", "1.1.0"), release("1.1.0", "1.0.0"), release("1.0.0", "")]);
  server.answer(`${at}/review`, () => review);
  server.answer("POST /components/bed-card/places", () => ({ root: [] }));
});

const opened = (sheet = "") =>
  show(
    <Routes>
      <Route path="/catalogue/:slug/:sheet?" element={<ComponentPage />} />
    </Routes>,
    `/catalogue/bed-card${sheet && `/${sheet}`}`,
  );
const texts = (label: string, selector = "tbody tr") =>
  [...screen.getByLabelText(label).querySelectorAll(selector)].map((r) => [...r.children].map((c) => c.textContent).join(" | "));

describe("the sheets of a component's page", () => {
  it("are a key apart, and the deprecated says what is used instead", async () => {
    opened();
    expect((await screen.findByRole("note")).textContent).toBe("Deprecated. Too small. Use PlotCard instead. To what is used instead");
    for (const [key, label] of [
      ["t", "States"],
      ["a", "Access"],
      ["u", "Uses"],
      ["h", "History"],
      ["r", "Review"],
      ["s", "Specimen"],
    ] as const) {
      fireEvent.keyDown(document.documentElement, { key, code: `Key${key.toUpperCase()}` });
      await waitFor(() => expect(screen.getByRole("link", { current: "page" }).textContent).toBe(label));
    }
  });

  it("say of each prop what it changes, and mark its cases where it is pointed at", async () => {
    opened();
    await waitFor(() => expect(texts("Props")).toEqual(["strong | flag | false | root color | 1 of 2"]));
    fireEvent.pointerEnter(screen.getByLabelText("Props").querySelector("tbody tr")!);
    expect([...screen.getByLabelText("All cases").querySelectorAll("[data-meant]")].map((e) => e.textContent)).toEqual(["loud"]);
    expect(screen.getByLabelText("Not meant so").textContent).toContain("two at once");
    expect(screen.queryByLabelText("Meant so")).toBeNull();
    expect(screen.getByText("One a bed").closest("ul")).toBeTruthy();
    expect(screen.getByText("Minutes").getAttribute("href")).toBe("https://example.org/minutes");
  });

  it("hold it in every state in every theme", async () => {
    opened("states");
    const cells = await screen.findByLabelText("States in every theme");
    expect([...cells.querySelectorAll("[title]")].map((e) => e.getAttribute("title")).filter((t) => t !== "States, running")).toEqual([
      "at rest, day",
      "hover, day",
      "disabled, day",
      "at rest, dusk",
      "hover, dusk",
      "disabled, dusk",
    ]);
  });

  it("lay what is measured beside what the contract says, and contrast by theme", async () => {
    opened("access");
    const frame = await screen.findByTitle<HTMLIFrameElement>("Measured for assistive technology");
    const part = (id: string, role: string, name: string) => ({
      part: id,
      box: { x: 0, y: 0, width: 1, height: 1 },
      text: "",
      style: {},
      access: { role, name },
    });
    act(() => {
      window.dispatchEvent(
        new MessageEvent("message", {
          data: { kind: "measured", cases: [{ case: "plain", parts: [part("root", "article", ""), part("words", "heading", "Chard")] }] },
          source: frame.contentWindow,
        }),
      );
    });
    await waitFor(() =>
      expect(texts("To assistive technology")).toEqual([
        "0 | root | article | article |  | Enter, Space",
        "1 | words | heading “Leeks” | heading “Chard” |  | ",
      ]),
    );
    expect(
      [...screen.getByLabelText("To assistive technology").querySelectorAll("svg")].map((s) => s.getAttribute("data-verdict")),
    ).toEqual(["agree", "code moved"]);
    expect(texts("Contrast")).toEqual(["words | 7.20  | 2.10 too little | 4.5"]);
  });

  it("say what it is made of, where it is used and which tokens it refers to", async () => {
    opened("uses");
    expect((await screen.findByText("CropTag")).getAttribute("href")).toBe("/catalogue/crop-tag");
    expect(screen.getByLabelText("Made of").textContent).toContain("2 times");
    expect(screen.getByText("Plots").getAttribute("href")).toBe("/survey?page=plots&document=furrow");
    expect(texts("Tokens")).toEqual(["space.2 |  8px | root · gap"]);
  });

  it("tell every version, and how code goes from the last major one to the newest", async () => {
    const step = {
      kind: "prop renamed",
      what: "strong is called loud.",
      before: "<BedCard strong />",
      after: "<BedCard loud />",
      mechanical: true,
    } as Schema["MigrationStep"];
    server.answer(`${at}/upgrade`, (_, query) => ({
      from: query.get("from"),
      to: query.get("to"),
      level: "major",
      changes: [],
      steps: [step],
      program: "console.log()",
    }));
    opened("history");
    expect(await screen.findByText("What 2.0.0 changed")).toBeTruthy();
    expect(screen.getByText("First release.")).toBeTruthy();
    expect(await screen.findByText("1 thing to follow, 1 of them mechanical.")).toBeTruthy();
    expect(server.queried(`${at}/upgrade`, "from")).toEqual(["1.1.0"]);
    expect(screen.getByText("Download it").getAttribute("download")).toBe("bed-card-1.1.0-2.0.0.mjs");
    fireEvent.change(screen.getByLabelText("From version"), { target: { value: "1.0.0" } });
    await waitFor(() => expect(server.queried(`${at}/upgrade`, "from")).toEqual(["1.1.0", "1.0.0"]));
    expect(screen.getAllByTitle("plain of 1.1.0")).toHaveLength(2);
  });
});

describe("a review", () => {
  it("shows the facts and the cases that changed, and what is said of each", async () => {
    opened("review");
    expect(await screen.findByText("1 fact changed since 2.0.0")).toBeTruthy();
    expect(texts("Facts that changed")).toEqual(["patch | root · gap is 8px | 1 comment"]);
    expect(screen.getByText("1 of 2 cases looks otherwise")).toBeTruthy();
    expect(screen.getByTitle("loud of 2.0.0")).toBeTruthy();
    expect(screen.queryByTitle("plain of 2.0.0")).toBeNull();
    server.answer("POST /components/bed-card/comments", () => review);
    fireEvent.click(screen.getByLabelText("Comment on root · gap is 8px, 1 open"));
    fireEvent.change(screen.getByLabelText(/On root · gap is 8px/), { target: { value: "It is **right**" } });
    fireEvent.click(screen.getByText("Say it"));
    await waitFor(() =>
      expect(server.asked("POST /components/bed-card/comments")).toEqual([
        { place: "fact", key: "root gap ", words: "root · gap is 8px", body: "It is **right**" },
      ]),
    );
    server.answer("POST /components/bed-card/comments/resolve", () => review);
    fireEvent.click(screen.getByText("Dealt with"));
    await waitFor(() => expect(server.asked("POST /components/bed-card/comments/resolve")).toEqual([{ id: 3, resolved: true }]));
  });

  it("is asked for, approved as it was looked at, and ended", async () => {
    server.answer("POST /components/bed-card/review", () => {
      server.answer(`${at}/review`, () => ({
        ...review,
        asked: { by: "Ines", note: "The tones", at: "2026-11-02T08:00:00Z", approver: "", approved: false },
      }));
      return review;
    });
    opened("review");
    fireEvent.change(await screen.findByLabelText("What is to be looked at"), { target: { value: "The tones" } });
    fireEvent.click(screen.getByText("Put it up for review"));
    expect(await screen.findByText(/“The tones”/)).toBeTruthy();
    server.answer(
      "POST /components/bed-card/review/approve",
      () => new Refusal({ status: 422, message: "Who asks for a review does not approve it. Somebody else has to." }),
    );
    fireEvent.click(screen.getByText("Approve"));
    expect(await screen.findByText("Who asks for a review does not approve it. Somebody else has to.")).toBeTruthy();
    expect(server.asked("POST /components/bed-card/review/approve")).toEqual([{ revision: 7 }]);
    server.answer("POST /approval", () => ({}));
    fireEvent.click(screen.getByLabelText("Somebody else has to approve a release, in this project"));
    await waitFor(() => expect(server.asked("POST /approval")).toEqual([{ on: true }]));
  });
});
