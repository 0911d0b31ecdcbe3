import type { Schema } from "../api/client";
import { Glyph } from "./Glyph";
import { agreement } from "./count";
import classes from "./Standing.module.css";

/** Where a component stands: moves to decide, facts that differ, or level. */
export function Standing({ entry: e }: { entry: Schema["Entry"] }) {
  if (e.waiting > 0) {
    return (
      <span className={classes.state}>
        <Glyph verdict="design moved" measured={e.measured} /> {e.waiting} to decide
      </span>
    );
  }
  if (e.measured && e.differs > 0) {
    return (
      <span className={classes.state}>
        <Glyph verdict="code moved" /> {agreement(e.differs, e.facts)}
      </span>
    );
  }
  return (
    <span className={classes.state}>
      <Glyph verdict="agree" measured={e.measured} /> {e.measured ? "level" : "not measured"}
    </span>
  );
}
