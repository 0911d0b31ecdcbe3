import { Select, TextInput } from "@mantine/core";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useDeferredValue, useEffect, useMemo, useRef } from "react";
import { useSearchParams } from "react-router";

import type { Schema } from "../../api/client";
import { count } from "../../ui/count";
import { Problems } from "../../ui/States";
import { TokenPicture } from "../../ui/TokenPicture";
import classes from "./Tokens.module.css";
import { TokenPanel } from "./TokenPanel";

type Row = Schema["TokenRow"];
type Line = { group: string; count: number } | { row: Row; index: number };

interface Props {
  view: Schema["TokensView"];
  find: string;
  put: (changes: Record<string, string | undefined>) => void;
}

const height = 28;
/** The titles stand above the lines, in the same scroller. */
const titles = 26;

/** Every token a line, every theme a column. Only the lines in sight are in the page. */
export function TokenTable({ view, find: typed, put }: Props) {
  const [search] = useSearchParams();
  const find = useDeferredValue(typed);
  const type = search.get("type") ?? "";
  const chosen = search.get("token") ?? "";
  const rows = useMemo(() => filtered(view.rows, find, type), [view.rows, find, type]);
  const lines = useMemo(() => grouped(rows), [rows]);
  const scroller = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer measures on every render by design
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 12,
    scrollMargin: titles,
    scrollPaddingStart: titles + height,
  });
  const at = rows.findIndex((r) => r.path === chosen);
  const lineOf = (index: number) => lines.findIndex((l) => "row" in l && l.index === index);
  const shown = useRef("");
  useEffect(() => {
    // A token chosen by a link is brought into sight once.
    if (chosen && at >= 0 && shown.current !== chosen) {
      shown.current = chosen;
      const line = lineOf(at);
      const inSight = virtual.getVirtualItems().some((v) => v.index === line);
      virtual.scrollToIndex(line, { align: inSight ? "auto" : "center" });
    }
  });
  const go = (index: number) => {
    const row = rows[Math.max(0, Math.min(rows.length - 1, index))];
    if (row) put({ token: row.path });
  };
  const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / height) - 2);
  const steps: Record<string, number> = { ArrowDown: 1, ArrowUp: -1, PageDown: page, PageUp: -page, Home: -rows.length, End: rows.length };
  const types = useMemo(() => [...new Set(view.rows.map((r) => r.type))].filter(Boolean).sort(), [view.rows]);
  const columns = { "--themes": view.themes.length } as React.CSSProperties;
  return (
    <div className={`${classes.values} ${chosen ? classes.split : ""}`} style={columns}>
      <section className={classes.list} aria-label="Values">
        <div className={classes.filters}>
          <TextInput
            aria-label="Find by name, value, description"
            placeholder="Find by name, value, description"
            value={typed}
            onChange={(e) => put({ find: e.currentTarget.value || undefined })}
          />
          <Select
            aria-label="Type"
            placeholder="Every type"
            data={types}
            value={type || null}
            clearable
            clearButtonProps={{ "aria-label": "Every type" }}
            onChange={(v) => put({ type: v ?? undefined })}
          />
          <span className="quiet" role="status">
            {rows.length === view.rows.length
              ? count(rows.length, "token")
              : `${rows.length.toLocaleString("en")} of ${count(view.rows.length, "token")}`}
          </span>
          {view.problems.length > 0 && (
            <details className={classes.problems}>
              <summary>{said(view.problems)}</summary>
              <div className={classes.problemList}>
                <Problems list={view.problems} />
              </div>
            </details>
          )}
        </div>
        <div
          ref={scroller}
          className={classes.grid}
          role="grid"
          aria-label="Tokens"
          aria-rowcount={lines.length + 1}
          aria-activedescendant={at >= 0 ? `token-${at}` : undefined}
          tabIndex={0}
          onKeyDown={(e) => {
            const by = steps[e.key];
            if (by === undefined || rows.length === 0) return;
            e.preventDefault();
            go((at < 0 && by < 0 ? rows.length : at) + by);
          }}
        >
          <div role="row" aria-rowindex={1} className={`${classes.row} ${classes.titles}`}>
            <span role="columnheader">Token</span>
            {view.themes.map((t) => (
              <span role="columnheader" key={t.name}>
                {t.name}
              </span>
            ))}
            <span role="columnheader">Used by</span>
            <span role="columnheader" className={classes.wide}>
              For
            </span>
          </div>
          <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: "relative" }}>
            {virtual.getVirtualItems().map((item) => {
              const line = lines[item.index]!;
              const style = { transform: `translateY(${item.start - titles}px)`, height };
              if ("group" in line) {
                return (
                  <div key={`g-${line.group}`} role="row" aria-rowindex={item.index + 2} className={classes.group} style={style}>
                    <span role="gridcell">
                      {line.group} <span className="quiet">{line.count}</span>
                    </span>
                  </div>
                );
              }
              return (
                <TokenLine
                  key={line.row.path}
                  line={line}
                  themes={view.themes}
                  rowIndex={item.index + 2}
                  chosen={line.row.path === chosen}
                  style={style}
                  choose={() => put({ token: line.row.path })}
                />
              );
            })}
          </div>
          {rows.length === 0 && <p className={`quiet ${classes.nothing}`}>No token has all of that in its name, value or description.</p>}
        </div>
      </section>
      {chosen && <TokenPanel key={chosen} view={view} path={chosen} put={put} />}
    </div>
  );
}

