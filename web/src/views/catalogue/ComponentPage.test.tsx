import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { beforeEach, describe, expect, it } from "vitest";

import type { ShownCase } from "../../../preview/messages";
import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { ComponentPage } from "./ComponentPage";
import { written } from "./UseLine";

const prop = (name: string, control: Schema["PropView"]["control"], change: Partial<Schema["PropView"]> = {}): Schema["PropView"] => ({
  id: name,
  name,
  kind: "text",
  purpose: `What ${name} is for`,
  options: [],
  default: null,
  shown: null,
  control,
  required: false,
  deprecated: "",
  ...change,
});
const image = { src: "/leek.png", alt: "A leek", width: 2, height: 1 };
const rich = { rich: [{ runs: [{ text: "Water" }] }] };
const props = [
  prop("label", "text", { default: "Leeks", shown: "Leeks" }),
  prop("title", "text", { required: true, shown: "Plot 41" }),
  prop("strong", "switch", { kind: "flag", default: false, shown: false }),
  prop("tone", "options", { kind: "choice", options: ["sown", "ripe"], default: "sown", shown: "sown" }),
  prop("size", "options", { kind: "choice", options: ["1", "2", "3", "4", "5", "6"], default: "1", shown: "1" }),
  prop("count", "number", { kind: "number", shown: 3 }),
  prop("to", "address", { kind: "link" }),
  prop("icon", "icon", { kind: "icon", options: ["leaf", "drop"] }),
  prop("notice", "rich text", { kind: "rich text", default: rich, shown: rich }),
  prop("photo", "image", { kind: "image", shown: image }),
  prop("onOpen", "none", { kind: "event" }),
];
const bench = {
  slug: "bed-card",
  name: "BedCard",
  purpose: "A bed.",
  version: "1.2.0",
  shelf: "Cards",
  build: "b1",
  agreed: 4,
  props,
  uses: ["CropTag"],
  usedBy: [],
  parts: [
    { id: "root", name: "root", element: "article", depth: 0, changed: [{ by: "strong", prop: "strong", what: ["color"] }] },
    {
      id: "words",
      name: "words",
      element: "h3",
      depth: 1,
      role: "heading",
      called: "Leeks",
      changed: [
        { by: "label", prop: "label", what: ["its text"] },
        { by: "state hover", what: ["opacity"] },
      ],
    },
  ],
  do: ["Show a bed."],
  dont: [],
  themes: [
    { name: "day", attributes: {} },
    { name: "dusk", attributes: { "data-theme": "dusk" } },
  ],
  cases: [
    { key: "k", name: "plain", fills: true, width: 320, height: 80, new: [], props: {}, states: [], paths: {}, boxes: {}, container: 0 },
  ],
} as unknown as Schema["Bench"];

let said: unknown[] = [];

beforeEach(() => {
  said = [];
  server.answer("GET /components/bed-card", () => bench);
  server.answer("GET /components", () => [
    { slug: "bed-card", uses: 7, facts: 10, differs: 0, measured: true, waiting: 0, status: "released" },
  ]);
  server.answer("GET /project", () => ({ preview: "http://preview.test/c/hollowbeck" }));
  server.answer("GET /components/bed-card/releases", () => []);
  server.answer("POST /components/bed-card/places", () => ({ root: [], words: [0] }));
});

async function opened() {
  window.history.replaceState(null, "", "/hollowbeck/");
  show(
    <Routes>
      <Route path="/catalogue/:slug" element={<ComponentPage />} />
    </Routes>,
    "/catalogue/bed-card",
  );
  const frame = await screen.findByTitle<HTMLIFrameElement>("BedCard, running");
  const inside = frame.contentWindow!;
  inside.postMessage = ((message: unknown) => said.push(message)) as typeof inside.postMessage;
  act(() => {
    window.dispatchEvent(new MessageEvent("message", { data: { kind: "ready" }, source: inside }));
  });
  return { frame, inside };
}
/** The props the specimen was shown with last. */
const shown = () => (said.at(-1) as { cases: ShownCase[] } | undefined)?.cases[0];
const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name, { selector: "input" });

