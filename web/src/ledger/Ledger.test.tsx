import { MantineProvider } from "@mantine/core";
import { fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import type { Schema } from "../api/client";
import { Ledger } from "./Ledger";

const fact = (property: string, more: Partial<Schema["Fact"]> = {}): Schema["Fact"] => ({
  part: "root-id",
  name: "root",
  property,
  facet: "space",
  verdict: "agree",
  design: { value: "8px" },
  contract: { value: "8px" },
  built: { value: "8px" },
  ...more,
});

const facts = [
  fact("gap"),
  fact("padding-inline", { verdict: "contract moved", contract: { value: "9px" } }),
  fact("width", { verdict: "contract moved", contract: undefined, follows: "root · padding-inline", facet: "size" }),
  fact("padding-block", { verdict: "several moved", apart: true }),
];

function shown(all: boolean, onEdit = vi.fn(), onPart = vi.fn()) {
  const { unmount } = render(
    <MantineProvider>
      <Ledger facts={facts} measured all={all} onAll={vi.fn()} part={undefined} onPart={onPart} onEdit={onEdit} />
    </MantineProvider>,
  );
  return { rows: [...document.querySelectorAll<HTMLElement>("tr[data-fact]")], onEdit, onPart, unmount };
}

describe("the ledger", () => {
  it("shows what differs, and with one key all", () => {
    const { unmount, rows } = shown(false);
    expect(rows).toHaveLength(3);
    unmount();
    expect(shown(true).rows).toHaveLength(4);
    expect(screen.getByRole("status").textContent).toBe("3 of 4 facts differ");
  });
  it("calls parts by their names and says who moved, and from what a fact follows", () => {
    const text = shown(true).rows.map((r) => r.textContent ?? "");
    expect(text[1]).toContain("root · padding-inline");
    expect(text[1]).toContain("contract moved");
    expect(text[2]).toContain("follows root · padding-inline");
    expect(text[3]).toContain("several moved, apart");
    expect(text.join()).not.toContain("root-id");
  });
  it("is walked with arrows, and Enter edits the fact that has the focus", () => {
    const { rows, onEdit, onPart } = shown(true);
    rows[0]?.focus();
    fireEvent.keyDown(rows[0]!, { key: "ArrowDown" });
    expect(document.activeElement).toBe(rows[1]);
    expect(onPart).toHaveBeenLastCalledWith("root-id");
    fireEvent.keyDown(rows[1]!, { key: "Enter" });
    expect(onEdit).toHaveBeenCalledWith(facts[1], rows[1]);
    fireEvent.keyDown(rows[1]!, { key: "ArrowUp" });
    expect(document.activeElement).toBe(rows[0]);
  });
});
