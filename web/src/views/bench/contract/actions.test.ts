import { describe, expect, it } from "vitest";

import type { Schema } from "../../../api/client";
import { actionsOf } from "./actions";

const part = (on: string, more: Partial<Schema["PartRow"]> = {}): Schema["PartRow"] => ({
  on,
  id: on.split("/")[1]!,
  name: on.split("/")[1]!,
  depth: 0,
  element: "span",
  shows: "",
  when: "",
  over: "",
  offers: [],
  holds: true,
  ...more,
});
const view = {
  props: [],
  rules: [],
  parts: [
    part("parts/root"),
    part("parts/label", { holds: false, offers: ["text", "link", "flag"] }),
    part("parts/tag", { element: "Tag" }),
  ],
} as unknown as Schema["SheetView"];
const labels = (on: string, cell = "name", marked: string[] = []) =>
  actionsOf(view, { on, cell }, new Set(marked)).map((a) => `${a.label} ${a.alt ? "Alt " : ""}${a.key}`);

describe("what can be done at a row", () => {
  it("is to declare where there is nothing yet", () => {
    expect(labels("props", "new")).toEqual(["New prop n"]);
  });
  it("leaves the root where it is", () => {
    expect(labels("parts/root")).toEqual(["New inside i", "Add a value v"]);
  });
  it("offers what of a part can be a prop, the first and the flag by a key", () => {
    const all = labels("parts/label");
    expect(all).toContain("Its text a prop p");
    expect(all).toContain("Its link a prop ");
    expect(all).toContain("A flag that shows it f");
    expect(all).not.toContain("New inside i");
  });
  it("makes no component of a use of one", () => {
    expect(labels("parts/label")).toContain("Its own component o");
    expect(labels("parts/tag")).not.toContain("Its own component o");
  });
  it("wraps all that is marked", () => {
    expect(labels("parts/label", "name", ["parts/label", "parts/tag"])).toContain("Wrap the marked w");
    const wrap = actionsOf(view, { on: "parts/label", cell: "name" }, new Set(["parts/label", "parts/tag"])).find((a) => a.key === "w");
    expect(wrap?.edit).toEqual({ do: "wrap", on: "parts/label", with: ["parts/label", "parts/tag"] });
  });
  it("is of one value where that has the focus, and is said of the whole row", () => {
    expect(labels("rules/3/gap", "value")).toEqual(["Add a value v", "Remove gap delete", "Fewer rules e"]);
    const [add, remove] = actionsOf(view, { on: "rules/3/gap", cell: "value" }, new Set());
    expect(add?.edit.on).toBe("rules/3");
    expect(remove?.edit.on).toBe("rules/3/gap");
  });
  it("has every key once", () => {
    for (const on of ["props/size", "parts/root", "parts/label", "parts/tag", "rules/1", "parts/label/gap"]) {
      const keys = actionsOf(view, { on, cell: "name" }, new Set())
        .filter((a) => a.key)
        .map((a) => `${a.alt} ${a.key}`);
      expect(new Set(keys).size, on).toBe(keys.length);
    }
  });
});
