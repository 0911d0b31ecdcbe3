import { Link } from "react-router";

import type { Schema } from "../../api/client";
import { isStatic } from "../../ui/static";
import { Away } from "../../ui/Away";
import { count } from "../../ui/count";
import { Standing } from "../../ui/Standing";
import { TokenPicture } from "../../ui/TokenPicture";
import classes from "./Catalogue.module.css";

interface Props {
  bench: Schema["Bench"];
  about: Schema["About"];
  entry: Schema["Entry"] | undefined;
}

/** What it is made of, and what is made of it; where it is used; the tokens it refers to; where it stands. */
export function UsesSheet({ bench, about, entry }: Props) {
  return (
    <div className={classes.sheet}>
      <div className={classes.twofold}>
        <Pieces title="Made of" none="Elements alone." list={about.madeOf} />
        <Pieces title="Part of" none="No other component is made of it." list={about.usedBy} />
        <section aria-label="In the design">
          <h2>In the design</h2>
          {about.pages.length === 0 ? (
            <p className="quiet">No page of the design uses it.</p>
          ) : (
            <ul className={classes.sentences}>
              {about.pages.map((p) => (
                <li key={p.page}>
                  <Away to={`/survey?page=${encodeURIComponent(p.page)}&document=${encodeURIComponent(about.document)}`}>{p.name}</Away>{" "}
                  <span className="quiet">{count(p.uses, "use")}</span>
                </li>
              ))}
            </ul>
          )}
        </section>
        {!isStatic && (
          <section aria-label="On trial">
            <h2>On trial</h2>
            {about.trials.length === 0 ? (
              <p className="quiet">No page on trial uses it.</p>
            ) : (
              <ul className={classes.sentences}>
                {about.trials.map((p) => (
                  <li key={p.slug}>
                    <Link to={`/trial/${p.slug}`}>{p.name}</Link> <span className="quiet">{count(p.uses, "row")}</span>
                  </li>
                ))}
              </ul>
            )}
          </section>
        )}
        {bench.status !== "primitive" && !isStatic && (
          <section aria-label="Standing">
            <h2>Standing</h2>
            <dl className={classes.facts}>
              <dt>Ledger</dt>
              <dd>{entry && <Standing entry={entry} />}</dd>
              <dt>Cases</dt>
              <dd>{bench.cases.length}</dd>
              <dt>Agreed at</dt>
              <dd>{bench.undrawn ? "begun without a drawing" : `design revision ${bench.agreed}`}</dd>
            </dl>
          </section>
        )}
      </div>
      <section aria-label="Tokens">
        <h2>
          Tokens <span className="quiet">{count(about.tokens.length, "token")} it refers to</span>
        </h2>
        {about.tokens.length > 0 && (
          <table className="grid">
            <thead>
              <tr>
                <th>Token</th>
                <th>Value</th>
                <th>Where</th>
              </tr>
            </thead>
            <tbody>
              {about.tokens.map((t) => (
                <tr key={t.path}>
                  <td>
                    <Away className="mono" to={`/tokens?token=${encodeURIComponent(t.path)}`}>
                      {t.path}
                    </Away>
                  </td>
                  <td>
                    <span className={classes.value}>
                      <TokenPicture type={t.type} value={t.value} /> <code>{t.value || "not there"}</code>
                    </span>
                  </td>
                  <td className="quiet">{t.where.join(", ") || "its behaviour"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
    </div>
  );
}

function Pieces({ title, none, list }: { title: string; none: string; list: Schema["Piece"][] }) {
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      {list.length === 0 ? (
        <p className="quiet">{none}</p>
      ) : (
        <ul className={classes.sentences}>
          {list.map((p) => (
            <li key={p.name} style={{ paddingLeft: (p.level - 1) * 16 }}>
              <Link to={`/catalogue/${p.slug}`}>{p.name}</Link>
              {p.times > 1 && <span className="quiet"> {p.times} times</span>}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
