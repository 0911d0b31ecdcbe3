import type { Schema } from "../../api/client";
import { count } from "../../ui/count";
import classes from "./Sync.module.css";

/** What a decision reaches beside the component: those that use it, the design's pages, the pages on trial. */
export function Touches({ outcome: o }: { outcome: Schema["Outcome"] }) {
  const uses = (list: { name: string; uses: number }[]) => list.map((p) => `${p.name} (${p.uses})`).join(", ");
  const parts = [
    o.reaches.length > 0 && ["used by", o.reaches.join(", ")],
    o.pages.length > 0 && [`on ${count(o.pages.length, "page")} of the design:`, uses(o.pages)],
    o.trials.length > 0 && [`on ${count(o.trials.length, "page")} on trial:`, uses(o.trials)],
  ].filter((p) => p !== false);
  return (
    <p className={classes.touches}>
      {parts.length === 0 && <span className="quiet">Nothing else uses it.</span>}
      {parts.map(([what, names]) => (
        <span key={what}>
          <span className="quiet">{what}</span> {names}
        </span>
      ))}
    </p>
  );
}
