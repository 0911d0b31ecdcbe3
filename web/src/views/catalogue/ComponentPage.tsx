import { Button } from "@mantine/core";
import { useState } from "react";
import { Link, useParams } from "react-router";

import { type Schema, useBench, useEntries, useProject, useReleases } from "../../api/client";
import { Loading, Query } from "../../ui/States";
import { Changes } from "../../ui/Changes";
import { Standing } from "../../ui/Standing";
import { ThemeSelect } from "../../ui/ThemeSelect";
import { AllCases } from "./AllCases";
import { Anatomy } from "./Anatomy";
import classes from "./Catalogue.module.css";
import { Specimen } from "./Specimen";
import { UseLine, type Values } from "./UseLine";

/** One component for its users as a specimen sheet: the specimen, its use, its anatomy, its cases, its history. */
export function ComponentPage() {
  const { slug = "" } = useParams();
  const bench = useBench(slug);
  const project = useProject().data;
  return (
    <Query query={bench} what="the component">
      {(b) => (project ? <Page key={b.build} bench={b} preview={project.preview} /> : <Loading what="the project" />)}
    </Query>
  );
}

function Page({ bench, preview }: { bench: Schema["Bench"]; preview: string }) {
  const entry = useEntries().data?.find((e) => e.slug === bench.slug);
  const defaults: Values = Object.fromEntries(bench.props.map((p) => [p.name, p.shown]));
  const [values, setValues] = useState(defaults);
  const [theme, setTheme] = useState(bench.themes[0]);
  const [part, setPart] = useState<string>();
  const [prop, setProp] = useState<string>();
  const primitive = bench.status === "primitive";
  const changed = bench.props.some((p) => values[p.name] !== p.shown);
  const meant = prop ? bench.parts.filter((p) => p.changed.some((c) => c.prop === prop)).map((p) => p.id) : part ? [part] : [];
  return (
    <div className={classes.page}>
      <header className={classes.title}>
        <h1>{bench.name}</h1>
        <span className="quiet">
          {primitive ? "layout primitive" : bench.version || "not released"} {bench.shelf && `· shelf ${bench.shelf}`}
        </span>
        <span>
          <ThemeSelect themes={bench.themes} value={theme?.name ?? ""} onChange={setTheme} />
          <Button component={Link} to={`/bench/${bench.slug}/code`}>
            Code
          </Button>
          {!primitive && (
            <Button component={Link} to={`/bench/${bench.slug}`}>
              On the bench
            </Button>
          )}
        </span>
      </header>
      <Specimen bench={bench} preview={preview} values={values} theme={theme} meant={meant} onPart={setPart} />
      <div className={classes.told}>
        <p className={classes.purpose}>{bench.purpose || "Nobody has said yet what it is for."}</p>
        <UseLine
          name={bench.name}
          props={bench.props}
          values={values}
          onSet={(name, v) => setValues({ ...values, [name]: v })}
          onPoint={setProp}
        />
        <p className={classes.hint}>
          Every value is the control; struck words are flags that are off. What has its default is not copied.{" "}
          <button type="button" className={classes.back} disabled={!changed} onClick={() => setValues(defaults)}>
            Back to the defaults
          </button>
        </p>
        <Notes title="Do" list={bench.do} />
        <Notes title="Don’t" list={bench.dont} />
      </div>
      <Anatomy parts={bench.parts} meant={meant} onPart={setPart} />
      <div className={classes.side}>
        <AllCases bench={bench} preview={preview} theme={theme} />
        {primitive ? (
          <section aria-label="Facts">
            <h2>Standing</h2>
            <p className="quiet">Its choices are the steps of the project’s tokens: it follows them, and nobody edits it.</p>
          </section>
        ) : (
          <Facts bench={bench} entry={entry} />
        )}
      </div>
    </div>
  );
}

function Facts({ bench, entry }: { bench: Schema["Bench"]; entry: Schema["Entry"] | undefined }) {
  return (
    <>
      <section aria-label="Facts">
        <h2>Standing</h2>
        <dl className={classes.facts}>
          <dt>Ledger</dt>
          <dd>{entry && <Standing entry={entry} />}</dd>
          <dt>Cases</dt>
          <dd>{bench.cases.length}</dd>
          <dt>Made of</dt>
          <dd>{bench.uses.length > 0 ? bench.uses.join(", ") : "elements alone"}</dd>
          <dt>Used by</dt>
          <dd>{bench.usedBy.length > 0 ? bench.usedBy.join(", ") : "no other component"}</dd>
          <dt>Uses in the design</dt>
          <dd>{entry?.uses ?? "–"}</dd>
          <dt>Agreed at</dt>
          <dd>design revision {bench.agreed}</dd>
        </dl>
      </section>
      <History slug={bench.slug} />
    </>
  );
}

/** What the component is meant for, or not; nothing where nobody said. */
function Notes({ title, list }: { title: string; list: string[] }) {
  if (list.length === 0) return null;
  return (
    <dl className={classes.notes}>
      <dt>{title}</dt>
      {list.map((note) => (
        <dd key={note}>{note}</dd>
      ))}
    </dl>
  );
}

function History({ slug }: { slug: string }) {
  const releases = useReleases(slug);
  return (
    <section aria-label="History">
      <h2>History</h2>
      <Query query={releases} what="the history">
        {(list) => (
          <ol className={classes.history}>
            {list.map((r) => (
              <li key={r.version}>
                <strong className="mono">{r.version}</strong> <span className="quiet">{new Date(r.released).toLocaleString()}</span>
                {r.note && <div>{r.note}</div>}
                {r.changes.length === 0 && !r.note && <div>First release.</div>}
                {r.changes.length > 0 && <Changes list={r.changes} />}
              </li>
            ))}
            {list.length === 0 && <li className="quiet">Not released yet.</li>}
          </ol>
        )}
      </Query>
    </section>
  );
}
