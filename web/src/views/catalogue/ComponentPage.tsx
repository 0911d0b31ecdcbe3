import { Button, NumberInput, SegmentedControl, Select, Switch, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link, useParams } from "react-router";

import type { Failed, MeasuredCase } from "../../../preview/messages";
import { type Schema, useBench, useEntries, useProject, useReleases } from "../../api/client";
import { BuiltFrame } from "../../lanes/BuiltFrame";
import { Thrown } from "../../lanes/Thrown";
import { Loading, Query } from "../../ui/States";
import { Changes } from "../../ui/Changes";
import { Standing } from "../../ui/Standing";
import { ThemeSelect } from "../../ui/ThemeSelect";
import classes from "./Catalogue.module.css";

/** One component for its users: purpose, props with live controls, history. */
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

type Values = Record<string, unknown>;

function Page({ bench, preview }: { bench: Schema["Bench"]; preview: string }) {
  const entry = useEntries().data?.find((e) => e.slug === bench.slug);
  const defaults: Values = Object.fromEntries(bench.props.map((p) => [p.name, p.shown]));
  const [values, setValues] = useState(defaults);
  const [theme, setTheme] = useState(bench.themes[0]);
  const primitive = bench.status === "primitive";
  const changed = bench.props.some((p) => values[p.name] !== p.shown);
  return (
    <div className={classes.page}>
      <header className={classes.title}>
        <h1>{bench.name}</h1>
        <span className="quiet">
          {primitive ? "layout primitive" : bench.version || "not released"} {bench.collection && `· ${bench.collection}`}
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
      <div>
        <p className={classes.purpose}>{bench.purpose || "Nobody has said yet what it is for."}</p>
        <Notes title="Do" list={bench.do} />
        <Notes title="Don’t" list={bench.dont} />
        <Live bench={bench} preview={preview} values={values} theme={theme} />
        <section className={classes.props} aria-label="Props">
          <table className="grid">
            <thead>
              <tr>
                <th>Prop</th>
                <th>Kind</th>
                <th>Default</th>
                <th>Try it</th>
              </tr>
            </thead>
            <tbody>
              {bench.props.map((p) => (
                <tr key={p.name}>
                  <td>
                    <code>{p.name}</code>
                    <div className="quiet">{p.purpose}</div>
                  </td>
                  <td className="quiet">{p.kind}</td>
                  <td className="mono">{p.required ? <em>required</em> : said(p.default)}</td>
                  <td>
                    <Control prop={p} value={values[p.name]} set={(v) => setValues({ ...values, [p.name]: v })} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Button mt="sm" disabled={!changed} onClick={() => setValues(defaults)}>
            Back to the defaults
          </Button>
        </section>
      </div>
      <aside className={classes.side}>
        {primitive ? (
          <section aria-label="Facts">
            <h2>Standing</h2>
            <p className="quiet">Its choices are the steps of the project’s tokens: it follows them, and nobody edits it.</p>
          </section>
        ) : (
          <Facts bench={bench} entry={entry} />
        )}
      </aside>
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

interface LiveProps {
  bench: Schema["Bench"];
  preview: string;
  values: Values;
  theme: Schema["LookTheme"] | undefined;
}

/** The room a layout primitive lays its content out in, px. */
const primitiveRoom = 480;

function Live({ bench, preview, values, theme }: LiveProps) {
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [failure, setFailure] = useState<Failed>();
  const primitive = bench.status === "primitive";
  const stretched = bench.cases.find((c) => c.fills);
  const shown = {
    key: "live",
    theme: theme?.name,
    attributes: theme?.attributes,
    props: values,
    paths: { root: [] },
    x: 0,
    y: 0,
    width: stretched?.width ?? (primitive ? primitiveRoom : undefined),
    block: primitive,
  };
  const measured = (cases: MeasuredCase[]) => {
    const box = cases[0]?.parts[0]?.box;
    if (box) setSize({ width: Math.ceil(box.width), height: Math.ceil(box.height) });
  };
  const scale = size.width > 0 && size.width < 160 ? 2 : 1;
  return (
    <div className={classes.stage}>
      {failure ? (
        <Thrown slug={bench.slug} build={bench.build} failure={failure} />
      ) : (
        <div className={classes.sheet} style={{ width: size.width * scale, height: size.height * scale }}>
          <BuiltFrame
            src={`${preview}/${bench.slug}/${bench.build}/`}
            title={`${bench.name}, running`}
            cases={[shown]}
            width={Math.max(1, size.width)}
            height={Math.max(1, size.height)}
            scale={scale}
            onMeasured={measured}
            onFailed={setFailure}
          />
        </div>
      )}
    </div>
  );
}

/** A default in a line. */
function said(value: unknown) {
  if (value === null || value === undefined) return "none";
  return typeof value === "object" ? JSON.stringify(value) : String(value as string | number | boolean);
}

function Control({ prop: p, value, set }: { prop: Schema["PropView"]; value: unknown; set: (v: unknown) => void }) {
  const text = typeof value === "string" ? value : "";
  switch (p.control) {
    case "switch":
      return <Switch size="xs" aria-label={p.name} checked={value === true} onChange={(e) => set(e.currentTarget.checked)} />;
    case "text":
    case "address":
      return <TextInput aria-label={p.name} value={text} onChange={(e) => set(e.currentTarget.value)} />;
    case "rich text":
      return (
        <TextInput
          aria-label={p.name}
          placeholder="plain text in place of it"
          value={text}
          onChange={(e) => set(e.currentTarget.value || p.shown)}
        />
      );
    case "number":
      return (
        <NumberInput
          aria-label={p.name}
          value={typeof value === "number" ? value : ""}
          onChange={(v) => set(v === "" ? undefined : Number(v))}
        />
      );
    case "icon":
      return (
        <Select aria-label={p.name} data={p.options} value={text || null} clearable={!p.required} onChange={(v) => set(v ?? undefined)} />
      );
    case "options":
      if (p.options.length <= 5) return <SegmentedControl size="xs" aria-label={p.name} data={p.options} value={text} onChange={set} />;
      return <Select aria-label={p.name} data={p.options} value={text} onChange={(v) => set(v ?? p.shown)} allowDeselect={false} />;
    default:
      return <span className="quiet">given in code</span>;
  }
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
