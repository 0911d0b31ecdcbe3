import { fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, it, vi } from "vitest";

import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { Outline } from "./Outline";
import { levelOf, PageLedger } from "./PageLedger";
import { Trials } from "./Trials";
import { useOutline } from "./useOutline";
import { VersionsFacet } from "./VersionsFacet";

const page = (over: Partial<Schema["TrialPage"]>): Schema["TrialPage"] => ({
  slug: "beds",
  name: "Beds",
  component: "BedsPage",
  outline: "stack\n",
  revision: 1,
  undoes: "",
  redoes: "",
  build: "a",
  props: {},
  pieces: [],
  problems: [],
  warnings: [],
  groups: [],
  uses: [],
  sources: [],
  needs: [],
  gaps: 0,
  widths: [1440],
  document: "",
  drawn: [],
  themes: [],
  switches: [],
  ...over,
});

/** What an outline that is edited says, with what was kept of it. */
function Edited({ of }: { of: Schema["TrialPage"] }) {
  const { lines, edit, error } = useOutline(of);
  return (
    <>
      <pre data-testid="lines">{lines.join("|")}</pre>
      <p data-testid="error">{error?.message}</p>
      {["a", "b", "c"].map((l) => (
        <button key={l} type="button" onClick={() => edit([...lines.slice(0, 1), l], `row ${l}`)}>
          {l}
        </button>
      ))}
    </>
  );
}

describe("an outline that is typed in", () => {
  it("is shown at once, and kept one edit behind the other, each on the revision before", async () => {
    const asked: { revision: number; outline: string }[] = [];
    server.answer("POST /trial/pages/beds", (body: { revision: number; outline: string }) => {
      asked.push(body);
      return page({ outline: body.outline, revision: body.revision + 1 });
    });
    show(<Edited of={page({})} />);
    fireEvent.click(screen.getByText("a"));
    fireEvent.click(screen.getByText("b"));
    fireEvent.click(screen.getByText("c"));
    expect(screen.getByTestId("lines").textContent).toBe("stack|c");
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ revision: 2, outline: "stack\nc\n" }));
    expect(asked[0]).toMatchObject({ revision: 1, outline: "stack\na\n" });
    expect(asked).toHaveLength(2); // what was typed over before it was kept is no edit
    fireEvent.click(screen.getByText("c"));
    fireEvent.click(screen.getByText("a"));
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ revision: 3, outline: "stack\na\n" }));
    expect(asked).toHaveLength(3); // the same again is none, either
  });

  it("says that somebody else was first, and takes what they made of it", async () => {
    server.answer("POST /trial/pages/beds", () => new Refusal({ status: 409, message: "Somebody else edited the page meanwhile." }));
    function Both() {
      const [of, setOf] = useState(page({}));
      return (
        <>
          <Edited of={of} />
          <button type="button" onClick={() => setOf(page({ outline: "row\n", revision: 5 }))}>
            theirs
          </button>
        </>
      );
    }
    show(<Both />);
    fireEvent.click(screen.getByText("a"));
    await waitFor(() => expect(screen.getByTestId("error").textContent).toContain("Somebody else"));
    fireEvent.click(screen.getByText("theirs"));
    await waitFor(() => expect(screen.getByTestId("lines").textContent).toBe("row"));
  });
});

describe("the outline's rows", () => {
  const outline = (over: Partial<Parameters<typeof Outline>[0]> = {}) => {
    const edited = vi.fn<(lines: string[], step: string) => void>();
    const chosen = vi.fn<(at: number) => void>();
    show(
      <Outline
        slug="beds"
        lines={["stack", "  Card title=A", "  p"]}
        problems={[{ line: 2, severity: "error", rule: "row", message: "there is no component Card" }]}
        warnings={[]}
        chosen={1}
        onChoose={chosen}
        onEdit={edited}
        {...over}
      />,
    );
    return { edited, chosen, grid: screen.getByRole("treegrid") };
  };

  it("are moved, wrapped, duplicated and removed by keys", () => {
    const { edited, grid } = outline();
    fireEvent.keyDown(grid, { key: "ArrowDown", altKey: true });
    expect(edited).toHaveBeenLastCalledWith(["stack", "  p", "  Card title=A"], "moved");
    fireEvent.keyDown(grid, { key: "s" });
    expect(edited).toHaveBeenLastCalledWith(["stack", "  stack", "    Card title=A", "  p"], "a stack around");
    fireEvent.keyDown(grid, { key: "u" });
    expect(edited).toHaveBeenLastCalledWith(["stack", "  Card title=A", "  Card title=A", "  p"], "duplicated");
    fireEvent.keyDown(grid, { key: "Delete" });
    expect(edited).toHaveBeenLastCalledWith(["stack", "  p"], "removed");
    fireEvent.keyDown(grid, { key: "s", ctrlKey: true }); // is the browser's
    expect(edited).toHaveBeenCalledTimes(4);
  });

  it("say which cannot be shown, and which is chosen", () => {
    outline();
    const rows = screen.getAllByRole("row");
    expect(rows[1]!.getAttribute("aria-selected")).toBe("true");
    expect(rows[1]!.textContent).toContain("cannot be shown");
    expect(rows[0]!.textContent).not.toContain("cannot");
  });

  it("are typed in, with what could follow, and left by Escape", async () => {
    server.answer("POST /trial/pages/beds/complete", () => [
      { text: "CropTag ", label: "CropTag", detail: "1.0.0", kind: "component", slug: "crop-tag" },
    ]);
    const { edited, grid } = outline();
    fireEvent.keyDown(grid, { key: "Enter" });
    const input = screen.getByRole("combobox");
    expect((input as HTMLInputElement).value).toBe("Card title=A");
    fireEvent.change(input, { target: { value: "cro" } });
    expect(edited).toHaveBeenLastCalledWith(["stack", "  cro", "  p"], "row 2");
    await screen.findByRole("option", { name: /CropTag/ });
    expect(server.asked("POST /trial/pages/beds/complete").at(-1)).toMatchObject({ line: 2, typed: "cro" });
    fireEvent.keyDown(input, { key: "Tab" });
    expect((input as HTMLInputElement).value).toBe("CropTag ");
    fireEvent.keyDown(input, { key: "Escape" });
    fireEvent.keyDown(input, { key: "Escape" });
    await waitFor(() => expect(screen.queryByRole("combobox")).toBeNull());
    expect(edited).toHaveBeenLastCalledWith(["stack", "  CropTag", "  p"], "row 2");
  });

  it("begin a row below by Enter", () => {
    const { edited, chosen, grid } = outline();
    fireEvent.keyDown(grid, { key: "Enter" });
    fireEvent.keyDown(screen.getByRole("combobox"), { key: "Enter" });
    expect(edited).toHaveBeenLastCalledWith(["stack", "  Card title=A", "  ", "  p"], "a row");
    expect(chosen).toHaveBeenLastCalledWith(2);
  });
});

