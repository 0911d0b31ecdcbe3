import type { Schema } from "../api/client";
import classes from "./Changes.module.css";

/** What changed in a contract, each with the bump it asks for. */
export function Changes({ list }: { list: Schema["Change"][] }) {
  return (
    <ul className={classes.changes}>
      {list.map((c) => (
        <li key={c.text}>
          <span className="quiet">{c.level}</span> {c.text}
        </li>
      ))}
    </ul>
  );
}
