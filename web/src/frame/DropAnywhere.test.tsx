import { Notifications } from "@mantine/notifications";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { Refusal, server, show } from "../test-server";
import { DropAnywhere } from "./DropAnywhere";

const files = (...names: string[]) => ({
  dataTransfer: { types: ["Files"], files: names.map((name) => new File([`{"file":"${name}"}`], name)) },
});
const invited = () => screen.queryByText("Drop a design document or a token file");

function shown() {
  show(
    <>
      <Notifications />
      <DropAnywhere />
    </>,
  );
}

describe("dropping files", () => {
  it("invites while files are over the window, across all the elements they pass", () => {
    shown();
    fireEvent.dragEnter(window, files("a.json"));
    fireEvent.dragEnter(document.body, files("a.json"));
    fireEvent.dragLeave(window);
    expect(invited()).not.toBeNull();
    fireEvent.dragLeave(document.body);
    expect(invited()).toBeNull();
  });

  it("leaves what is not files to the browser", () => {
    shown();
    const text = { dataTransfer: { types: ["text/plain"], files: [] } };
    fireEvent.dragEnter(window, text);
    expect(invited()).toBeNull();
    expect(fireEvent.dragOver(window, text)).toBe(true);
    expect(fireEvent.dragOver(window, files("a.json"))).toBe(false);
    expect(fireEvent.drop(window, text)).toBe(true);
    expect(server.asked("POST /sources")).toEqual([]);
  });

  it("says that a design which had been removed is back", async () => {
    server.answer("POST /sources", () => ({ added: false, restored: true, kind: "design", name: "Furrow", revision: 3 }));
    shown();
    fireEvent.drop(window, files("furrow.json"));
    expect(await screen.findByText("It is back, at revision 3.")).toBeTruthy();
  });

  it("gives files one by one, says what became of each, and shows why one was not taken", async () => {
    const problem = {
      severity: "error",
      rule: "json",
      file: "a.json",
      line: 2,
      column: 7,
      message: "A comma is missing",
      fix: "Put one after the value",
    } as const;
    const taken: Record<string, unknown> = {
      "a.json": new Refusal({ status: 422, message: "a.json was not taken: 1 error", problems: [problem] }),
      "b.json": { added: true, kind: "design", name: "Furrow", revision: 3 },
      "c.json": { added: false, kind: "tokens", name: "core" },
    };
    server.answer("POST /sources", (_, query) => taken[query.get("file")!]);
    shown();
    fireEvent.drop(window, files("a.json", "b.json", "c.json"));
    await screen.findByText("Taken as revision 3 of the design.");
    await screen.findByText("It is the same as what is here.");
    expect(server.queried("POST /sources", "file")).toEqual(["a.json", "b.json", "c.json"]);
    const dialog = screen.getByRole("dialog", { name: "Not taken" });
    expect(dialog.textContent).toContain("a.json was not taken: 1 error");
    expect(dialog.textContent).toContain("a.json:2:7");
    expect(dialog.textContent).toContain("A comma is missing Put one after the value.");
    fireEvent.click(screen.getByRole("button", { name: "Close" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });
});
