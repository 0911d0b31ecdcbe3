import { Link } from "react-router";

import type { Schema } from "../../api/client";
import { count } from "../../ui/count";
import { TokenPicture } from "../../ui/TokenPicture";
import classes from "./TokenPanel.module.css";

/** What an edit would change: tokens, components, contrasts. */
export function ImpactView({ impact }: { impact: Schema["Impact"] }) {
  const { tokens, components, contrasts, layers } = impact;
  const failing = contrasts.filter((c) => c.fails);
  const mended = contrasts.filter((c) => !c.fails);
  return (
    <section className={classes.impact} aria-label="What would change" role="status">
      <h3>Would change</h3>
      {tokens.length === 0 && <p className="quiet">No value of any token.</p>}
      {tokens.length > 0 && (
        <details>
          <summary>{count(tokens.length, "value")} of tokens</summary>
          <ul className={classes.uses}>
            {tokens.slice(0, 60).map((t) => (
              <li key={`${t.path} ${t.theme}`} className="mono">
                {t.path} <span className="quiet">{t.theme}</span> <TokenPicture type={t.type} value={t.before} /> {t.before} →{" "}
                <TokenPicture type={t.type} value={t.after} /> {t.after || "gone"}
              </li>
            ))}
            {tokens.length > 60 && <li className="quiet">and {tokens.length - 60} more</li>}
          </ul>
        </details>
      )}
      {components.map((c) => (
        <p key={c.slug}>
          <Link to={`/bench/${c.slug}`}>{c.name}</Link>: {c.cases} of {count(c.of, "case")}, {count(c.facts, "value")}
        </p>
      ))}
      {failing.length > 0 && (
        <div className={classes.failing}>
          <strong>{count(failing.length, "contrast")} would fail</strong>
          <Moves list={failing} />
        </div>
      )}
      {mended.length > 0 && (
        <details>
          <summary>{count(mended.length, "contrast")} that failed would pass</summary>
          <Moves list={mended} />
        </details>
      )}
      {layers > 0 && (
        <p className={classes.failing}>
          {layers} {layers === 1 ? "binding" : "bindings"} in the design would lead nowhere until the design follows.
        </p>
      )}
    </section>
  );
}

function Moves({ list }: { list: Schema["ContrastMove"][] }) {
  return (
    <ul className={classes.uses}>
      {list.map((c) => (
        <li key={`${c.theme} ${c.text} ${c.ground}`} className="mono">
          {c.text} on {c.ground}, {c.theme}: {c.before.toFixed(2)} → {c.after.toFixed(2)}, needs {c.needs}
        </li>
      ))}
    </ul>
  );
}
