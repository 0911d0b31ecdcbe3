import { SegmentedControl } from "@mantine/core";
import { useSearchParams } from "react-router";

import { type Schema, useContrasts } from "../../api/client";
import { Empty, Query } from "../../ui/States";
import classes from "./Contrast.module.css";

/** Every colour for text and lines on every ground, in each theme: what passes, and what is meant together and does not. */
export function ContrastView() {
  const contrasts = useContrasts();
  return (
    <Query query={contrasts} what="the contrasts">
      {(themes) => <Contrasts themes={themes} />}
    </Query>
  );
}

function Contrasts({ themes }: { themes: Schema["ContrastView"][] }) {
  const [search, setSearch] = useSearchParams();
  const theme = themes.find((t) => t.theme === search.get("theme")) ?? themes[0];
  if (!theme || theme.pairs.length === 0) {
    return (
      <Empty title="No pairs to compare">
        Contrast is computed for colours named for what they are used as, such as ink, text or edge on ground or surface, and for what
        contracts use them as.
      </Empty>
    );
  }
  const value = new Map([...theme.texts, ...theme.grounds].map((c) => [c.path, c.value]));
  const failing = theme.pairs.filter((p) => p.meant && p.ratio < p.needs);
  return (
    <div className={classes.view}>
      <div className={classes.top}>
        <SegmentedControl
          aria-label="Theme"
          size="xs"
          data={themes.map((t) => ({ value: t.theme, label: t.fails ? `${t.theme}: ${t.fails} fail` : `${t.theme}: all pass` }))}
          value={theme.theme}
          onChange={(v) =>
            setSearch(
              (s) => {
                s.set("theme", v);
                return s;
              },
              { replace: true },
            )
          }
        />
        <span className="quiet">
          {theme.meant - theme.fails} of {theme.meant} pairs meant together pass. Text needs 4.5 (AA), 7 for AAA; lines and marks need 3
          (WCAG 2.2, 1.4.3, 1.4.6, 1.4.11).
        </span>
      </div>
      {failing.length > 0 && (
        <ul className={classes.failing} aria-label="Pairs that fail">
          {failing.map((p) => (
            <li key={`${p.text} ${p.ground}`}>
              <span className={classes.sample} style={{ color: value.get(p.text), background: value.get(p.ground) }} aria-hidden="true" />
              <span className="mono">
                {p.text} <span className="quiet">on</span> {p.ground}
              </span>
              <strong>{p.ratio.toFixed(2)}</strong>
              <span className="quiet">needs {p.needs}</span>
            </li>
          ))}
        </ul>
      )}
      <Matrix theme={theme} />
    </div>
  );
}

/** Grounds across, texts down. Pairs meant together stand out; the others are there to look up. */
function Matrix({ theme }: { theme: Schema["ContrastView"] }) {
  const n = theme.grounds.length;
  return (
    <div className={classes.scroll} tabIndex={0} role="region" aria-label="Contrast matrix">
      <table className={classes.matrix}>
        <thead>
          <tr>
            <th scope="col">
              <span className="hidden-but-read">Text</span>
            </th>
            {theme.grounds.map((g) => (
              <th key={g.path} scope="col">
                <span className={classes.ground}>
                  <span className="mono">{g.path}</span>
                  <span className={classes.chip} style={{ background: g.value }} aria-hidden="true" />
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {theme.texts.map((t, i) => (
            <tr key={t.path}>
              <th scope="row" className="mono">
                {t.path}
              </th>
              {theme.pairs.slice(i * n, i * n + n).map((p, j) => (
                <td
                  key={p.ground}
                  className={`${p.meant ? classes.meant : ""} ${p.meant && p.ratio < p.needs ? classes.fails : ""}`}
                  title={`${p.text} on ${p.ground}: ${p.ratio.toFixed(2)}`}
                >
                  <span className={classes.cell}>
                    <span className={classes.aa} style={{ color: t.value, background: theme.grounds[j]?.value }} aria-hidden="true" />
                    {p.ratio.toFixed(1)}
                    <span className={classes.mark}>{mark(p)}</span>
                  </span>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The level a pair reaches. */
function mark(p: Schema["Contrast"]) {
  if (p.needs <= 3) return p.ratio >= 3 ? "ok" : "low";
  if (p.ratio >= 7) return "AAA";
  return p.ratio >= 4.5 ? "AA" : "low";
}