describe("a page against its drawing", () => {
  const box = { x: 0, y: 0, width: 1, height: 1 };
  const compared = (over: Partial<Schema["PageComparison"]>): Schema["PageComparison"] => ({
    width: 1440,
    pieces: 7,
    drawn: 8,
    counted: 0,
    differences: [],
    ...over,
  });

  it("says where it is level, and leads from what differs to its row", () => {
    const point = vi.fn<(at: number) => void>();
    show(
      <PageLedger
        compared={[
          compared({
            counted: 1,
            differences: [
              { kind: "size", name: "Card", line: 4, key: "card", layer: "l", drawn: "10 × 10", built: "10 × 14", follows: "", box },
              { kind: "missing", name: "Bar", line: 0, key: "", layer: "m", drawn: "1 × 1 at 0, 0", built: "", follows: "", box },
            ],
          }),
          compared({ width: 390, pieces: 5, drawn: 5 }),
        ]}
        chosen={3}
        onPoint={point}
      />,
    );
    expect(screen.getByText(/level at 390/)).toBeTruthy();
    expect(screen.getByText("not on the page")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Card" }));
    expect(point).toHaveBeenCalledWith(3);
    expect(screen.queryByRole("button", { name: "Bar" })).toBeNull();
  });

  it("counts what follows from nothing else", () => {
    expect(levelOf(undefined)).toBeUndefined();
    expect(levelOf(compared({}))).toEqual({ text: "level with the drawing", moved: false });
    expect(levelOf(compared({ counted: 2 }))).toEqual({ text: "2 differences", moved: true });
  });
});

describe("versions for widths", () => {
  it("say which widths nothing is for, and lead to their rows", () => {
    const row = vi.fn<(at: number) => void>();
    const lines = ["stack", "  below 640", "    p", "  from 700", "    p", "  grid", "    below 900 gap=4px"];
    const version = (from: number, below: number, line: number) => ({ from, below, line, what: "p" });
    show(
      <VersionsFacet
        page={page({
          groups: [
            { line: 1, in: "", versions: [version(0, 640, 2), version(700, 0, 4)], gaps: [{ from: 640, below: 700 }], overlaps: [] },
          ],
        })}
        lines={lines}
        onRow={row}
      />,
    );
    expect(screen.getByText("No version is for widths 640 to 700 px.")).toBeTruthy();
    fireEvent.click(screen.getByTitle("from 700 px on"));
    expect(row).toHaveBeenLastCalledWith(3);
    fireEvent.click(screen.getByRole("button", { name: /below 900 gap=4px/ }));
    expect(row).toHaveBeenLastCalledWith(6);
  });
});

describe("pages on trial", () => {
  const entry = (over: Partial<Schema["TrialEntry"]>): Schema["TrialEntry"] => ({
    slug: "beds",
    name: "Beds",
    components: ["Card"],
    uses: 1,
    gaps: 0,
    errors: 0,
    warnings: 0,
    behind: 0,
    drawn: [],
    sources: [],
    ...over,
  });

  it("say what each still needs, and are removed once that is meant", async () => {
    server.answer("GET /trial", () => [entry({ gaps: 2, errors: 1, behind: 1 }), entry({ slug: "news", name: "News" })]);
    server.answer("GET /sources", () => ({ documents: [{ id: "furrow", name: "Furrow" }], tokens: [] }));
    server.answer("POST /trial/pages/beds/remove", () => ({}));
    show(<Trials />);
    expect(await screen.findByText("2 gaps to fill, 1 row to put right, 1 newer release")).toBeTruthy();
    expect(await screen.findByRole("button", { name: "Take over all pages of Furrow" })).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Remove Beds" }));
    expect(server.asked("POST /trial/pages/beds/remove")).toHaveLength(0);
    fireEvent.click(screen.getByRole("button", { name: "Remove for good" }));
    await waitFor(() => expect(server.asked("POST /trial/pages/beds/remove")).toHaveLength(1));
  });
});
