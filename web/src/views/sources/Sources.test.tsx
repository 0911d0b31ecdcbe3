import { Notifications } from "@mantine/notifications";
import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { Compare } from "./Compare";
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
  removed: [],
  revision: 1,
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

describe("sources kept in order", () => {
  const opened = async (change: Partial<Schema["Sources"]> = {}) => {
    server.answer("GET /sources", () =>
      sources({
        revision: 4,
        tokens: [{ name: "core.json", kind: "tokens", tokens: 40, revision: 2, updated: "2026-11-01T08:00:00Z", problems: [] }],
        ...change,
      }),
    );
    show(<Sources />);
    await screen.findByRole("region", { name: "Furrow" });
  };
  const more = async (name: string, item: string) => {
    fireEvent.click(screen.getByRole("button", { name: `More for ${name}` }));
    fireEvent.click(await screen.findByRole("menuitem", { name: item }));
  };
  const dialog = (name: string) => screen.findByRole("dialog", { name });

  it("renames a design, and a token file with the revision that was read", async () => {
    server.answer("POST /sources/furrow/name", () => ({}));
    server.answer("POST /tokens/files/rename", () => ({ revision: 5 }));
    await opened();
    await more("Furrow", "Rename…");
    const one = within(await dialog("Rename Furrow"));
    fireEvent.change(one.getByLabelText("Name"), { target: { value: "Allotment" } });
    fireEvent.click(one.getByRole("button", { name: "Rename" }));
    await waitFor(() => expect(server.asked("POST /sources/furrow/name")).toEqual([{ name: "Allotment" }]));
    await waitFor(() => expect(screen.queryByRole("dialog", { name: "Rename Furrow" })).toBeNull());
    await more("core.json", "Rename…");
    const two = within(await dialog("Rename core.json"));
    fireEvent.change(two.getByLabelText("Name"), { target: { value: "" } });
    expect(two.getByRole<HTMLButtonElement>("button", { name: "Rename" }).disabled, "a file needs a name").toBe(true);
    fireEvent.change(two.getByLabelText("Name"), { target: { value: "base.json" } });
    fireEvent.click(two.getByRole("button", { name: "Rename" }));
    await waitFor(() => expect(server.asked("POST /tokens/files/rename")).toEqual([{ revision: 4, name: "core.json", to: "base.json" }]));
  });

  it("says what hangs on a source before it is removed, and removes only what can be", async () => {
    server.answer("GET /sources/furrow/rests", () => ({
      possible: true,
      says: ["1 component is drawn from it."],
      components: [{ slug: "crop-tag", name: "CropTag" }],
      problems: [],
    }));
    server.answer("GET /tokens/files/rests", () => ({
      possible: false,
      says: [],
      components: [],
      problems: [{ rule: "r", severity: "error", message: "ink points at a token that is not there" }],
    }));
    server.answer("POST /sources/furrow/remove", () => ({}));
    await opened();
    await more("core.json", "Remove…");
    const no = within(await dialog("Remove core.json"));
    expect(await no.findByText(/ink points at a token/)).toBeTruthy();
    expect(no.getByRole<HTMLButtonElement>("button", { name: "Remove" }).disabled).toBe(true);
    fireEvent.click(no.getByRole("button", { name: "Cancel" }));
    await more("Furrow", "Remove…");
    const yes = within(await dialog("Remove Furrow"));
    expect(await yes.findByText("1 component is drawn from it.")).toBeTruthy();
    expect(yes.getByRole("link", { name: "CropTag" }).getAttribute("href")).toBe("/bench/crop-tag");
    fireEvent.click(yes.getByRole("button", { name: "Remove" }));
    await waitFor(() => expect(server.asked("POST /sources/furrow/remove")).toHaveLength(1));
  });

  it("puts back what was removed, and replaces under the name that is there", async () => {
    server.answer("POST /sources/old/restore", () => ({}));
    server.answer("POST /sources/own/replace", () => ({ kind: "design", name: "Own", revision: 3, added: true, problems: [] }));
    server.answer("POST /sources", () => ({ kind: "tokens", name: "core.json", revision: 3, added: true, problems: [] }));
    await opened({ removed: [{ id: "old", name: "Old one", removed: "2026-11-01T08:00:00Z" }] });
    fireEvent.click(screen.getByRole("button", { name: "Put back" }));
    await waitFor(() => expect(server.asked("POST /sources/old/restore")).toHaveLength(1));
    fireEvent.change(screen.getByLabelText("A file in place of Own"), { target: { files: [new File(["x"], "new.svg")] } });
    await waitFor(() => expect(server.queried("POST /sources/own/replace", "file")).toEqual(["new.svg"]));
    fireEvent.change(screen.getByLabelText("A file in place of core.json"), { target: { files: [new File(["{}"], "else.json")] } });
    await waitFor(() => expect(server.queried("POST /sources", "file")).toEqual(["core.json"]));
    expect(screen.queryByLabelText("A file in place of Furrow"), "the design host has the next of its own").toBeNull();
  });
});

describe("two revisions compared", () => {
  const compared: Schema["Compared"] = {
    name: "Furrow",
    revisions: [revision(1, "First"), revision(2, "More room."), revision(3, "")],
    before: 2,
    after: 3,
    differing: 3,
    places: [
      {
        kind: "family",
        name: "CropTag",
        rows: [
          { what: "label", state: "changed", property: "bounds.width", before: "10", after: "12" },
          { what: "dot", state: "added", property: "", before: "", after: "box" },
        ],
      },
    ],
  };

  it("lists what differs place by place, and asks for others", async () => {
    server.answer("GET /sources/furrow/compare", () => compared);
    show(<Compare />, "/sources/compare?document=furrow");
    const place = within(await screen.findByRole("region", { name: "CropTag" }));
    expect(place.getAllByRole("row").map((r) => [...r.querySelectorAll("td")].map((d) => d.textContent))).toEqual([
      [],
      ["label", "bounds.width", "10", "12"],
      ["dot", "added", "not there", "box"],
    ]);
    expect(screen.getByText("3 differences")).toBeTruthy();
    expect(screen.getByText("and 1 difference more")).toBeTruthy();
    fireEvent.change(screen.getByLabelText("Revision before"), { target: { value: "1" } });
    await waitFor(() => expect(server.queried("GET /sources/furrow/compare", "before")).toEqual(["0", "1"]));
  });

  it("of token files needs no document; nothing that differs is said", async () => {
    server.answer("GET /tokens/compare", () => ({ ...compared, name: "Token files", differing: 0, places: [] }));
    show(<Compare />, "/sources/compare?before=x");
    expect(await screen.findByText("Nothing differs")).toBeTruthy();
    expect(server.queried("GET /tokens/compare", "before")).toEqual(["0"]);
  });
});