describe("a component's page", () => {
  it("shows the specimen with what its props are looked at with, in the room it fills", async () => {
    const { frame } = await opened();
    expect(frame.src).toBe("http://preview.test/c/hollowbeck/bed-card/b1/");
    await waitFor(() => expect(shown()?.props).toMatchObject({ label: "Leeks", title: "Plot 41", count: 3, notice: rich, photo: image }));
    expect(shown()?.width).toBe(320);
  });

  it("turns the specimen to another theme, and says what the component is meant for", async () => {
    await opened();
    await waitFor(() => expect(shown()?.attributes).toEqual({}));
    fireEvent.change(screen.getByLabelText("Theme"), { target: { value: "dusk" } });
    await waitFor(() => expect(shown()?.attributes).toEqual({ "data-theme": "dusk" }));
    expect(screen.getByText("Show a bed.").closest("dl")!.textContent).toBe("DoShow a bed.");
    expect(screen.queryByText("Don’t")).toBeNull();
  });

  it("is one line of code, of what can be given and what only code gives", async () => {
    await opened();
    const line = screen.getByLabelText("Use").textContent;
    expect(line.startsWith("<BedCardlabel=")).toBe(true);
    expect(line).toContain("photo={photo}");
    expect(line).not.toContain("onOpen");
    expect(field("title").placeholder).toBe("required");
    expect(screen.getByRole("switch", { name: "strong" }).getAttribute("aria-checked")).toBe("false");
  });

  it("takes a value of each kind in the line, and nothing where one is emptied", async () => {
    await opened();
    fireEvent.change(field("label"), { target: { value: "Chard" } });
    await waitFor(() => expect(shown()?.props.label).toBe("Chard"));
    fireEvent.click(screen.getByRole("switch", { name: "strong" }));
    await waitFor(() => expect(shown()?.props.strong).toBe(true));
    fireEvent.change(screen.getByLabelText("tone"), { target: { value: "ripe" } });
    await waitFor(() => expect(shown()?.props.tone).toBe("ripe"));
    fireEvent.change(screen.getByLabelText("icon"), { target: { value: "drop" } });
    await waitFor(() => expect(shown()?.props.icon).toBe("drop"));
    fireEvent.change(screen.getByLabelText("icon"), { target: { value: "" } });
    await waitFor(() => expect(shown()?.props).not.toHaveProperty("icon"));
    fireEvent.change(field("count"), { target: { value: "12" } });
    await waitFor(() => expect(shown()?.props.count).toBe(12));
    fireEvent.change(field("count"), { target: { value: "" } });
    await waitFor(() => expect(shown()?.props).not.toHaveProperty("count"));
    fireEvent.change(field("to"), { target: { value: "/plots" } });
    await waitFor(() => expect(shown()?.props.to).toBe("/plots"));
    fireEvent.change(field("notice"), { target: { value: "Plain" } });
    await waitFor(() => expect(shown()?.props.notice).toBe("Plain"));
    fireEvent.change(field("notice"), { target: { value: "" } });
    await waitFor(() => expect(shown()?.props.notice).toEqual(rich));
    fireEvent.click(screen.getByRole("button", { name: "Back to the defaults" }));
    await waitFor(() => expect(shown()?.props).toMatchObject({ label: "Leeks", strong: false, tone: "sown", count: 3 }));
  });

  it("is copied as it can be pasted: without what has its default, quoted as JSX asks", () => {
    const line = (values: Record<string, unknown>, children = false) =>
      written("BedCard", props, { ...Object.fromEntries(props.map((p) => [p.name, p.shown])), ...values }, children);
    expect(line({})).toBe('<BedCard title="Plot 41" count={3} photo={{"src":"/leek.png","alt":"A leek","width":2,"height":1}} />');
    expect(line({ photo: undefined, count: undefined, strong: true, tone: "ripe", label: 'Say "leek" & {more}' })).toBe(
      '<BedCard label={"Say \\"leek\\" & {more}"} title="Plot 41" strong tone="ripe" />',
    );
    expect(line({ photo: undefined, count: undefined, title: "" }, true)).toBe("<BedCard>…</BedCard>");
  });

  it("says by numbers what each part is and what changes it, and marks what a prop changes", async () => {
    await opened();
    const rows = () => [...screen.getByLabelText("Anatomy").querySelectorAll("tbody tr")];
    expect(rows().map((r) => r.textContent)).toEqual([
      "0rootarticle–strong color",
      "1wordsh3heading “Leeks”label its textstate hover opacity",
    ]);
    fireEvent.pointerEnter(field("label").closest("[title]")!);
    expect(rows().map((r) => r.className !== "")).toEqual([false, true]);
    fireEvent.pointerEnter(screen.getByRole("switch", { name: "strong" }).closest("[title]")!);
    expect(rows().map((r) => r.className !== "")).toEqual([true, false]);
  });

  it("shows a layout primitive in a room of its own, with nothing to work on", async () => {
    server.answer("GET /components/bed-card", () => ({ ...bench, status: "primitive", cases: [] }));
    await opened();
    await waitFor(() => expect(shown()).toMatchObject({ width: 480, block: true }));
    expect(screen.getByText(/^layout primitive/)).toBeTruthy();
    expect(screen.queryByText("On the bench")).toBeNull();
    expect(screen.queryByText("History")).toBeNull();
  });

  it("gives way to what the component threw", async () => {
    server.answer("POST /components/bed-card/trace", () => new Refusal({ status: 404, message: "No such line." }));
    const { inside } = await opened();
    act(() => {
      window.dispatchEvent(new MessageEvent("message", { data: { kind: "failed", message: "Error: frost" }, source: inside }));
    });
    expect(await screen.findByText("Error: frost")).toBeTruthy();
    expect(screen.queryByTitle("BedCard, running")).toBeNull();
  });

  it("listens to its own frame alone", async () => {
    await opened();
    act(() => {
      window.dispatchEvent(new MessageEvent("message", { data: { kind: "failed", message: "Error: elsewhere" }, source: window }));
    });
    expect(screen.queryByText("Error: elsewhere")).toBeNull();
  });
});
