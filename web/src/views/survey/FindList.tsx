import type { Schema } from "../../api/client";
import { count } from "../../ui/count";
import classes from "./Survey.module.css";
import { type ListProps, useWords } from "./Words";

/** What a find is, in a few words. */
export function title(f: Schema["SurveyFind"]): string {
  switch (f.kind) {
    case "copies":
      return `${count(f.members.length, "copy", "copies")} of ${f.family}, no uses of it`;
    case "list":
      return `${f.members.length} in a line, of one look`;
  }
  return f.members.length === 1 ? "once, as it was marked" : `the same thing ${f.members.length.toLocaleString("en")} times`;
}

interface Props extends Pick<ListProps, "survey" | "page" | "here" | "lit" | "onLit"> {
  onOpen: (find: Schema["SurveyFind"]) => void;
}

/** What repeats, the largest first. */
export function FindList({ survey: s, page, here, lit, onLit, onOpen }: Props) {
  const words = useWords(s.finds.length, "Find among the finds", "Name, prop or component");
  if (s.finds.length === 0)
    return (
      <p className={classes.nothing}>
        Nothing repeats that is not a family already. Layers can be marked on the picture and read as one drawing.
      </p>
    );
  const list = s.finds
    .map((f, i) => ({ f, number: i + 1 }))
    .filter(({ f }) => !here || f.onPages.includes(page ?? ""))
    .filter(({ f }) => words.matches([f.name, f.kind, f.family, ...f.shows, ...f.nearest.map((n) => n.name)]));
  return (
    <>
      {words.field}
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
                  f.component ? "on the bench" : f.members.some((m) => m.component) && "in part on the bench",
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
