import { type RefObject, useCallback, useEffect, useEffectEvent, useRef, useState } from "react";
import { useSearchParams } from "react-router";

import { ApiError, api, type Schema, useSheet, useTried, useWrite } from "../../../api/client";
import { useCommands } from "../../../frame/commands";
import type { Other } from "../../../frame/here";
import { Query } from "../../../ui/States";
import { count } from "../../../ui/count";
import { type Action, actionsOf } from "./actions";
import { Beside } from "./Beside";
import classes from "./ContractFacet.module.css";
import { Cell } from "./Cell";
import { Field } from "./Field";
import { Cases, Notes, States } from "./Lines";
import { PartRows, PropRows } from "./Rows";
import { Rules } from "./Rules";
import { type Cursor, type Entry, SheetContext, keyOf } from "./state";

interface Props {
  bench: Schema["Bench"];
  /** Address of the build on the preview origin. */
  src: string;
  part: string | undefined;
  onPart: (part: string | undefined) => void;
  /** The revision that was made last, here. */
  writtenRef: RefObject<number>;
  /** The component is at another address: it was renamed. */
  onMoved: (slug: string) => void;
  others: Other[];
  /** Tells others where one is. */
  onAt: (at: string) => void;
}

/** The contract as a sheet: read from top to bottom, edited where it stands. */
export function ContractFacet({ bench, ...rest }: Props) {
  const sheet = useSheet(bench.slug, bench.build);
  return (
    <Query query={sheet} what="the contract">
      {(view) => <Sheet bench={bench} view={view} {...rest} />}
    </Query>
  );
}

