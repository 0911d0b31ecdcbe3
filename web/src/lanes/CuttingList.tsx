import { type KeyboardEvent, type ReactNode, useEffect, useId, useRef, useState } from "react";

import type { Schema } from "../api/client";
import { rounded } from "../marks/geometry";
import classes from "./CuttingList.module.css";

type Part = Schema["PartLayout"];

/** What of a part a column is about. */
export type Cut = "lays" | "across" | "along" | "gap" | "padding" | "width" | "height";

interface Column {
  key: Cut;
  label: string;
  /** In full, where there is room for it. */
  means?: string;
  /** What a part says there; undefined where it has nothing to say. */
  says: (p: Part) => string | undefined;
  /** The few words that it can be, or what is offered beside what is typed. */
  options: (p: Part, view: Schema["LayoutView"]) => string[];
  typed?: boolean;
}

const declared = (p: Part, property: string) => p.declared.find((s) => s.property === property);
const said = (p: Part, property: string) => {
  const value = declared(p, property);
  return value && (value.expression.includes("{") ? value.expression : value.value.replace(/(\d)px/g, "$1"));
};
const sized = (how: string | undefined, px: number) => (how === "fixed" ? String(rounded(px)) : how);

const columns: Column[] = [
  {
    key: "lays",
    label: "Lays out",
    says: (p) =>
      p.kind === "leaf" ? undefined : [p.kind, p.kind === "split" || p.kind === "grid" ? p.columns : ""].filter(Boolean).join(" "),
    options: (_, view) =>
      view.kinds.flatMap((k) => (k === "split" ? view.columns.map((c) => `split ${c}`) : k === "grid" ? ["grid 2", "grid 3"] : [k])),
    typed: true,
  },
  {
    key: "across",
    label: "Across",
    means: "Align across",
    says: (p) => p.align,
    options: () => ["stretch", "start", "center", "end", "baseline"],
  },
  {
    key: "along",
    label: "Along",
    means: "Distribute along",
    says: (p) => p.distribute,
    options: () => ["start", "center", "end", "space-between"],
  },
  { key: "gap", label: "Gap", says: (p) => said(p, "gap"), options: () => [], typed: true },
  {
    key: "padding",
    label: "Padding",
    says: (p) => {
      const [block, inline] = [said(p, "padding-block"), said(p, "padding-inline")];
      if (block === undefined && inline === undefined) return undefined;
      if (block === inline) return block;
      // Where start and end are not alike, a stroke tells one axis from the other.
      return `${block ?? 0} ${`${block}${inline}`.includes(" ") ? "/ " : ""}${inline ?? 0}`;
    },
    options: () => [],
    typed: true,
  },
  { key: "width", label: "Width", says: (p) => sized(p.width, p.box.width), options: (p) => p.sizings },
  { key: "height", label: "Height", says: (p) => sized(p.height, p.box.height), options: (p) => p.sizings },
];

interface Props {
  view: Schema["LayoutView"];
  part: string | undefined;
  onPart: (part: string) => void;
  /** Puts a value into a column of some parts; without it the list is to be read. */
  onSet?: (parts: string[], column: Cut, value: string) => void;
  /** References that a length may be. */
  tokens?: string[];
  children?: ReactNode;
}

