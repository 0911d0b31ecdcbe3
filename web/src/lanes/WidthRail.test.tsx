import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";

import type { Schema } from "../api/client";
import { Refusal, server, show } from "../test-server";
import { WidthRail } from "./WidthRail";

const widths: Schema["Widths"] = {
  case: "",
  from: 160,
  to: 1600,
  bands: [{ from: 160, to: 413, node: "n7", part: "root › bed list", kind: "too wide", reason: "by 12 px" }],
  proposals: [{ at: 414, of: "n7", part: "n2", name: "tools", kinds: ["stack"], why: "below, let it wrap" }],
  points: [{ at: 480, parts: ["root"] }],
};
const drawn: Schema["CaseView"] = {
  key: "k",
  name: "as drawn",
  props: {},
  paths: {},
  picture: "<svg/>",
  boxes: {},
  new: [],
  width: 600,
  height: 40,
  container: 0,
  fills: true,
} as unknown as Schema["CaseView"];

beforeEach(() => {
  server.answer("GET /components/shed-bar/widths", () => widths);
  server.answer("POST /components/shed-bar/arrange", () => ({ revision: 4 }));
  server.answer("POST /components/shed-bar/switch", () => ({ revision: 4 }));
});

async function opened(width?: number) {
  const onWidth = vi.fn();
  const onPart = vi.fn();
  show(<WidthRail slug="shed-bar" build="b" revision={3} shown={drawn} width={width} onWidth={onWidth} part={undefined} onPart={onPart} />);
  return { ruler: await screen.findByRole("slider"), onWidth, onPart };
}

describe("the ruler of widths", () => {
  it("is moved by keys: by a pixel, by sixteen, to where something changes, and not out of its range", async () => {
    const { ruler, onWidth } = await opened(600);
    const after = (key: string, shiftKey = false) => {
      fireEvent.keyDown(ruler, { key, shiftKey });
      return (onWidth.mock.lastCall as [number, boolean])[0];
    };
    expect(after("ArrowRight")).toBe(601);
    expect(after("ArrowLeft", true)).toBe(584);
    expect(after("Home")).toBe(160);
    expect(after("End")).toBe(1600);
    expect(after("PageDown")).toBe(480);
    expect(after("PageUp")).toBe(1600);
    expect(after("Escape")).toBeUndefined();
  });
  it("stops at the ends and at every edge of what breaks", async () => {
    const { ruler, onWidth } = await opened(160);
    fireEvent.keyDown(ruler, { key: "ArrowLeft" });
    expect(onWidth).toHaveBeenLastCalledWith(160, true);
    fireEvent.keyDown(ruler, { key: "PageUp" });
    expect(onWidth).toHaveBeenLastCalledWith(413, true);
  });
  it("says as drawn until a width is chosen, and leaves other keys alone", async () => {
    const { ruler, onWidth } = await opened();
    expect(ruler.getAttribute("aria-valuetext")).toBe("600 px, as drawn");
    expect(screen.queryByRole("button", { name: "back to drawn" })).toBeNull();
    for (const key of ["Escape", "Tab", "x"]) fireEvent.keyDown(ruler, { key });
    expect(onWidth).not.toHaveBeenCalled();
  });
});

describe("what is said of widths", () => {
  it("calls parts by name, and shows them by id", async () => {
    const { onPart } = await opened();
    const band = screen.getByText("bed list").closest("li")!;
    expect(band.textContent).toContain("160 to 413 px bed list too wide: by 12 px");
    fireEvent.focus(band);
    expect(onPart).toHaveBeenLastCalledWith("n7");
    expect(document.body.textContent).not.toMatch(/n2|n7/);
  });
  it("offers what would end the trouble, and does it to the container", async () => {
    await opened();
    fireEvent.click(screen.getByRole("button", { name: "tools: stack below 414 px" }));
    await waitFor(() => expect(server.asked("POST /components/shed-bar/arrange")).toHaveLength(1));
    expect(server.asked("POST /components/shed-bar/arrange")[0]).toEqual({
      revision: 3,
      case: "k",
      part: "n2",
      kind: "stack",
      below: 414,
      at: 413,
    });
  });
  it("moves a switch point to the width that is looked at, and says when that cannot be", async () => {
    server.answer("POST /components/shed-bar/switch", () => new Refusal({ status: 409, message: "Another revision came first." }));
    await opened(700);
    fireEvent.click(screen.getByRole("button", { name: "Move to 700 px" }));
    expect(await screen.findByText("Another revision came first.")).toBeTruthy();
    expect(server.asked("POST /components/shed-bar/switch")[0]).toEqual({ revision: 3, from: 480, to: 700 });
  });
});
