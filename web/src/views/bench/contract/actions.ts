import type { Schema } from "../../../api/client";
import type { Cursor } from "./state";

/** Something that can be done with the row that has the focus. */
export interface Action {
  label: string;
  /** As KeyboardEvent.key, small. */
  key: string;
  alt?: boolean;
  /** As people read the key. */
  shown: string;
  edit: Schema["Edit"];
  /** What it does is shown first. */
  asks?: boolean;
  /** Something is typed first: what is expected. */
  types?: string;
}

const offered: Record<string, string> = {
  text: "Its text a prop",
  picture: "Its picture a prop",
  icon: "Its icon a prop",
  link: "Its link a prop",
  slot: "A slot",
  flag: "A flag that shows it",
};

/** What is made new among rows of a kind, and how it is typed. */
const made = {
  do: { label: "New line", types: "What it is meant for", cell: "note" },
  dont: { label: "New line", types: "What it is not meant for", cell: "note" },
  apart: { label: "New group", types: "icon, picture", cell: "group" },
  states: { label: "New state", types: "hover: color {ink}, or loading label: opacity 0.5", cell: "state" },
  cases: { label: "Save a case", types: "longest title: size=l", cell: "case" },
} as const;

/** What can be done at the cursor, in the order it is shown. */
export function actionsOf(view: Schema["SheetView"], cursor: Cursor, marked: ReadonlySet<string>): Action[] {
  const fewer: Action = { label: "Fewer rules", key: "e", shown: "E", edit: { do: "fewer", on: "rules" }, asks: true };
  const { on } = cursor;
  const [kind, id, property] = on.split("/");
  const row = `${kind}/${id}`;
  const move = (text: string, key: string, shown: string): Action => ({
    label: `Move ${text}`,
    key,
    alt: true,
    shown,
    edit: { do: "move", on: row, text },
  });
  const remove = (label: string): Action => ({ label, key: "delete", shown: "Del", edit: { do: "remove", on }, asks: true });
  const say = (of: string): Action => ({
    label: "Add a value",
    key: "v",
    shown: "V",
    edit: { do: "add", on: of, cell: "value" },
    types: "gap 8px, or when state hover: color {ink}",
  });
  switch (kind) {
    case "props": {
      const declare: Action = {
        label: "New prop",
        key: "n",
        shown: "N",
        edit: { do: "add", on, cell: "prop" },
        types: "size choice s m l",
      };
      if (!id) return [declare];
      return [
        declare,
        { label: "Duplicate", key: "r", shown: "R", edit: { do: "duplicate", on } },
        move("up", "arrowup", "↑"),
        move("down", "arrowdown", "↓"),
        remove("Remove"),
      ];
    }
    case "parts": {
      if (property) return [say(row), remove(`Remove ${property}`), fewer];
      if (cursor.cell === "style") return [say(row), fewer];
      const part = view.parts.find((p) => p.on === on);
      const out: Action[] = [];
      const root = view.parts[0]?.on === on;
      if (!root) out.push({ label: "New part", key: "n", shown: "N", edit: { do: "add", on, cell: "part" }, types: "label span" });
      if (part?.holds)
        out.push({ label: "New inside", key: "i", shown: "I", edit: { do: "add", on, cell: "inside" }, types: "label span" });
      out.push(say(on));
      if (root) return [...out, ...offers(part)];
      return [
        ...out,
        ...offers(part),
        { label: "Duplicate", key: "r", shown: "R", edit: { do: "duplicate", on } },
        { label: marked.size > 1 ? "Wrap the marked" : "Wrap", key: "w", shown: "W", edit: { do: "wrap", on, with: [...marked] } },
        ...(/^[a-z]/.test(part?.element ?? "")
          ? [{ label: "Its own component", key: "o", shown: "O", edit: { do: "own" as const, on }, types: "PlotFoot" }]
          : []),
        /^[a-z]/.test(part?.element ?? "")
          ? { label: "Unwrap", key: "u", shown: "U", edit: { do: "unwrap", on }, asks: true }
          : { label: "Its parts in its place", key: "u", shown: "U", edit: { do: "inline", on }, asks: true },
        move("up", "arrowup", "↑"),
        move("down", "arrowdown", "↓"),
        move("in", "arrowright", "→"),
        move("out", "arrowleft", "←"),
        remove("Remove"),
      ];
    }
    case "do":
    case "dont":
    case "apart":
    case "states":
    case "cases": {
      const make: Action = {
        key: "n",
        shown: "N",
        ...made[kind],
        edit: { do: "add", on, cell: made[kind].cell },
      };
      if (!id) return [make];
      const out = [make];
      if (kind === "cases")
        out.push(
          { label: "Duplicate", key: "r", shown: "R", edit: { do: "duplicate", on } },
          move("up", "arrowup", "↑"),
          move("down", "arrowdown", "↓"),
        );
      return [...out, remove("Remove")];
    }
    case "rules":
      if (property) return [say(row), remove(`Remove ${property}`), fewer];
      return [
        say(row),
        { label: "Duplicate", key: "r", shown: "R", edit: { do: "duplicate", on } },
        move("up", "arrowup", "↑"),
        move("down", "arrowdown", "↓"),
        remove("Remove"),
        fewer,
      ];
  }
  return [];
}

/** Props that can be made of a part; the first, and whether it is there, have keys. */
function offers(part: Schema["PartRow"] | undefined): Action[] {
  const all = part?.offers ?? [];
  const first = all.find((o) => o !== "flag");
  return all.map((what) => ({
    label: offered[what] ?? what,
    key: what === first ? "p" : what === "flag" ? "f" : "",
    shown: what === first ? "P" : what === "flag" ? "F" : "",
    edit: { do: "offer" as const, on: part!.on, text: what },
  }));
}