function Sheet({ bench, view, src, part, onPart, writtenRef, onMoved, others, onAt }: Props & { view: Schema["SheetView"] }) {
  const { slug, build } = bench;
  const [search, setSearch] = useSearchParams();
  const byCondition = search.get("by") === "condition";
  const page = useRef<HTMLDivElement>(null);
  const asked = search.get("on"); // a row that a check led to
  const [cursor, setCursor] = useState<Cursor>(
    asked ? { on: asked, cell: "" } : { on: view.props[0]?.on ?? "props", cell: view.props[0] ? "name" : "new" },
  );
  const [entry, setEntry] = useState<Entry>();
  const [pending, setPending] = useState<Schema["Edit"]>();
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const back = useRef(false);

  const amend = useWrite(
    async (edit: Schema["Edit"]) => {
      const done = await api.amend(slug, Math.max(bench.revision, writtenRef.current), edit);
      writtenRef.current = done.revision;
      return done;
    },
    (done, edit) => {
      setEntry((e) => (e?.sent ? undefined : e)); // what is being typed since stays
      setPending(undefined);
      setMarked(new Set());
      back.current = true;
      if (done.slug !== slug) onMoved(done.slug);
      setCursor((was) => ({ on: done.on, cell: edit.do === "set" && done.on === was.on ? was.cell : "" }));
    },
    `sheet ${slug}`,
  );
  const trying = pending ?? (entry?.text !== undefined && entry.text !== entry.was ? { ...entry.edit, text: entry.text } : undefined);
  const tried = useTried(slug, build, trying, bench.theme);

  const focusOn = useCallback((at: Cursor) => {
    const all = [...(page.current?.querySelectorAll<HTMLElement>("[data-cell]") ?? [])];
    const to = all.find((e) => e.dataset.cell === keyOf(at.on, at.cell)) ?? all.find((e) => e.dataset.cell?.startsWith(`${at.on} `));
    to?.focus();
    return to !== undefined;
  }, []);
  useEffect(() => onAt(keyOf(cursor.on, cursor.cell)), [cursor, onAt]);
  // Whoever comes by keyboard can go on at once.
  const begin = useEffectEvent(() => {
    if (asked || document.activeElement === document.body) focusOn(cursor);
  });
  useEffect(() => begin(), []);
  // The focus goes to what an edit made, once it is there.
  useEffect(() => {
    if (back.current && !entry && focusOn(cursor)) back.current = false;
  }, [view, entry, cursor, focusOn]);

  const leave = () => {
    back.current = true;
    amend.reset();
    setEntry(undefined);
    setPending(undefined);
  };
  const act = (action: Action) => {
    if (amend.error) amend.reset();
    if (action.types) {
      setPending(undefined);
      setEntry({ edit: action.edit, was: "", text: "", label: action.label, hint: action.types });
    } else if (action.asks) setPending(action.edit);
    else amend.mutate(action.edit);
  };
  const group = () =>
    setSearch(
      () => {
        const now = new URLSearchParams(window.location.search);
        if (byCondition) now.delete("by");
        else now.set("by", "condition");
        return now;
      },
      { replace: true },
    );
  const actions = actionsOf(view, cursor, marked);
  const what = `On the sheet of ${bench.name}`;
  useCommands([
    ...actions.map((a) => ({ label: a.label, what, run: () => act(a) })),
    { label: byCondition ? "Rules by part" : "Rules by condition", what, run: group },
  ]);

  const open = (edit: Schema["Edit"], was: string, label: string) => {
    amend.reset();
    setPending(undefined);
    setEntry({ edit, was, text: was, label });
  };
  const stale = amend.error instanceof ApiError && amend.error.trouble.status === 409 ? amend.error.trouble.current : undefined;
  const field = entry && (
    <Field
      key={keyOf(entry.edit.on, `${entry.edit.do} ${entry.edit.cell}`)}
      slug={slug}
      build={build}
      label={entry.label}
      edit={entry.edit}
      text={entry.was}
      placeholder={entry.hint}
      tokens={bench.tokens}
      refused={amend.error?.message}
      busy={entry.sent === true && !amend.error} // not while the edit before is read again: letters would be lost
      onType={(text) => setEntry((e) => e && { ...e, text })}
      commit={(text) => {
        if (text === entry.was) return leave();
        setEntry({ ...entry, text, sent: true });
        amend.mutate({ ...entry.edit, text });
      }}
      cancel={leave}
    />
  );
  const keyed = (e: React.KeyboardEvent) => {
    const at = (e.target as HTMLElement).closest<HTMLElement>("[data-cell]");
    if (!at || e.ctrlKey || e.metaKey) return;
    if (pending) {
      if (e.key === "Enter" && !tried.error && tried.data) amend.mutate(pending);
      else if (e.key === "Escape") leave();
      else return;
      e.preventDefault();
      e.stopPropagation();
      return;
    }
    const step = { ArrowDown: [1, 0], ArrowUp: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }[e.key];
    const action = actions.find((a) => a.key === e.key.toLowerCase() && (a.alt ?? false) === e.altKey);
    if (action) act(action);
    else if (step && !e.altKey) walk(page.current!, at, step[0]!, step[1]!);
    else if (e.key === "Enter") at.click();
    else if (e.key === " " && cursor.on.startsWith("parts/") && cursor.on.split("/").length === 2)
      setMarked((m) => {
        const now = new Set(m);
        if (!now.delete(cursor.on)) now.add(cursor.on);
        return now;
      });
    else if (e.key === "b" && !e.altKey) group();
    else return;
    e.preventDefault();
    e.stopPropagation(); // what a key does here it does nowhere else
  };
  const use = view.nested.find((n) => cursor.on.startsWith(`parts/${n.part}`) && (cursor.on.split("/")[1] ?? "") === n.part);
  const held = {
    cursor,
    entry,
    field,
    marked,
    part,
    others: Object.fromEntries(others.map((o) => [o.at, o.name])),
    numbers: Object.fromEntries(view.parts.map((p, i) => [p.id, i])),
    choose: (at: Cursor, of?: string) => {
      setCursor(at);
      if (pending && pending.on !== at.on) setPending(undefined);
      if (of !== undefined) onPart(of);
    },
    open,
  };
  return (
    <SheetContext value={held}>
      <div className={classes.facet}>
        <section className={classes.sheet} aria-label="Contract" ref={page} onKeyDown={keyed}>
          <p className={classes.definition} data-row data-use={use !== undefined || undefined}>
            <b>The definition</b> <span className="quiet">of</span> <Cell on="name" cell="text" text={view.name} label="Name" />
            <span className="quiet">
              :{" "}
              {view.uses === 0
                ? "no component uses it yet"
                : `${count(view.uses, "use follows", "uses follow")} in ${bench.usedBy.join(", ")}`}
            </span>
            {use && (
              <span className={classes.one}>
                <b>One use</b> of {use.component}: what is said here is this use’s alone, and {use.component} stays as it is
              </span>
            )}
          </p>
          <Use words={view.use} onPick={(on) => focusOn({ on, cell: "name" })} />
          <p className={classes.purpose} data-row>
            <span className="quiet">Purpose</span> <Cell on="purpose" cell="text" text={view.purpose} label="Purpose" />
          </p>
          <p className={classes.purpose} data-row>
            <span className="quiet">Owner</span> <Cell on="owner" cell="text" text={view.owner} label="Owner" />{" "}
            <span className="quiet">· deprecated</span> <Cell on="deprecated" cell="text" text={view.why} label="Why it is deprecated" />{" "}
            <span className="quiet">· use instead</span> <Cell on="deprecated" cell="instead" text={view.instead} label="Use instead" />
          </p>
          <PropRows rows={view.props} />
          <PartRows rows={view.parts} />
          <Rules rules={view.rules} parts={view.parts} byCondition={byCondition} onGroup={group} />
          <States view={view} />
          <Nested view={view} />
          <Cases rows={view.cases} />
          <Notes view={view} />
        </section>
        <Beside
          bench={bench}
          src={src}
          cursor={cursor}
          trying={trying}
          tried={tried.data}
          failed={tried.error}
          pending={pending !== undefined}
          onKeep={() => pending && amend.mutate(pending)}
          onLeave={leave}
        />
        <footer className={classes.actions} role="toolbar" aria-label={`What can be done with ${nameOf(view, cursor)}`}>
          <b>{nameOf(view, cursor)}</b>
          {actions
            .filter((a) => !a.alt)
            .map((a) => (
              <Do key={a.label} action={a} act={act} />
            ))}
          {actions.some((a) => a.alt) && (
            <span className={classes.moves}>
              Move <kbd>Alt</kbd>
              {actions
                .filter((a) => a.alt)
                .map((a) => (
                  <Do key={a.label} action={a} act={act} />
                ))}
            </span>
          )}
          {marked.size > 0 && <span className="quiet">{count(marked.size, "part")} marked</span>}
          <span className={classes.kept} role="status">
            {amend.isPending
              ? "Keeping…"
              : amend.error && !entry
                ? amend.error.message
                : amend.data?.merged
                  ? "Kept, beside what somebody else edited meanwhile"
                  : amend.data
                    ? `Kept: ${amend.data.note}`
                    : "Every edit is kept at once"}
            {stale && ` Now: ${stale.note}.`}
          </span>
        </footer>
      </div>
    </SheetContext>
  );
}

