import { Button, CopyButton } from "@mantine/core";
import { useState } from "react";

import { type Schema, useReleases, useUpgrade } from "../../api/client";
import { Changes } from "../../ui/Changes";
import { Rich } from "../../ui/Rich";
import { Query } from "../../ui/States";
import { Steps } from "../../ui/Steps";
import { count } from "../../ui/count";
import classes from "./Catalogue.module.css";
import { Version } from "./Version";

interface Props {
  bench: Schema["Bench"];
  preview: string;
  theme: Schema["LookTheme"] | undefined;
}

/** Every version with what it changed, as it looked before and since; and how code goes from one to another. */
export function HistorySheet({ bench, preview, theme }: Props) {
  const releases = useReleases(bench.slug);
  const [key, setKey] = useState("");
  const shown = bench.cases.find((c) => (key ? c.key === key : c.default)) ?? bench.cases[0];
  return (
    <div className={classes.sheet}>
      <Query query={releases} what="the history">
        {(list) =>
          list.length === 0 ? (
            <p className="quiet">Not released yet. A release is made on the bench.</p>
          ) : (
            <>
              <Between slug={bench.slug} name={bench.name} list={list} />
              <section aria-label="History">
                <h2>
                  History <span className="quiet">{count(list.length, "version")}</span>
                  {bench.cases.length > 1 && list.length > 1 && (
                    <select
                      aria-label="Case that is shown of each version"
                      className={classes.filter}
                      value={shown?.key}
                      onChange={(e) => setKey(e.currentTarget.value)}
                    >
                      {bench.cases.map((c) => (
                        <option key={c.key} value={c.key}>
                          {c.name}
                        </option>
                      ))}
                    </select>
                  )}
                </h2>
                <ol className={classes.history}>
                  {list.map((r) => (
                    <li key={r.version}>
                      <div className={classes.release}>
                        <div>
                          <strong className="mono">{r.version}</strong>{" "}
                          <span className="quiet">
                            {new Date(r.released).toLocaleString()}, by {r.by}
                          </span>
                          {r.told.length > 0 ? (
                            <Rich blocks={r.told} />
                          ) : (
                            <div>{r.before ? "Nobody said what changed." : "First release."}</div>
                          )}
                          {r.changes.length > 0 && (
                            <details>
                              <summary>{count(r.changes.length, "fact")} changed</summary>
                              <Changes list={r.changes} />
                            </details>
                          )}
                        </div>
                        {shown && (
                          <div className={classes.versions}>
                            {r.before && <Version slug={bench.slug} version={r.before} shown={shown} theme={theme} preview={preview} />}
                            <Version slug={bench.slug} version={r.version} shown={shown} theme={theme} preview={preview} />
                          </div>
                        )}
                      </div>
                    </li>
                  ))}
                </ol>
              </section>
            </>
          )
        }
      </Query>
    </div>
  );
}

/** How code goes from one version to a later one. */
function Between({ slug, name, list }: { slug: string; name: string; list: Schema["ReleaseView"][] }) {
  const newest = list[0]!.version;
  const major = (version: string) => version.split(".")[0];
  const [from, setFrom] = useState(list.find((r) => major(r.version) !== major(newest))?.version ?? list[1]?.version ?? "");
  const upgrade = useUpgrade(slug, from, from ? newest : "");
  if (list.length < 2) return null;
  return (
    <section aria-label="From one version to another" className={classes.between}>
      <h2>
        From{" "}
        <select aria-label="From version" className={classes.filter} value={from} onChange={(e) => setFrom(e.currentTarget.value)}>
          {list.slice(1).map((r) => (
            <option key={r.version} value={r.version}>
              {r.version}
            </option>
          ))}
        </select>{" "}
        to <code>{newest}</code>
      </h2>
      <Query query={upgrade} what="what changed between them">
        {(u) => (
          <>
            <p>
              {u.steps.length === 0
                ? `Nothing of your code has to change; ${count(u.changes.length, "fact")} changed.`
                : `${count(u.steps.length, "thing")} to follow, ${u.steps.filter((s) => s.mechanical).length} of them mechanical.`}
            </p>
            <Steps list={u.steps} title="What changes in your code" />
            {u.program && (
              <div className={classes.program}>
                <CopyButton value={u.program}>
                  {({ copied, copy }) => <Button onClick={copy}>{copied ? "Copied" : "Copy the program that rewrites it"}</Button>}
                </CopyButton>
                <a
                  className={classes.back}
                  download={`${slug}-${u.from}-${u.to}.mjs`}
                  href={`data:text/javascript;charset=utf-8,${encodeURIComponent(u.program)}`}
                >
                  Download it
                </a>
                <code>
                  node {slug}-{u.from}-{u.to}.mjs src
                </code>
                <span className="quiet">
                  rewrites what is mechanical of every use of {name}, and lists the places that are for you to decide
                </span>
              </div>
            )}
          </>
        )}
      </Query>
    </section>
  );
}
