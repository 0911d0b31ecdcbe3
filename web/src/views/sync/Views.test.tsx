import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { server, show } from "../../test-server";
import { Causes } from "./Causes";
import { Decided } from "./Decided";
import { OverTime } from "./OverTime";
import { TokenCard } from "./TokenCard";
import { WhoWins } from "./WhoWins";

const moved = (key: string, more: Partial<Schema["Moved"]> = {}): Schema["Moved"] => ({
  component: "bed-card",
  of: "BedCard",
  lane: "design",
  key,
  side: "design",
  facet: "paint",
  kind: "value",
  property: "color",
  from: "{leaf}",
  to: "{moss}",
  said: `${key} is otherwise`,
  cases: 2,
  bump: "patch",
  open: true,
  takable: true,
  ...more,
});

const cause = (key: string, moves: Schema["Moved"][], more: Partial<Schema["Cause"]> = {}): Schema["Cause"] => ({
  key,
  lane: moves[0]!.lane,
  side: moves[0]!.side,
  said: `${key} stands elsewhere`,
  from: "{leaf}",
  to: "{moss}",
  moves,
  components: new Set(moves.map((m) => m.component)).size,
  open: moves.filter((m) => m.open).length,
  bump: "patch",
  ...more,
});

const outcome: Schema["Outcome"] = {
  cases: 3,
  changes: [],
  contract: 5,
  from: "1.2.0",
  level: "patch",
  blocked: "",
  released: false,
  uses: 0,
  version: "1.2.1",
  waiting: 0,
  reaches: ["PlotCard"],
  pages: [],
  trials: [],
};

const drift = (more: Partial<Schema["Drifted"]>): Schema["Drifted"] => ({
  hash: "abc",
  causes: [],
  precedences: [],
  due: [],
  read: { "bed-card": 4 },
  ...more,
});

const plan = "POST /drift/plan";
const press = "POST /drift/decide";

beforeEach(() => {
  server.answer(plan, () => [{ component: "bed-card", of: "BedCard", problem: "", outcome }]);
  server.answer(press, () => [{ component: "bed-card", of: "BedCard", problem: "", outcome }]);
});

describe("what moved, by its causes", () => {
  const code = { lane: "code", side: "code" } as const;
  beforeEach(() =>
    server.answer("GET /drift", () =>
      drift({
        causes: [
          cause("leaf", [moved("one"), moved("two", { component: "plot-card", of: "PlotCard" })]),
          cause("gap", [moved("three")]),
          cause("held", [moved("four", { ...code, takable: false })]),
          cause("ours", [moved("five", { lane: "code", side: "contract", open: false })]),
        ],
      }),
    ),
  );
  const group = (name: string) => within(screen.getByRole("region", { name }));

  it("is decided as a whole: all moves of a cause, with the revisions that were read", async () => {
    show(<Causes />);
    await screen.findByText("The design moved");
    expect(screen.getByText(/explains 2 moves of BedCard and PlotCard/)).toBeTruthy();
    fireEvent.click(group("The design moved").getAllByRole("button", { name: "Keep" })[0]!);
    fireEvent.click(await screen.findByRole("button", { name: "Decide 2 moves" }));
    await waitFor(() => expect(server.asked(press)).toHaveLength(1));
    expect(server.asked(press)[0]).toMatchObject({
      hash: "abc",
      read: { "bed-card": 4 },
      choices: [
        { component: "bed-card", lane: "design", key: "one", way: "keep" },
        { component: "plot-card", lane: "design", key: "two", way: "keep" },
      ],
    });
  });

  it("offers only what can be done", async () => {
    show(<Causes />);
    await screen.findByText("The code moved");
    expect(group("The code moved").queryByRole("button", { name: "Take" }), "no contract can hold it").toBeNull();
    expect(
      group("The contract moved, and is written with the next branch")
        .queryAllByRole("button")
        .filter((b) => b.textContent !== ""),
    ).toHaveLength(0);
    fireEvent.click(group("The design moved").getByRole("button", { name: "Take all" }));
    expect(await screen.findByRole("button", { name: "Decide 3 moves" })).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Not now" }));
    expect(screen.queryByRole("button", { name: /^Decide/ })).toBeNull();
  });

  it("wants a reason for what is left, and says why something cannot be decided", async () => {
    server.answer(plan, () => [{ component: "bed-card", of: "BedCard", problem: "It moved meanwhile." }]);
    show(<Causes />);
    await screen.findByText("The code moved");
    fireEvent.click(group("The code moved").getByRole("button", { name: "Leave" }));
    expect(await screen.findByText("It moved meanwhile.")).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Decide 1 move" }).disabled).toBe(true);
  });
});

