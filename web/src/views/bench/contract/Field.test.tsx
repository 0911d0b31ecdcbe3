import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";

import type { Schema } from "../../../api/client";
import { server, show } from "../../../test-server";
import { Field } from "./Field";

const options: Schema["Completion"][] = [
  { text: "{space.2}", label: "{space.2}", kind: "token", value: "8px" },
  { text: "{space.3}", label: "{space.3}", kind: "token", value: "12px" },
];
beforeEach(() => server.answer("POST /components/tag/sheet/complete", () => options));

function opened(more: Partial<Parameters<typeof Field>[0]> = {}) {
  const [commit, cancel, onType] = [vi.fn(), vi.fn(), vi.fn()];
  show(
    <Field
      slug="tag"
      build="1"
      label="gap of root"
      edit={{ do: "set", on: "parts/root/gap", cell: "value" }}
      text="4px"
      tokens={[{ path: "space.2", type: "dimension", value: "8px" }]}
      busy={false}
      onType={onType}
      commit={commit}
      cancel={cancel}
      {...more}
    />,
  );
  const input = screen.getByRole<HTMLInputElement>("combobox");
  const type = (value: string) => {
    input.setSelectionRange(value.length, value.length);
    fireEvent.change(input, { target: { value } });
  };
  return { input, type, commit, cancel, onType };
}

describe("a cell that is typed in", () => {
  it("has the focus at once, with what stood there", () => {
    const { input } = opened();
    expect(document.activeElement).toBe(input);
    expect(input.value).toBe("4px");
    expect(screen.queryAllByRole("option")).toHaveLength(0);
  });
  it("keeps with Enter, and leaves with Escape, nothing kept", () => {
    const { input, commit, cancel } = opened();
    fireEvent.keyDown(input, { key: "Enter" });
    expect(commit).toHaveBeenCalledWith("4px");
    fireEvent.keyDown(input, { key: "Escape" });
    expect(cancel).toHaveBeenCalled();
    expect(commit).toHaveBeenCalledTimes(1);
  });
  it("offers what could follow: Tab takes the first, Enter the one that is chosen, and only then keeps", async () => {
    const { input, type, commit } = opened();
    type("{sp");
    await screen.findAllByRole("option");
    fireEvent.keyDown(input, { key: "Tab" });
    expect(input.value).toBe("{space.2}");
    type("{sp");
    await screen.findAllByRole("option");
    fireEvent.keyDown(input, { key: "ArrowDown" });
    fireEvent.keyDown(input, { key: "ArrowDown" });
    await waitFor(() => expect(screen.getAllByRole("option")[1]?.getAttribute("aria-selected")).toBe("true"));
    fireEvent.keyDown(input, { key: "Enter" });
    expect(input.value).toBe("{space.3}");
    expect(commit).not.toHaveBeenCalled();
  });
  it("closes the list with the first Escape, and leaves with the second", async () => {
    const { input, type, cancel } = opened();
    type("{");
    await screen.findAllByRole("option");
    fireEvent.keyDown(input, { key: "Escape" });
    expect(cancel).not.toHaveBeenCalled();
    expect(screen.queryAllByRole("option")).toHaveLength(0);
    fireEvent.keyDown(input, { key: "Escape" });
    expect(cancel).toHaveBeenCalled();
  });
  it("says why a text was refused, beside the field", () => {
    const { input } = opened({ refused: "expected a length" });
    expect(screen.getByRole("alert").textContent).toBe("expected a length");
    expect(input.getAttribute("aria-invalid")).toBe("true");
  });
  it("tells what is typed once the hand rests", async () => {
    const { type, onType } = opened();
    type("8px");
    await waitFor(() => expect(onType).toHaveBeenLastCalledWith("8px"));
  });
});
