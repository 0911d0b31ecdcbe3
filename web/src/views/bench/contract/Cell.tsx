import type { ReactNode } from "react";

import classes from "./ContractFacet.module.css";
import { type Entry, keyOf, useHeld } from "./state";

interface Props {
  on: string;
  cell: string;
  text: string;
  label: string;
  /** What stands there in other dress, or where there is no text. */
  children?: ReactNode;
  /** Id of the part it is of. */
  part?: string;
  /** It says something that cannot be typed. */
  fixed?: boolean;
}

/** A word or a line of the sheet that is a field once it is entered. */
export function Cell({ on, cell, text, label, children, part, fixed }: Props) {
  const held = useHeld();
  const { edit } = held.entry ?? {};
  if (edit?.do === "set" && edit.on === on && edit.cell === cell) return <>{held.field}</>;
  const here = held.cursor.on === on && (held.cursor.cell === cell || held.cursor.cell === "");
  return (
    <span
      role="button"
      aria-label={text ? `${label}: ${text}` : label}
      aria-disabled={fixed || undefined}
      data-cell={keyOf(on, cell)}
      data-empty={text === "" || undefined}
      data-other={held.others[keyOf(on, cell)]}
      className={classes.cell}
      tabIndex={here ? 0 : -1}
      onFocus={() => held.choose({ on, cell }, part)}
      onClick={() => !fixed && held.open({ do: "set", on, cell }, text, label)}
    >
      {children ?? (text || "–")}
    </span>
  );
}

/** Whether what is typed makes something new, and stands behind a row. */
export const fresh = (entry: Entry) => entry.edit.do === "add" || entry.edit.do === "own";

/** The line behind a row in which something new is typed. */
export function Fresh({ on, cell }: { on: string; cell?: string }) {
  const { entry, field } = useHeld();
  if (!entry || !fresh(entry) || entry.edit.on !== on || (cell !== undefined && entry.edit.cell !== cell)) return null;
  return <>{field}</>;
}
