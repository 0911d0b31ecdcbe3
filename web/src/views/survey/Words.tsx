import { TextInput } from "@mantine/core";
import { useState } from "react";

import type { Schema } from "../../api/client";
import classes from "./Survey.module.css";

/** What the lists beside the picture are given. Things are lit, and picked, by their groups. */
export interface ListProps {
  survey: Schema["Survey"];
  page: string | undefined;
  /** What is on this page alone. */
  here: boolean;
  lit: string | undefined;
  picked: string | undefined;
  onLit: (group: string | undefined) => void;
  onPick: (group: string | undefined, pages: string[]) => void;
}

/** From how many things on a list is searched. */
const many = 5;

/** A field for words that a list is narrowed by, where it is long, and whether a text holds all of them. */
export function useWords(things: number, label: string, placeholder: string) {
  const [words, setWords] = useState("");
  const asked = words.toLowerCase().split(/\s+/);
  return {
    field: things > many && (
      <TextInput
        size="xs"
        className={classes.filter}
        aria-label={label}
        placeholder={placeholder}
        value={words}
        onChange={(e) => setWords(e.currentTarget.value)}
      />
    ),
    matches: (texts: string[]) => asked.every((w) => texts.join(" ").toLowerCase().includes(w)),
  };
}
