import type { ReactNode } from "react";

import type { Schema } from "../../../api/client";
import { Cell, Fresh, fresh } from "./Cell";
import classes from "./ContractFacet.module.css";
import { useHeld } from "./state";

interface Row {
  on: string;
  /** Its cells, by their names. */
  cells: { name: string; text: string; label: string; fixed?: boolean; children?: ReactNode }[];
}

/** Rows of a kind, with the line in which a new one is typed; of none, what makes one. */
function Rows({ on, rows, none, span }: { on: string; rows: Row[]; none: string; span: number }) {
  const { cursor, entry } = useHeld();
  const typing = (at: string) => entry && fresh(entry) && entry.edit.on === at;
  if (rows.length === 0)
    return (
      <tr data-row className={cursor.on === on ? classes.chosen : undefined}>
        <td colSpan={span}>
          {typing(on) ? (
            <Fresh on={on} />
          ) : (
            <Cell on={on} cell="new" text={none} label={none} fixed>
              <span className="quiet">{none}</span>
            </Cell>
          )}
        </td>
      </tr>
    );
  return rows.flatMap((r) => [
    <tr key={r.on} data-row className={cursor.on === r.on ? classes.chosen : undefined}>
      {r.cells.map((c) => (
        <td key={c.name}>
          <Cell on={r.on} cell={c.name} text={c.text} label={c.label} fixed={c.fixed}>
            {c.children}
          </Cell>
        </td>
      ))}
    </tr>,
    typing(r.on) && (
      <tr key={`${r.on} new`} className={classes.fresh}>
        <td colSpan={span}>
          <Fresh on={r.on} />
        </td>
      </tr>
    ),
  ]);
}

/** How the component is meant to be used and how it is not, and props that stand apart: a line each. */
export function Notes({ view }: { view: Schema["SheetView"] }) {
  const lines = (rows: Schema["NoteRow"][], label: string): Row[] =>
    rows.map((n) => ({ on: n.on, cells: [{ name: "text", text: n.text, label }] }));
  const kinds = [
    { on: "do", label: "Do", rows: view.do, none: "Nothing said: N says what it is meant for" },
    { on: "dont", label: "Don’t", rows: view.dont, none: "Nothing said: N says what it is not meant for" },
    { on: "notes", label: "Further", rows: view.notes, none: "Nothing said: N adds a paragraph, a # heading or a - item" },
    { on: "links", label: "Further reading", rows: view.links, none: "Nothing named: N names something, words and an address" },
    { on: "apart", label: "One at most of", rows: view.apart, none: "No props stand apart: N names two or more, of which a use gives one" },
  ];
  return (
    <section className={classes.part} aria-label="Notes">
      <h2>Notes</h2>
      {kinds.map((k) => (
        <table key={k.on} className={`grid ${classes.table} ${classes.notes}`} aria-label={k.label}>
          <caption>{k.label}</caption>
          <tbody>
            <Rows on={k.on} rows={lines(k.rows, k.label)} none={k.none} span={1} />
          </tbody>
        </table>
      ))}
    </section>
  );
}

/** The states that something is otherwise in. */
export function States({ view }: { view: Schema["SheetView"] }) {
  const rows = view.states.map((s): Row => {
    const words = [
      s.by ? `by the flag ${s.by}` : "by the browser",
      s.drawn && `drawn as ${s.drawn}`,
      s.rules.length > 0 && `${s.rules.length === 1 ? "rule" : "rules"} ${s.rules.join(", ")}`,
    ].filter(Boolean);
    return {
      on: s.on,
      cells: [
        {
          name: "name",
          text: `${s.name}, ${words.join(", ")}`,
          label: "State",
          fixed: true,
          children: (
            <>
              <b>{s.name}</b> <span className="quiet">{words.join(", ")}</span>
            </>
          ),
        },
      ],
    };
  });
  return (
    <section className={classes.part} aria-label="States">
      <h2>States</h2>
      <table className={`grid ${classes.table}`}>
        <tbody>
          <Rows on="states" rows={rows} none="None: N adds one, with what is otherwise in it" span={1} />
        </tbody>
      </table>
    </section>
  );
}

/** The cases that people gave a name. */
export function Cases({ rows }: { rows: Schema["CaseRow"][] }) {
  return (
    <section className={classes.part} aria-label="Cases">
      <h2>Saved cases</h2>
      <table className={`grid ${classes.table}`}>
        {rows.length > 0 && (
          <thead>
            <tr>
              <th scope="col">Case</th>
              <th scope="col">Given</th>
              <th scope="col">Looked at in</th>
              <th scope="col">Example of</th>
            </tr>
          </thead>
        )}
        <tbody>
          <Rows
            on="cases"
            rows={rows.map((k) => ({
              on: k.on,
              cells: [
                { name: "name", text: k.name, label: `name of the case ${k.name}` },
                { name: "given", text: k.given, label: `what the case ${k.name} gives` },
                { name: "look", text: k.look, label: `what the case ${k.name} is looked at in` },
                { name: "meant", text: k.meant, label: `what the case ${k.name} is an example of: do or don’t` },
              ],
            }))}
            none="None: N saves one by a name"
            span={4}
          />
        </tbody>
      </table>
    </section>
  );
}
