import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { ByComponent } from "./ByComponent";

const move = (key: string, side: Schema["Move"]["side"], more: Partial<Schema["Move"]> = {}): Schema["Move"] => ({
  key,
  side,
  kind: "value",
  facet: "space",
  part: "root-id",
  name: "root",
  property: key,
  bump: "patch",
  cases: 2,
  from: { value: "8px" },
  to: { value: "10px" },
  ...more,
});

const component = (moves: Schema["Move"][], more: Partial<Schema["SyncComponent"]> = {}): Schema["SyncComponent"] => ({
  slug: "bed-card",
  name: "BedCard",
  agreed: 1,
  design: 2,
  gone: false,
  note: "Wider beds",
  by: "Ines",
  revision: 4,
  version: "1.2.0",
  waiting: moves.length,
  due: {},
  breaks: [],
  moves,
  ...more,
});

const outcome: Schema["Outcome"] = {
  cases: 3,
  changes: [{ level: "patch", text: "root · gap: 8px to 10px" }],
  contract: 5,
  from: "1.2.0",
  level: "patch",
  blocked: "",
  released: false,
  uses: 4,
  reaches: [],
  pages: [{ page: "p", name: "Plots", uses: 4 }],
  trials: [],
  version: "1.2.1",
  waiting: 1,
};

const moves = [move("gap", "design"), move("width", "contract"), move("color", "several"), move("opacity", "design")];
const preview = "POST /components/bed-card/decide/preview";
const decide = "POST /components/bed-card/decide";

beforeEach(() => {
  server.answer("GET /sync", () => [component(moves)]);
  server.answer("GET /code", () => ({
    target: false,
    hash: "",
    inStep: 0,
    components: [],
    unknown: [],
    shared: 0,
    tokens: { read: false, revision: 0, list: [], unread: [] },
  }));
  server.answer(preview, () => outcome);
  server.answer(decide, () => ({ ...outcome, released: true }));
});

const row = (key: string) => document.querySelector<HTMLElement>(`tr[data-move="${key}"]`)!;
const choices = (key: string) => within(row(key)).getAllByRole("button");

async function opened() {
  const shown = show(<ByComponent />);
  await waitFor(() => expect(row("gap")).toBeTruthy());
  return shown;
}

describe("the drawing beside what moved", () => {
  const drawn = (key: string, more: Partial<Schema["CaseView"]> = {}) =>
    ({
      key,
      name: `case ${key}`,
      picture: "<svg></svg>",
      width: 80,
      height: 20,
      boxes: {},
      new: [],
      default: key === "m",
      ...more,
    }) as Schema["CaseView"];
  const box = { x: 4, y: 4, width: 10, height: 10 };

  it("is of a case that the move pointed at changes, and shows its part", async () => {
    server.answer("GET /components/bed-card", () => ({
      slug: "bed-card",
      cases: [drawn("m"), drawn("s"), drawn("l", { boxes: { icon: box } }), drawn("new", { new: ["Tone=resting"] })],
    }));
    server.answer("GET /sync", () => [
      component([
        move("gap", "design", { in: ["s"] }),
        move("fill", "design", { part: "icon", name: "icon", in: ["s", "l"] }),
        move("tone", "design", { kind: "option added", part: undefined, to: { value: "resting" } }),
        move("default", "design", { kind: "default", part: undefined }),
      ]),
    ]);
    await opened();
    expect(await screen.findByText("case s"), "what waits first").toBeTruthy();
    fireEvent.focus(row("fill"));
    expect(screen.getByText("case l"), "the icon is not drawn in case s").toBeTruthy();
    expect(document.querySelectorAll("[data-mark=ticks][data-chosen]")).toHaveLength(1);
    fireEvent.pointerEnter(row("tone"));
    expect(screen.getByText("case new")).toBeTruthy();
    fireEvent.focus(row("default"));
    expect(screen.getByText("case m")).toBeTruthy();
  });
});