describe("who wins", () => {
  it("is said once its reach was shown, and carried out on its own", async () => {
    server.answer("GET /drift", () =>
      drift({ precedences: [{ facet: "space", wins: "design", by: "Ines" }], due: [{ ...moved("one"), way: "take" }] }),
    );
    server.answer("POST /drift/precedences/reach", () => [{ ...moved("one"), way: "take" }]);
    server.answer("POST /drift/precedences", () => ({}));
    show(<WhoWins />);
    expect(await screen.findByText("space: the design wins")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Who wins…" }));
    const list = await screen.findByLabelText("Who wins in paint");
    expect(screen.queryByRole("button", { name: "Say so" })).toBeNull();
    fireEvent.change(list, { target: { value: "code" } });
    expect((await screen.findAllByText("1 move of BedCard")).length).toBeGreaterThan(0);
    fireEvent.click(screen.getByRole("button", { name: "Say so" }));
    await waitFor(() => expect(server.asked("POST /drift/precedences")).toEqual([{ facet: "paint", wins: "code" }]));
    fireEvent.click(screen.getByRole("button", { name: "Carry out 1…", hidden: true }));
    fireEvent.click(await screen.findByRole("button", { name: "Decide 1 move" }));
    await waitFor(() => expect(server.asked(press)[0]).toMatchObject({ ruled: true, choices: [{ key: "one", way: "take" }] }));
  });
});

describe("what was decided", () => {
  const ruling = (id: number, more: Partial<Schema["Ruling"]> = {}): Schema["Ruling"] => ({
    id,
    press: id,
    component: "bed-card",
    of: "BedCard",
    lane: "design",
    at: "design revision 2",
    by: "Ines",
    when: "2026-03-02T09:00:00Z",
    reason: "",
    decided: [{ key: "a", said: `move ${id}`, way: "take", from: "", to: "", bump: "patch" }],
    version: "",
    undoable: false,
    ...more,
  });

  it("is undone where it can be, and looked for by words", async () => {
    server.answer("GET /decisions", () => [
      ruling(2, { undoable: true, reason: "Thumbs." }),
      ruling(1, { undone: "2026-03-03T09:00:00Z" }),
    ]);
    server.answer("POST /decisions/2/undo", () => ({ slug: "bed-card", revision: 6, build: "6", reaches: [] }));
    show(<Decided />);
    expect(await screen.findByText("“Thumbs.”")).toBeTruthy();
    const undo = screen.getAllByRole("button", { name: "Undo" });
    expect(undo).toHaveLength(1);
    fireEvent.click(undo[0]!);
    await waitFor(() => expect(server.asked("POST /decisions/2/undo")).toHaveLength(1));
    server.answer("GET /decisions", () => []);
    fireEvent.change(screen.getByLabelText("Find in what was decided"), { target: { value: "moss" } });
    expect(await screen.findByText(/Nothing that was decided has all of these words/)).toBeTruthy();
  });
});

describe("token files", () => {
  const token = (path: string, more: Partial<Schema["CodeToken"]> = {}): Schema["CodeToken"] => ({
    key: path,
    kind: "token",
    file: "core.tokens.json",
    path,
    base: "8px",
    ours: "8px",
    theirs: "9px",
    from: "",
    side: "code",
    outcome: "",
    ...more,
  });
  const row = (key: string) => document.querySelector<HTMLElement>(`tr[data-move="${key}"]`)!;

  it("are decided token by token, by keys, and opened again", async () => {
    server.answer("POST /code/tokens", () => ({ revision: 8 }));
    const list = [token("a"), token("b"), token("c", { outcome: "back" }), token("d", { side: "contract" })];
    show(<TokenCard tokens={{ read: true, revision: 7, list, unread: [] }} hash="abc" />);
    row("a").focus();
    fireEvent.keyDown(row("a"), { key: "t" });
    fireEvent.keyDown(row("a"), { key: "ArrowDown" });
    expect(document.activeElement).toBe(row("b"));
    fireEvent.keyDown(row("b"), { key: "b" });
    fireEvent.keyDown(row("c"), { key: "b" });
    fireEvent.keyDown(row("d"), { key: "t" });
    expect(within(row("d")).getByText("written with the next branch")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Confirm" }));
    await waitFor(() =>
      expect(server.asked("POST /code/tokens")).toEqual([{ revision: 7, hash: "abc", take: ["a"], back: ["b"], clear: ["c"] }]),
    );
  });
});

describe("how far all agree", () => {
  it("shows what changed from one time to the other, those that wait first", async () => {
    const stand = (name: string, more: Partial<Schema["Stand"]> = {}): Schema["Stand"] => ({
      slug: name.toLowerCase(),
      name,
      version: "1.0.0",
      facts: 10,
      design: 0,
      contract: 0,
      code: 0,
      several: 0,
      apart: 0,
      released: true,
      ...more,
    });
    const point = (id: number, at: string, components: Schema["Stand"][]): Schema["DriftPoint"] => ({
      id,
      at,
      why: "decided",
      design: "",
      code: "",
      components,
    });
    const way = ["2026-03-01T09:00:00Z", "2026-03-02T09:00:00Z"].map((at) => ({
      at,
      why: "decided",
      level: 1,
      of: 2,
      design: 0,
      contract: 0,
      code: 0,
      several: 0,
    }));
    server.answer("GET /drift/report", () => ({
      project: "Beds",
      from: point(1, way[0]!.at, [stand("A"), stand("B")]),
      to: point(2, way[1]!.at, [stand("A"), stand("B", { code: 2 })]),
      level: [2, 1],
      open: [0, 2],
      changes: [],
      way,
      decided: [],
    }));
    show(<OverTime />);
    expect(await screen.findByText("1 of 2 components are level")).toBeTruthy();
    const rows = screen.getAllByRole("row").slice(1);
    expect(rows.map((r) => within(r).getByRole("link").textContent)).toEqual(["B", "A"]);
    expect(within(rows[0]!).getByText("was 0")).toBeTruthy();
    expect(screen.getByRole<HTMLAnchorElement>("link", { name: "MD" }).href).toContain("as=md");
  });
});
