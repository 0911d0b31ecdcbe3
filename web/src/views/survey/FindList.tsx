import { TextInput } from "@mantine/core";
import { useState } from "react";

import type { Schema } from "../../api/client";
import { count } from "../../ui/count";
import classes from "./Survey.module.css";

/** What a find is, in a few words. */
export function title(f: Schema["SurveyFind"]): string {
  switch (f.kind) {
    case "copies":
      return `${count(f.members.length, "copy", "copies")} of ${f.family}, no uses of it`;
    case "list":
      return `${f.members.length} in a line, of one look`;
  }
  return `the same thing ${f.members.length} times`;
}

interface Props {
  survey: Schema["Survey"];
  page: string | undefined;
  here: boolean;
  lit: string | undefined;
  onLit: (group: string | undefined) => void;
  onOpen: (find: Schema["SurveyFind"]) => void;
}

/** What repeats, the largest first. */
export function FindList({ survey: s, page, here, lit, onLit, onOpen }: Props) {
  const [words, setWords] = useState("");
  if (s.finds.length === 0)
    return (
      <p className={classes.nothing}>
        Nothing repeats that is not a family already. Layers can be marked on the picture and read as one drawing.
      </p>
    );
  const asked = words.toLowerCase().split(/\s+/);
  const list = s.finds
    .map((f, i) => ({ f, number: i + 1 }))
    .filter(({ f }) => !here || f.onPages.includes(page ?? ""))
    .filter(({ f }) => {
      const text = [f.name, f.kind, f.family, ...f.shows, ...f.nearest.map((n) => n.name)].join(" ").toLowerCase();
      return asked.every((w) => text.includes(w));
    });
  return (
    <>
      {s.finds.length > 5 && (
        <TextInput
          size="xs"
          className={classes.filter}
          aria-label="Find among the finds"
          placeholder="Name, prop or component"
          value={words}
          onChange={(e) => setWords(e.currentTarget.value)}
        />
      )}
      <ol className={classes.rows}>
        {list.map(({ f, number }) => (
          <li key={f.id} data-lit={f.id === lit || undefined}>
            <button
              type="button"
              className={classes.row}
              onClick={() => onOpen(f)}
              onPointerEnter={() => onLit(f.id)}
              onPointerLeave={() => onLit(undefined)}
              onFocus={() => onLit(f.id)}
              onBlur={() => onLit(undefined)}
            >
              <span className={classes.number}>{number}</span>
              <span className={classes.what}>
                <strong>{f.name}</strong> <span>{title(f)}</span>
                {s.since?.newFinds.includes(f.id) && <span className={classes.isNew}> new</span>}
                {s.since?.changedFinds.includes(f.id) && <span className={classes.isNew}> changed</span>}
              </span>
              <span className="mono" title="Likeness of the copy that is least like the others">
                {f.likeness.toFixed(2)}
              </span>
              <span className={classes.more}>
                {[
                  f.shows.join(", ") || "all alike",
                  f.nearest[0] && `nearest: ${f.nearest[0].name} ${f.nearest[0].likeness.toFixed(2)}`,
                  f.component && "on the bench",
                ]
                  .filter(Boolean)
                  .join(" · ")}
              </span>
            </button>
          </li>
        ))}
      </ol>
      {list.length === 0 && <p className={classes.nothing}>{here ? "None of them is on this page." : "None of them says so."}</p>}
    </>
  );
}
