import type { Schema } from "../../api/client";
import { count } from "../../ui/count";
import classes from "./Survey.module.css";

/** What is not as it was in the revision before: nothing where all is. */
export function Since({ since: s, shown }: { since: Schema["SurveySince"]; shown: "finds" | "doubts" }) {
  const said = (list: string[], what: string) =>
    list.length > 0 ? `${count(list.length, shown === "finds" ? "find" : "doubt")} ${what}` : "";
  const parts =
    shown === "finds"
      ? [said(s.newFinds, "new"), said(s.changedFinds, "changed"), said(s.goneFinds, `gone: ${s.goneFinds.join(", ")}`)]
      : [said(s.newDoubts, "new"), said(s.goneDoubts, "gone")];
  const all = parts.filter(Boolean).join(" · ");
  return all ? (
    <p className={classes.since} title={shown === "doubts" ? s.goneDoubts.join("\n") : undefined}>
      Since revision {s.revision}: {all}
    </p>
  ) : null;
}
