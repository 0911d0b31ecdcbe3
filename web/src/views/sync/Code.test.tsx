import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { server, show } from "../../test-server";
import { Branch } from "./Branch";
import { CodeCard } from "./Code";

const hash = "2eebdaa26b578be5f595af528b068a98e4e63778";

const move = (key: string, side: Schema["CodeMove"]["side"], more: Partial<Schema["CodeMove"]> = {}): Schema["CodeMove"] => ({
  key,
  side,
  kind: "value",
  about: { kind: "part", id: "root", property: key },
  name: "root",
  base: "8px",
  contract: "8px",
  code: "9px",
  bump: "patch",
  facts: 1,
  said: `${key} is otherwise`,
  when: "",
  outcome: "",
  reason: "",
  by: "",
  takable: true,
  ...more,
});

const component = (moves: Schema["CodeMove"][], more: Partial<Schema["CodeComponent"]> = {}): Schema["CodeComponent"] => ({
  slug: "bed-card",
  name: "BedCard",
  revision: 4,
  state: "moved",
  file: "src/BedCard.tsx",
  moves,
  unread: [],
  waiting: moves.length,
  toWrite: 0,
  ...more,
});

const decide = "POST /code/components/bed-card";
const row = (key: string) => document.querySelector<HTMLElement>(`tr[data-move="${key}"]`)!;
const button = (key: string, name: string) => within(row(key)).getByRole<HTMLButtonElement>("button", { name });
const decided = () => server.asked(decide)[0] as Schema["CodeDecision"];

beforeEach(() => {
  server.answer(decide, () => ({ slug: "bed-card", revision: 5, build: "5", reaches: [] }));
  server.answer(`${decide}/plan`, () => ({
    cases: 1,
    changes: [],
    contract: 5,
    from: "",
    level: "patch",
    blocked: "",
    released: false,
    uses: 4,
    version: "1.0.0",
    waiting: 0,
    reaches: [],
    pages: [{ page: "p", name: "Plots", uses: 4 }],
    trials: [],
  }));
});

describe("what the code says otherwise", () => {
  const moves = [
    move("gap", "code"),
    move("width", "several"),
    move("opacity", "contract"),
    move("code", "code", { takable: false }),
    move("color", "code", { outcome: "back" }),
  ];

  it("is decided by keys, for the commit and the revision that were read", async () => {
    show(<CodeCard component={component(moves)} hash={hash} few={false} />);
    row("gap").focus();
    fireEvent.keyDown(row("gap"), { key: "t" });
    fireEvent.keyDown(row("gap"), { key: "ArrowDown" });
    expect(document.activeElement).toBe(row("width"));
    fireEvent.keyDown(row("width"), { key: "b" });
    expect(screen.getByText("1 taken into the contract, 1 put back by the next branch.")).toBeTruthy();
    const confirm = screen.getByRole<HTMLButtonElement>("button", { name: "Confirm" });
    expect(confirm.disabled, "what it would do is not known yet").toBe(true);
    await waitFor(() => expect(confirm.disabled).toBe(false));
    expect(screen.getByText("Plots (4)", { exact: false }), "the pages that it reaches").toBeTruthy();
    fireEvent.click(confirm);
    await waitFor(() => expect(server.asked(decide)).toHaveLength(1));
    expect(decided()).toMatchObject({ revision: 4, hash, take: ["gap"], back: ["width"], leave: [], ask: [], clear: [] });
  });
  it("is not taken where a contract cannot hold it, and not decided where the contract moved", () => {
    show(<CodeCard component={component(moves)} hash={hash} few={false} />);
    fireEvent.keyDown(row("code"), { key: "t" });
    fireEvent.keyDown(row("opacity"), { key: "b" });
    expect(screen.queryByRole("button", { name: "Confirm" })).toBeNull();
    expect(button("code", "Take code").disabled).toBe(true);
    expect(within(row("opacity")).queryAllByRole("button")).toHaveLength(0);
  });
  it("differs for a reason, or not", () => {
    show(<CodeCard component={component(moves)} hash={hash} few={false} />);
    fireEvent.click(button("gap", "Leave"));
    const confirm = screen.getByRole<HTMLButtonElement>("button", { name: "Confirm" });
    expect(confirm.disabled).toBe(true);
    fireEvent.change(screen.getByRole("textbox"), { target: { value: "the shed is dark" } });
    expect(confirm.disabled).toBe(false);
  });
  it("is open again once what stands is pressed", async () => {
    show(<CodeCard component={component(moves)} hash={hash} few={false} />);
    expect(button("color", "Put back").getAttribute("aria-pressed")).toBe("true");
    fireEvent.click(button("color", "Put back"));
    expect(button("color", "Put back").getAttribute("aria-pressed")).toBe("false");
    fireEvent.click(screen.getByRole("button", { name: "Confirm" }));
    await waitFor(() => expect(server.asked(decide)).toHaveLength(1));
    expect(decided()).toMatchObject({ clear: ["color"], back: [] });
  });
  it("says where code is missing, and which pieces of it were not read", () => {
    show(<CodeCard component={component([], { state: "missing" })} hash={hash} few={false} />);
    expect(screen.getByText(/There is no code of it yet/)).toBeTruthy();
    show(
      <CodeCard
        component={component(moves, {
          unread: [{ rule: "unread", severity: "warning", message: "a loop", pointer: "", file: "src/BedCard.tsx", line: 7, column: 2 }],
        })}
        hash={hash}
        few={false}
      />,
    );
    expect(screen.getByText("1 piece of the code was not read")).toBeTruthy();
    expect(screen.getByText("src/BedCard.tsx:7")).toBeTruthy();
  });
});

describe("what a branch holds", () => {
  const clash = { key: "root gap", what: "both changed gap", line: 3, ours: "8px", theirs: "9px", file: "src/BedCard.css" };
  const plan = (choose: Record<string, string>): Schema["WritePlan"] => ({
    hash,
    branch: "cobrik/spring",
    blocked: choose["src/BedCard.css root gap"] ? "" : "1 place waits to be chosen.",
    components: [
      {
        slug: "bed-card",
        name: "BedCard",
        message: "BedCard: 1 fact in step\n\n- gap is 8px\n",
        files: [{ name: "src/BedCard.css", added: 1, removed: 1 }],
        conflicts: [clash as Schema["FileConflict"]],
        left: [],
        also: [],
      },
    ],
  });

  it("waits for a side where both changed one thing, and is written with it", async () => {
    server.answer("GET /target", () => ({ path: "/shed.git", branch: "main", folder: "", revision: 1 }));
    server.answer("POST /code/plan", (body: Schema["WriteRequest"]) => plan(body.choose ?? {}));
    server.answer("POST /code/write", () => ({ branch: "cobrik/spring", hash, commits: 1, forward: false }));
    show(<Branch hash={hash} />);
    expect(await screen.findByText("1 place waits to be chosen.")).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Write" }).disabled).toBe(true);
    fireEvent.click(screen.getByRole("button", { name: /Code/ }));
    await waitFor(() => expect(screen.getByRole<HTMLButtonElement>("button", { name: "Write" }).disabled).toBe(false));
    expect(screen.getByRole("button", { name: /Code/ }).getAttribute("aria-pressed")).toBe("true");
    fireEvent.click(screen.getByRole("button", { name: "Write" }));
    await waitFor(() => expect(server.asked("POST /code/write")).toHaveLength(1));
    expect(server.asked("POST /code/write")[0]).toMatchObject({
      hash,
      branch: "",
      forward: false,
      choose: { "src/BedCard.css root gap": "theirs" },
    });
  });
});
