import { Notifications } from "@mantine/notifications";
import { fireEvent, screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { Sources } from "./Sources";

const revision = (number: number, note: string) => ({
  number,
  note,
  author: "Ines, plot 41",
  created: "2026-11-01T08:00:00Z",
  bytes: 2048,
});
const furrow: Schema["SourceDocument"] = {
  id: "furrow",
  name: "Furrow",
  families: 3,
  pages: 2,
  layers: 1234,
  fromHost: true,
  revisions: [revision(2, "More room."), revision(1, "")],
};
const sources = (change: Partial<Schema["Sources"]> = {}): Schema["Sources"] => ({
  documents: [furrow, { ...furrow, id: "own", name: "Own", fromHost: false }],
  tokens: [],
  host: { known: true, address: "http://host.test", failure: "" },
  ...change,
});

function opened() {
  show(
    <>
      <Notifications />
      <Sources />
    </>,
  );
}

describe("the sources", () => {
  it("show each document with its revisions, and ask the host for those it has", async () => {
    server.answer("GET /sources", () => sources());
    server.answer("POST /host/fetch", () => ({ documents: [{ id: "furrow", revision: 3, added: true }] }));
    opened();
    const one = within(await screen.findByRole("region", { name: "Furrow" }));
    expect(one.getByText(/3 families, 2 pages, 1,234 layers/)).toBeTruthy();
    expect(one.getByText("No note")).toBeTruthy();
    expect(one.getAllByText(/Ines, plot 41/)[0]!.textContent).toContain("2 KB");
    expect(within(screen.getByRole("region", { name: "Own" })).queryByRole("button", { name: "Fetch" })).toBeNull();
    fireEvent.click(one.getByRole("button", { name: "Fetch" }));
    expect(await screen.findByText("Revision 3 came from the design host.")).toBeTruthy();
  });

  it("say that nothing is newer, and that the host does not answer", async () => {
    server.answer("GET /sources", () => sources());
    server.answer("POST /host/fetch", () => ({ documents: [{ id: "furrow", revision: 2, added: false }] }));
    opened();
    fireEvent.click(await screen.findByRole("button", { name: "Fetch" }));
    expect(await screen.findByText("Revision 2 is still the newest on the design host.")).toBeTruthy();
    server.answer("POST /host/fetch", () => new Refusal({ status: 502, message: "The design host is down." }));
    fireEvent.click(screen.getByRole("button", { name: "Fetch" }));
    expect(await screen.findByText("The design host is down.")).toBeTruthy();
  });

  it("tell of a host that was down before, and of what wants a look in a token file", async () => {
    server.answer("GET /sources", () =>
      sources({
        host: { known: true, address: "", failure: "no answer" },
        tokens: [
          {
            name: "core.json",
            kind: "tokens",
            tokens: 40,
            revision: 2,
            updated: "2026-11-01T08:00:00Z",
            problems: [{ rule: "r", severity: "warning", message: "An alias of another type", file: "core.json", line: 4, column: 2 }],
          },
          { name: "themes.json", kind: "resolver", tokens: 0, revision: 1, updated: "2026-11-01T08:00:00Z", problems: [] },
        ],
      }),
    );
    opened();
    expect(await screen.findByText(/did not answer the last time: no answer/)).toBeTruthy();
    expect(screen.getByText("1 thing to look at")).toBeTruthy();
    expect(screen.getByText("An alias of another type")).toBeTruthy();
    expect(screen.getByText("themes")).toBeTruthy();
  });

  it("begin with what to drop", async () => {
    server.answer("GET /sources", () => sources({ documents: [] }));
    opened();
    expect(await screen.findByText("Nothing here yet")).toBeTruthy();
  });
});
