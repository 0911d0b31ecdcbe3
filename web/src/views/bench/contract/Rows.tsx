import type { Schema } from "../../../api/client";
import { Cell, Fresh, fresh } from "./Cell";
import classes from "./ContractFacet.module.css";
import { useHeld } from "./state";

/** The props, a row each; a list's items stand below it. */
export function PropRows({ rows }: { rows: Schema["PropRow"][] }) {
  const { cursor, entry } = useHeld();
  return (
    <section className={classes.part} aria-label="Props">
      <h2>Props</h2>
      <table className={`grid ${classes.table}`}>
        <thead>
          <tr>
            <th scope="col">Prop</th>
            <th scope="col">Kind</th>
            <th scope="col">Default</th>
            <th scope="col">Purpose</th>
            <th scope="col">Bound to</th>
          </tr>
        </thead>
        <tbody>
          {rows.flatMap((p) => {
            const cell = (name: string, text: string, fixed = false) => (
              <Cell on={p.on} cell={name} text={text} label={`${name} of ${p.name}`} fixed={fixed} />
            );
            return [
              <tr key={p.on} data-row className={cursor.on === p.on ? classes.chosen : undefined}>
                <td className={`mono ${classes.name}`} style={{ paddingLeft: 16 + p.depth * 16 }}>
                  {cell("name", p.name)}
                </td>
                <td className="mono">{cell("kind", p.kind, p.from !== undefined)}</td>
                <td className="mono">{cell("default", p.default)}</td>
                <td>{cell("purpose", p.purpose)}</td>
                <td>
                  {p.from ? (
                    <span className="quiet">passed on to {p.from}</span>
                  ) : p.bound.length > 0 ? (
                    p.bound.join(", ")
                  ) : (
                    <span className={classes.nothing}>nothing</span>
                  )}
                </td>
              </tr>,
              entry && fresh(entry) && entry.edit.on === p.on && (
                <tr key={`${p.on} new`} className={classes.fresh}>
                  <td colSpan={5}>
                    <Fresh on={p.on} />
                  </td>
                </tr>
              ),
            ];
          })}
          {rows.length === 0 && (
            <tr data-row>
              <td colSpan={5}>
                <Fresh on="props" />
                {!(entry && fresh(entry) && entry.edit.on === "props") && (
                  <Cell on="props" cell="new" text="None yet: N declares one, P makes one of a part" label="Props" fixed>
                    <span className="quiet">None yet: N declares one, P makes one of a part</span>
                  </Cell>
                )}
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </section>
  );
}

/** The parts as a numbered outline. */
export function PartRows({ rows }: { rows: Schema["PartRow"][] }) {
  const { cursor, entry, marked, part } = useHeld();
  return (
    <section className={classes.part} aria-label="Parts">
      <h2>Parts</h2>
      <table className={`grid ${classes.table}`}>
        <thead>
          <tr>
            <th scope="col">No.</th>
            <th scope="col">Part</th>
            <th scope="col">Element</th>
            <th scope="col">Shows</th>
            <th scope="col">When</th>
            <th scope="col">For each of</th>
          </tr>
        </thead>
        <tbody>
          {rows.flatMap((p, i) => {
            const use = /^[^a-z]/.test(p.element);
            const cell = (name: string, text: string, fixed = false) => (
              <Cell on={p.on} cell={name} text={text} label={`${name} of ${p.name}`} part={p.id} fixed={fixed} />
            );
            return [
              <tr
                key={p.on}
                data-row
                data-part-row={p.id}
                aria-selected={marked.has(p.on) || undefined}
                className={cursor.on === p.on ? classes.chosen : p.id === part ? classes.lit : undefined}
              >
                <td className={classes.number}>
                  {marked.has(p.on) ? "·" : ""}
                  {i}
                </td>
                <td className={`mono ${classes.name}`} style={{ paddingLeft: 8 + p.depth * 14 }}>
                  {cell("name", p.name)}
                </td>
                <td className="mono">{cell("element", p.element)}</td>
                <td className="mono">{cell("shows", p.shows, use)}</td>
                <td className="mono">{cell("when", p.when, i === 0)}</td>
                <td className="mono">{cell("over", p.over, i === 0)}</td>
              </tr>,
              entry && fresh(entry) && entry.edit.on === p.on && entry.edit.cell !== "value" && (
                <tr key={`${p.on} new`} className={classes.fresh}>
                  <td />
                  <td colSpan={5} style={{ paddingLeft: 8 + (p.depth + (entry.edit.cell === "inside" ? 1 : 0)) * 14 }}>
                    <Fresh on={p.on} />
                  </td>
                </tr>
              ),
            ];
          })}
        </tbody>
      </table>
    </section>
  );
}