/** All containers and parts, a row each, by the numbers of the picture: what holds what, with how much room. */
export function CuttingList({ view, part, onPart, onSet, tokens = [], children }: Props) {
  const table = useRef<HTMLTableElement>(null);
  const [column, setColumn] = useState(0);
  const [editing, setEditing] = useState<{ part: string; column: Cut }>();
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const row = Math.max(
    0,
    view.parts.findIndex((p) => p.id === part),
  );
  const measured = view.parts.some((p) => p.residual !== undefined);

  const cellOf = (of: Element, at: number, cell: number) =>
    of.closest("table")?.querySelectorAll("tbody tr")[at]?.querySelectorAll<HTMLElement>("[role=gridcell]")[cell];
  const go = (from: Element, to: number, cell: number) => {
    const next = view.parts[to];
    if (!next || cell < 0 || cell > columns.length) return;
    setColumn(cell);
    onPart(next.id);
    cellOf(from, to, cell)?.focus();
  };
  const columnAt = (cell: number) => columns[cell - 1];
  const open = (p: Part, cell: number) => {
    const of = columnAt(cell);
    if (onSet && of && of.says(p) !== undefined) setEditing({ part: p.id, column: of.key });
  };
  // The focus goes back to where it was before a value was typed.
  useEffect(() => {
    if (!editing) return;
    const cell = table.current?.querySelector<HTMLElement>("[data-edited]");
    return () => cell?.focus();
  }, [editing]);
  const close = () => setEditing(undefined);
  const commit = (of: Column, value: string) => {
    const here = view.parts[row];
    close();
    if (!here || value.trim() === "" || value.trim() === of.says(here)) return;
    const others = view.parts.filter((p) => p.id !== here.id && marked.has(p.id) && of.says(p) !== undefined);
    onSet?.(
      [here, ...others].map((p) => p.id),
      of.key,
      value.trim(),
    );
  };
  const keyed = (e: KeyboardEvent, p: Part) => {
    if (e.target !== e.currentTarget) return;
    const step = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }[e.key];
    if (step) go(e.currentTarget, row + step[0]!, column + step[1]!);
    else if (e.key === "Enter") open(p, column);
    else if (e.key === " " && onSet) setMarked((m) => toggled(m, p.id));
    else return;
    e.preventDefault();
  };
  return (
    <section className={classes.list} aria-label="Cutting list">
      <header className={classes.head}>
        <h2>Cutting list</h2>
        {measured ? (
          <span className={view.residual <= 0.5 ? classes.level : classes.off}>
            {view.residual <= 0.5 ? "solved as drawn" : `${rounded(view.residual)} px off at most`}
          </span>
        ) : (
          <span className="quiet">as contracted at {view.width} px</span>
        )}
        {onSet && (
          <span className={`quiet ${classes.how}`}>arrows move · Enter edits · mark rows with Space, and one value goes into all</span>
        )}
      </header>
      <div className={classes.scroll}>
        <table ref={table} role="grid" aria-label="Parts" className={`grid ${classes.table}`}>
          <thead>
            <tr>
              <th scope="col">No.</th>
              <th scope="col">Part</th>
              {columns.map((c) => (
                <th key={c.key} scope="col" title={c.means}>
                  {c.label}
                </th>
              ))}
              {measured && <th scope="col">Off</th>}
            </tr>
          </thead>
          <tbody>
            {view.parts.map((p, i) => {
              const cell = (at: number) => ({
                role: "gridcell",
                tabIndex: i === row && at === column ? 0 : -1,
                onKeyDown: (e: KeyboardEvent) => keyed(e, p),
                onFocus: () => {
                  setColumn(at);
                  if (p.id !== part) onPart(p.id);
                },
                onDoubleClick: () => open(p, at),
              });
              return (
                <tr key={p.id} data-part-row={p.id} className={p.id === part ? classes.chosen : undefined} aria-selected={marked.has(p.id)}>
                  <td className={classes.number}>{i}</td>
                  <td {...cell(0)} className={classes.name} style={{ paddingLeft: 8 + p.depth * 12 }} title={p.name}>
                    {p.name}
                  </td>
                  {columns.map((c, k) => {
                    const text = c.says(p);
                    const edited = editing?.part === p.id && editing.column === c.key;
                    return (
                      <td
                        key={c.key}
                        {...cell(k + 1)}
                        data-column={c.key}
                        data-edited={edited || undefined}
                        className={edited ? classes.editing : classes.cell}
                      >
                        {edited ? (
                          <Editor
                            label={`${c.means ?? c.label} of ${p.name}`}
                            value={text ?? ""}
                            options={c.key === "gap" || c.key === "padding" ? tokens : c.options(p, view)}
                            typed={c.typed ?? false}
                            commit={(value) => commit(c, value)}
                            cancel={close}
                          />
                        ) : (
                          text
                        )}
                      </td>
                    );
                  })}
                  {measured && (
                    <td className={(p.residual ?? 0) > 0.5 ? classes.off : classes.level}>
                      {p.residual === undefined ? "" : rounded(p.residual).toFixed(1)}
                    </td>
                  )}
                </tr>
              );
            })}
          </tbody>
        </table>
        {children}
      </div>
    </section>
  );
}

function toggled(set: ReadonlySet<string>, one: string) {
  const out = new Set(set);
  if (!out.delete(one)) out.add(one);
  return out;
}

/** A cell while it is edited: one of a few words, or what is typed. */
function Editor({
  label,
  value,
  options,
  typed,
  commit,
  cancel,
}: {
  label: string;
  value: string;
  options: string[];
  typed: boolean;
  commit: (value: string) => void;
  cancel: () => void;
}) {
  const list = useId();
  const field = useRef<HTMLInputElement & HTMLSelectElement>(null);
  useEffect(() => {
    field.current?.focus();
    if (typed) field.current?.select();
  }, [typed]);
  const keyed = (e: KeyboardEvent<HTMLInputElement | HTMLSelectElement>) => {
    e.stopPropagation();
    if (e.key === "Escape") cancel();
    else if (e.key === "Enter") commit(e.currentTarget.value);
    else return;
    e.preventDefault();
  };
  if (!typed) {
    const known = options.includes(value) ? options : [value, ...options];
    return (
      <select
        ref={field}
        aria-label={label}
        defaultValue={value}
        onKeyDown={keyed}
        onBlur={cancel}
        onChange={(e) => commit(e.currentTarget.value)}
      >
        {known.map((o) => (
          <option key={o}>{o}</option>
        ))}
      </select>
    );
  }
  return (
    <>
      <input ref={field} aria-label={label} defaultValue={value} list={list} spellCheck={false} onKeyDown={keyed} onBlur={cancel} />
      <datalist id={list}>
        {options.map((o) => (
          <option key={o} value={o} />
        ))}
      </datalist>
    </>
  );
}
