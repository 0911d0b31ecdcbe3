import { useState } from "react";

import type { Schema } from "../../api/client";
import { count } from "../../ui/count";
import { Rich } from "../../ui/Rich";
import { isStatic } from "../../ui/static";
import { Anatomy } from "./Anatomy";
import { buildAddress } from "../../lanes/address";
import classes from "./Catalogue.module.css";
import { Cells } from "./Cells";
import { PropTable } from "./PropTable";
import { Specimen } from "./Specimen";
import { UseLine, type Values } from "./UseLine";

interface Props {
  bench: Schema["Bench"];
  about: Schema["About"] | undefined;
  preview: string;
  theme: Schema["LookTheme"] | undefined;
}

/** The specimen large and numbered, its use as a line that is itself the control, its anatomy, its props, all its cases. */
export function SpecimenSheet({ bench, about, preview, theme }: Props) {
  const defaults: Values = Object.fromEntries(bench.props.map((p) => [p.name, p.shown]));
  const [values, setValues] = useState(defaults);
  const [part, setPart] = useState<string>();
  const [prop, setProp] = useState<string>();
  const changed = bench.props.some((p) => values[p.name] !== p.shown);
  const meant = prop ? bench.parts.filter((p) => p.changed.some((c) => c.prop === prop)).map((p) => p.id) : part ? [part] : [];
  const pointed = bench.props.find((p) => p.id === prop);
  const cases = bench.cases.filter((c) => c.new.length === 0);
  return (
    <div className={classes.page}>
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
        {about && <Examples about={about} src={buildAddress(preview, bench.slug, bench.build)} theme={theme} />}
        {about && about.notes.length > 0 && <Rich blocks={about.notes} />}
        {about && <Further about={about} />}
      </div>
      <Anatomy parts={bench.parts} meant={meant} onPart={setPart} />
      <div className={classes.side}>
        <PropTable bench={bench} effects={about?.effects ?? []} prop={prop} onPoint={setProp} />
        {cases.length > 0 && (
          <section aria-label="All cases">
            <h2>
              All cases{" "}
              <span className="quiet">
                {cases.length}
                {theme ? `, in ${theme.name}` : ""}
                {pointed && `; marked where ${pointed.name} is not as by default`}
              </span>
            </h2>
            <Cells
              src={buildAddress(preview, bench.slug, bench.build)}
              title="All cases, running"
              cells={cases.map((c) => ({
                key: c.key,
                name: c.name,
                case: c,
                theme,
                to: isStatic ? undefined : `/bench/${bench.slug}?case=${encodeURIComponent(c.key)}`,
                meant: pointed && c.props[pointed.name] !== undefined && !same(c.props[pointed.name], pointed.default),
              }))}
            />
          </section>
        )}
      </div>
    </div>
  );
}

const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

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

/** Saved cases that show how it is meant to be used, and how it is not, running. */
function Examples({ about, src, theme }: { about: Schema["About"]; src: string; theme: Schema["LookTheme"] | undefined }) {
  return (["do", "dont"] as const).map((meant) => {
    const list = about.examples.filter((e) => e.meant === meant);
    if (list.length === 0) return null;
    const title = meant === "do" ? "Meant so" : "Not meant so";
    return (
      <section key={meant} aria-label={title} className={classes.examples} data-meant={meant}>
        <h3>{title}</h3>
        <Cells
          src={src}
          title={`${title}, running`}
          cells={list.map((e) => ({ key: e.case.key, name: e.case.name, case: e.case, theme }))}
        />
      </section>
    );
  });
}

/** Who answers for it, and what to read of it elsewhere. */
function Further({ about }: { about: Schema["About"] }) {
  if (about.owner === "" && about.links.length === 0) return null;
  return (
    <p className={classes.hint}>
      {about.owner && `${about.owner} answers for it. `}
      {about.links.length > 0 && `${count(about.links.length, "page")} to read: `}
      {about.links.map((l, i) => (
        <span key={l.address}>
          {i > 0 && ", "}
          <a href={l.address} target="_blank" rel="noreferrer">
            {l.text}
          </a>
        </span>
      ))}
    </p>
  );
}
