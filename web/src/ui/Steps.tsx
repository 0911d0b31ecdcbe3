import type { Schema } from "../api/client";
import classes from "./Changes.module.css";

/** What users of a component change in their code, each with what was written and what is. */
export function Steps({ list, title }: { list: Schema["MigrationStep"][]; title: string }) {
  if (list.length === 0) return null;
  return (
    <section className={classes.steps} aria-label={title}>
      <h3>{title}</h3>
      <ol>
        {list.map((s) => (
          <li key={s.what}>
            {s.what}
            {(s.before || s.after) && (
              <div className="mono">
                {s.before && <del>{s.before}</del>} {s.after && <ins>{s.after}</ins>}
              </div>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}