function Do({ action: a, act }: { action: Action; act: (action: Action) => void }) {
  return (
    <button
      type="button"
      tabIndex={-1}
      aria-label={a.alt ? a.label : undefined}
      title={a.alt ? a.label : undefined}
      onPointerDown={(e) => e.preventDefault()} // the focus stays in the row
      onClick={() => act(a)}
    >
      {!a.alt && `${a.label} `}
      <kbd>{a.shown}</kbd>
    </button>
  );
}

const words: Record<string, string> = {
  name: "name",
  purpose: "purpose",
  props: "props",
  do: "what it is meant for",
  dont: "what it is not meant for",
  apart: "props that stand apart",
};

function nameOf(view: Schema["SheetView"], cursor: Cursor) {
  const [kind = "", id = "", property] = cursor.on.split("/");
  const rule = view.rules.find((r) => r.on === `${kind}/${id}`);
  const of = kind === "props" ? view.props.find((p) => p.on === cursor.on)?.name : rule?.name;
  const saved = view.cases.find((c) => c.on === cursor.on)?.name;
  if (kind === "cases") return saved ? `case ${saved}` : "saved cases";
  if (kind === "states") return id ? `state ${id}` : "states";
  if (kind === "rules") return `rule ${rule?.number ?? ""} of ${of ?? ""}${property ? ` · ${property}` : ""}`;
  return [of ?? words[kind] ?? "", property].filter(Boolean).join(" · ");
}

/** Moves to the cell beside, or that of the row above or below which stands nearest. */
function walk(page: HTMLElement, from: HTMLElement, down: number, along: number) {
  const rows = [...page.querySelectorAll<HTMLElement>("[data-row]")];
  const row = from.closest<HTMLElement>("[data-row]");
  if (!row) return;
  const cells = (of: HTMLElement) => [...of.querySelectorAll<HTMLElement>("[data-cell]")];
  if (along !== 0) {
    const all = cells(row);
    all[all.indexOf(from) + along]?.focus();
    return;
  }
  const here = from.getBoundingClientRect();
  // Within a row that runs over several lines, first the next line.
  const distance = (e: HTMLElement) => Math.abs(e.getBoundingClientRect().left - here.left);
  const nearest = (all: HTMLElement[]) => all.toSorted((a, b) => distance(a) - distance(b))[0];
  const lines = cells(row).filter((e) => (e.getBoundingClientRect().top - here.top) * down > 4);
  if (lines.length > 0) {
    const top = down > 0 ? Math.min(...lines.map((e) => e.offsetTop)) : Math.max(...lines.map((e) => e.offsetTop));
    nearest(lines.filter((e) => e.offsetTop === top))?.focus();
    return;
  }
  const next = rows[rows.indexOf(row) + down];
  if (next) nearest(cells(next))?.focus();
}

/** The use of the component as a line of code; a press on a prop leads to its row. */
function Use({ words, onPick }: { words: Schema["UseWord"][]; onPick: (on: string) => void }) {
  return (
    <p className={classes.use} aria-label="Use">
      {words.map((w, i) => {
        const takes = words[i + 1]?.text.startsWith("=") ? words[i + 1]!.text : "";
        if (w.prop)
          return (
            <span key={i} className={classes.prop}>
              <button type="button" tabIndex={-1} className={classes.word} onClick={() => onPick(w.prop!)}>
                {w.text}
              </button>
              {takes}
            </span>
          );
        return w.text.startsWith("=") ? null : <span key={i}>{w.text}</span>;
      })}
    </p>
  );
}

function Nested({ view }: { view: Schema["SheetView"] }) {
  if (view.nested.length === 0) return null;
  return (
    <section className={classes.part} aria-label="Nested">
      <h2>Nested</h2>
      <ul className={classes.sentences}>
        {view.nested.map((n) => (
          <li key={n.part}>
            <b>{n.name}</b> <span className="quiet">is a use of</span> {n.component}
            {n.given.length > 0 && (
              <>
                <span className="quiet">, given</span> <code>{n.given.join(" · ")}</code>
              </>
            )}
            {n.passed.length > 0 && (
              <>
                <span className="quiet">, passes on</span> <code>{n.passed.join(" · ")}</code>
              </>
            )}
            {n.held.length > 0 && <span className={classes.held}>, nobody can give {n.held.join(", ")}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
