import { type ReactNode, createContext, use } from "react";

import type { Schema } from "../../../api/client";

/** The cell that has the focus: the address of its row, and which of the row. */
export interface Cursor {
  on: string;
  cell: string;
}

/** What is being typed. */
export interface Entry {
  edit: Schema["Edit"];
  was: string;
  text: string;
  label: string;
  /** It was handed to the server. */
  sent?: boolean;
  /** Of something new, what is expected. */
  hint?: string;
}

interface Held {
  cursor: Cursor;
  entry?: Entry;
  /** The field of what is being typed; it stands where that does. */
  field: ReactNode;
  marked: ReadonlySet<string>;
  part: string | undefined;
  /** Who else is at which cell. */
  others: Record<string, string>;
  /** Of the parts, by id, as in the pictures. */
  numbers: Record<string, number>;
  choose: (at: Cursor, part?: string) => void;
  open: (edit: Schema["Edit"], was: string, label: string) => void;
}

export const SheetContext = createContext<Held | null>(null);

/** What all rows of the sheet share. */
export function useHeld(): Held {
  const held = use(SheetContext);
  if (!held) throw new Error("no sheet around");
  return held;
}

export const keyOf = (on: string, cell: string) => `${on} ${cell}`;
