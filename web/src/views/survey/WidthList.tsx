import type { Schema } from "../../api/client";
import classes from "./Survey.module.css";
import type { ListProps } from "./Words";

type Widths = Schema["PageWidths"];

/** Pages that are drawn at several widths: what stays, what is shown in some alone, and what no drawing says. */
export function WidthList({ survey: s, page, lit, picked, onLit, onPick }: Omit<ListProps, "here">) {
  if (s.widths.length === 0)
    return (
      <p className={classes.nothing}>No page is drawn at a second width. A page of the same name, with another width, is taken for one.</p>
    );
  return s.widths.map((w, i) => (
    <section key={w.name} className={classes.rule} aria-label={w.name}>
      <header>
        <h2>{w.name}</h2>
        <span className="mono quiet">{w.at.join(", ")} px</span>
      </header>
      <p className="quiet">No drawing says what happens {w.undrawn.map(span).join(", ")}.</p>
      <ol className={classes.rows}>
        {w.pieces.map((p, k) => {
          const group = `${i}.${k}`;
          return (
            <li
              key={group}
              data-lit={group === lit || group === picked || undefined}
              onPointerEnter={() => onLit(group)}
              onPointerLeave={() => onLit(undefined)}
            >
              <button
                type="button"
                className={classes.row}
                onClick={() => onPick(group === picked ? undefined : group, page && p.layers[page] ? [page] : Object.keys(p.layers))}
              >
                <span className={classes.number}>{k + 1}</span>
                <span className={classes.what}>{p.name}</span>
                <span className="quiet">{what(w, p)}</span>
              </button>
            </li>
          );
        })}
      </ol>
    </section>
  ));
}

/** A range of widths in words. */
function span({ from, to }: { from: number; to: number }): string {
  return to > 0 ? `between ${from} and ${to} px` : `above ${from} px`;
}

function what(w: Widths, p: Widths["pieces"][number]): string {
  switch (p.what) {
    case "shown":
      return `only at ${p.when.map((s) => s.from).join(", ")} px`;
    case "rearranged":
      return "rearranged";
  }
  return w.at.length > 2 ? "at all of them" : "at both";
}
