import { Notifications } from "@mantine/notifications";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";

import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { ReleaseDialog } from "./ReleaseDialog";

const bench = { slug: "bed-card", name: "BedCard", revision: 7, shelf: "", version: "1.2.0" } as Schema["Bench"];
const release = "POST /components/bed-card/release";
const plan: Schema["ReleasePlan"] = {
  version: "2.0.0",
  level: "major",
  first: false,
  replays: 0,
  open: [],
  why: "the option “tiny” of size is gone",
  approval: "",
  steps: [],
  usedBy: ["BedList"],
  pages: [{ page: "beds", name: "Beds", uses: 4 }],
  trials: [],
  cases: 2,
  changelog: "# To follow",
  changes: [{ level: "major", text: "the option “tiny” of size is gone" }],
};

beforeEach(() => {
  server.answer("GET /components", () => [{ shelf: "Cards" }, { shelf: "Cards" }, { shelf: "" }]);
  server.answer("GET /components/bed-card/release", () => plan);
  server.answer(release, () => ({ ...plan, level: "none" }));
});

async function opened(change: Partial<Schema["Bench"]> = {}) {
  const close = vi.fn();
  show(
    <>
      <Notifications />
      <ReleaseDialog bench={{ ...bench, ...change }} close={close} />
    </>,
  );
  return { close, button: await screen.findByRole<HTMLButtonElement>("button", { name: /^Release \d/ }) };
}

describe("a release", () => {
  it("says the version its changes ask for, and wants a shelf", async () => {
    const { button } = await opened();
    expect(screen.getByRole("dialog").textContent).toContain("1.2.0 → 2.0.0major");
    expect(screen.getByText("It is major because the option “tiny” of size is gone.")).toBeTruthy();
    expect(screen.getByText("2 cases look otherwise; 1 component is made of it (BedList); 4 uses on Beds.")).toBeTruthy();
    expect(screen.getByLabelText<HTMLTextAreaElement>("Changelog for its users").value).toBe("# To follow");
    expect(screen.getByRole("listitem").textContent).toBe("major the option “tiny” of size is gone");
    expect(button.disabled).toBe(true);
    fireEvent.change(screen.getByLabelText(/^Shelf/, { selector: "input" }), { target: { value: "   " } });
    expect(button.disabled).toBe(true);
  });

  it("carries the revision that was read, and closes when it is done", async () => {
    const { button, close } = await opened();
    fireEvent.change(screen.getByLabelText(/^Shelf/, { selector: "input" }), { target: { value: "Cards" } });
    fireEvent.change(screen.getByLabelText("Changelog for its users"), { target: { value: "No tiny cards" } });
    fireEvent.click(button);
    await waitFor(() => expect(close).toHaveBeenCalled());
    expect(server.asked(release)).toEqual([{ revision: 7, shelf: "Cards", note: "No tiny cards" }]);
    expect(await screen.findByText("BedCard 2.0.0", { exact: false })).toBeTruthy();
  });

  it("that another came before stays open and says so", async () => {
    server.answer(release, () => new Refusal({ status: 409, message: "BedCard changed since you read it." }));
    const { button, close } = await opened({ shelf: "Cards" });
    fireEvent.click(button);
    expect(await screen.findByText("BedCard changed since you read it.")).toBeTruthy();
    expect(close).not.toHaveBeenCalled();
  });

  it("waits until what a review finds is set aside with a reason", async () => {
    const found = (key: string) => ({ key, rule: "off-scale", severity: "warning", message: `Found ${key}.`, aside: "" });
    server.answer("GET /components/bed-card/release", () => ({ ...plan, open: [found("a"), found("b")] }));
    server.answer("POST /components/bed-card/checks", () => {
      server.answer("GET /components/bed-card/release", () => plan);
      return { findings: [], errors: 0, warnings: 0 };
    });
    const { button } = await opened({ shelf: "Cards" });
    expect(button.disabled).toBe(true);
    const aside = screen.getByRole<HTMLButtonElement>("button", { name: "Set all 2 aside" });
    expect(aside.disabled).toBe(true);
    fireEvent.change(screen.getByLabelText("Why these are set aside"), { target: { value: " on purpose " } });
    fireEvent.click(aside);
    await waitFor(() => expect(screen.queryByText("Found a.")).toBeNull());
    expect(server.asked("POST /components/bed-card/checks")).toEqual([{ keys: ["a", "b"], reason: "on purpose" }]);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: /^Release \d/ }).disabled).toBe(false);
  });

  it("waits for an approval that the project asks for", async () => {
    server.answer("GET /components/bed-card/release", () => ({ ...plan, approval: "Somebody other than Ines has to approve it." }));
    const { button } = await opened({ shelf: "Cards" });
    expect(screen.getByText("Somebody other than Ines has to approve it.")).toBeTruthy();
    expect(button.disabled).toBe(true);
  });

  it("of nothing cannot be made", async () => {
    server.answer("GET /components/bed-card/release", () => ({ ...plan, level: "none", version: "1.2.0", changes: [] }));
    const { button } = await opened({ shelf: "Cards" });
    expect(screen.getByText("Nothing changed since 1.2.0: there is nothing to release.")).toBeTruthy();
    expect(button.disabled).toBe(true);
    expect(screen.queryByLabelText("Changelog for its users")).toBeNull();
  });
});