interface LineProps {
  line: { row: Row; index: number };
  themes: Schema["ThemeView"][];
  rowIndex: number;
  chosen: boolean;
  style: React.CSSProperties;
  choose: () => void;
}

function TokenLine({ line: { row, index }, themes, rowIndex, chosen, style, choose }: LineProps) {
  const rest = row.path.slice(row.group.length + 1);
  const standard = row.values[0];
  return (
    <div
      id={`token-${index}`}
      role="row"
      aria-rowindex={rowIndex}
      aria-selected={chosen}
      className={`${classes.row} ${chosen ? classes.chosen : ""}`}
      style={style}
      onClick={choose}
    >
      <span
        role="rowheader"
        className={`mono ${classes.path} ${row.deprecated ? classes.deprecated : ""}`}
        title={row.deprecated ? `${row.path}, deprecated: ${row.deprecated}` : row.path}
      >
        <span className="quiet">{rest ? `${row.group}.` : ""}</span>
        {rest || row.group}
      </span>
      {row.values.map((v, i) => {
        const same = i > 0 && v.value === standard?.value && v.alias === standard?.alias;
        return (
          <span
            role="gridcell"
            key={themes[i]?.name}
            className={`${classes.value} ${same ? classes.same : ""}`}
            title={v.alias ? `{${v.alias}} = ${v.value}` : v.value}
          >
            <TokenPicture type={row.type} value={v.value} />
            <span className={classes.text}>{v.value === "" ? "—" : v.alias || v.value}</span>
          </span>
        );
      })}
      <span role="gridcell" className={`quiet ${classes.used}`}>
        {[row.usedBy.join(", "), row.users > 0 ? `${row.users} ${row.users === 1 ? "token" : "tokens"}` : ""].filter(Boolean).join(" · ")}
      </span>
      <span role="gridcell" className={`quiet ${classes.wide} ${classes.used}`} title={row.description}>
        {row.deprecated ? <strong>Deprecated: {row.deprecated}</strong> : row.description}
      </span>
    </div>
  );
}

function filtered(rows: Row[], find: string, type: string) {
  const words = find.toLowerCase().split(/\s+/).filter(Boolean);
  return rows.filter((r) => {
    if (type && r.type !== type) return false;
    if (words.length === 0) return true;
    const text = `${r.path} ${r.cssName} ${r.description} ${r.values.map((v) => `${v.value} ${v.alias}`).join(" ")}`.toLowerCase();
    return words.every((w) => text.includes(w));
  });
}

function grouped(rows: Row[]) {
  const lines: Line[] = [];
  let head: { group: string; count: number } | undefined;
  rows.forEach((row, index) => {
    if (head?.group !== row.group) {
      head = { group: row.group, count: 0 };
      lines.push(head);
    }
    head.count++;
    lines.push({ row, index });
  });
  return lines;
}

function said(problems: Schema["Problem"][]) {
  const errors = problems.filter((p) => p.severity === "error").length;
  const warnings = problems.length - errors;
  const parts = [
    errors && `${errors} ${errors === 1 ? "error" : "errors"}`,
    warnings && `${warnings} ${warnings === 1 ? "thing" : "things"} to look at`,
  ];
  return parts.filter(Boolean).join(", ");
}
