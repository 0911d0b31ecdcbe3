import type { Schema } from "../api/client";
import { Glyph } from "./Glyph";
import { agreement } from "./count";
import classes from "./Standing.module.css";

/** How the repository has it, beside how it stands otherwise. */
const inCode: Record<Schema["Entry"]["inCode"], string> = {
  "": "",
  "in step": ", in code",
  moved: ", in code",
  missing: ", not in code",
  "not read": ", not read in code",
};

/** Where a component stands: moves to decide, facts that differ, or level. */
export function Standing({ entry: e }: { entry: Schema["Entry"] }) {
  if (e.waiting > 0) {
    return (
      <span className={classes.state}>
        <Glyph verdict="design moved" measured={e.measured} /> {e.waiting} to decide
      </span>
    );
  }
  if (e.inCodeWait > 0) {
    return (
      <span className={classes.state}>
        <Glyph verdict="code moved" /> {e.inCodeWait} to decide in the code
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
      {inCode[e.inCode]}
    </span>
  );
}