describe("what waits to be decided", () => {
  it("stands by whose move it is, each with what can be done about it", async () => {
    await opened();
    const heads = [...document.querySelectorAll("tbody th")].map((h) => h.textContent);
    expect(heads).toEqual(["The design moved", "The contract moved", "Both moved, apart"]);
    const order = [...document.querySelectorAll<HTMLElement>("tr[data-move]")].map((r) => r.dataset.move);
    expect(order).toEqual(["gap", "opacity", "width", "color"]);
    expect(choices("gap").map((b) => b.textContent)).toEqual(["Take design", "Keep"]);
    expect(choices("width").map((b) => b.textContent)).toEqual(["Ask designer", "Keep", "Take design"]);
  });

  it("is told to do nothing until something is decided, and asks what it would do", async () => {
    await opened();
    expect(screen.queryByRole("button", { name: "Confirm" })).toBeNull();
    fireEvent.click(choices("gap")[0]!);
    expect(await screen.findByText(/1 taken, 0 kept, 0 asked: 3 cases look different, 1 left/)).toBeTruthy();
    expect(screen.getByText("Plots (4)", { exact: false }), "the pages that it reaches").toBeTruthy();
    expect(server.asked(preview)).toEqual([{ revision: 4, design: 2, take: ["gap"], keep: [], ask: [], merge: [], release: true }]);
    expect(server.asked(decide)).toEqual([]);
    fireEvent.click(choices("gap")[0]!); // takes the decision back
    await waitFor(() => expect(screen.queryByRole("button", { name: "Confirm" })).toBeNull());
  });

  it("is decided by keys on the row that has the focus, where that can be done", async () => {
    await opened();
    row("gap").focus();
    fireEvent.keyDown(row("gap"), { key: "d" }); // a designer is not asked to do what the design says
    expect(choices("gap").some((b) => b.getAttribute("aria-pressed") === "true")).toBe(false);
    fireEvent.keyDown(row("gap"), { key: "k" });
    expect(choices("gap")[1]!.getAttribute("aria-pressed")).toBe("true");
    fireEvent.keyDown(row("gap"), { key: "ArrowDown" });
    expect(document.activeElement).toBe(row("opacity"));
    fireEvent.keyDown(row("width"), { key: "d" });
    await waitFor(() => expect(server.asked(preview).at(-1)).toMatchObject({ keep: ["gap"], ask: ["width"] }));
  });

  it("wants a reason before the contract's own move is kept", async () => {
    await opened();
    fireEvent.click(choices("width")[1]!);
    const confirm = await screen.findByRole<HTMLButtonElement>("button", { name: "Confirm" });
    expect(confirm.disabled).toBe(true);
    const reason = screen.getByLabelText(/Why the contract is to differ/);
    fireEvent.change(reason, { target: { value: "   " } });
    expect(confirm.disabled).toBe(true);
    fireEvent.change(reason, { target: { value: "Beds are wider in code" } });
    expect(confirm.disabled).toBe(false);
    fireEvent.click(confirm);
    await waitFor(() => expect(server.asked(decide)).toHaveLength(1));
    expect(server.asked(decide)[0]).toMatchObject({ keep: ["width"], reason: "Beds are wider in code" });
  });

  it("is taken whole with one press, the contract's own moves left alone", async () => {
    await opened();
    fireEvent.click(screen.getByRole("button", { name: "Take all from the design" }));
    await waitFor(() => expect(server.asked(preview).at(-1)).toMatchObject({ take: ["gap", "opacity"], keep: [], ask: [] }));
  });

  it("says what came first when somebody else was quicker, and keeps the decisions", async () => {
    server.answer(
      decide,
      () =>
        new Refusal({
          status: 409,
          message: "The contract is at revision 5.",
          current: { revision: 5, note: "gap set", changes: [{ level: "patch", text: "root · gap: 9px to 10px" }] },
        }),
    );
    await opened();
    fireEvent.click(choices("gap")[0]!);
    fireEvent.click(await screen.findByRole("button", { name: "Confirm" }));
    expect(await screen.findByText(/Now at revision 5/)).toBeTruthy();
    expect(screen.getByText(/9px to 10px/)).toBeTruthy();
    expect(choices("gap")[0]!.getAttribute("aria-pressed")).toBe("true");
  });

  it("shows what was kept or asked before as standing, not as waiting", async () => {
    server.answer("GET /sync", () => [component([move("gap", "contract", { kept: true }), move("width", "contract", { asked: true })])]);
    await opened();
    expect(choices("gap").map((b) => b.textContent)).toEqual(["Ask designer", "Kept", "Take design"]);
    expect(choices("width")[0]!.textContent).toBe("Asked");
    expect(screen.queryByRole("button", { name: "Confirm" })).toBeNull();
  });
});

describe("when there is nothing to decide", () => {
  it("says so, and where to look", async () => {
    server.answer("GET /sync", () => []);
    show(<ByComponent />);
    expect(await screen.findByText("Nothing has moved")).toBeTruthy();
  });
  it("says that a family is gone, without a table", async () => {
    server.answer("GET /sync", () => [component([], { gone: true })]);
    show(<ByComponent />);
    expect(await screen.findByText(/no longer|does not hold this family/)).toBeTruthy();
    expect(document.querySelector("table")).toBeNull();
  });
  it("says what went wrong, with a way to try again", async () => {
    server.answer("GET /sync", () => new Refusal({ status: 500, message: "The database does not answer." }));
    show(<ByComponent />);
    expect(await screen.findByText("The database does not answer.")).toBeTruthy();
    server.answer("GET /sync", () => []);
    fireEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(await screen.findByText("Nothing has moved")).toBeTruthy();
  });
});
