import { useVirtualizer } from "@tanstack/react-virtual";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";

import type { Schema } from "../../api/client";
import { LivePicture } from "../../lanes/LivePicture";
import { Away } from "../../ui/Away";
import { count } from "../../ui/count";
import { Standing } from "../../ui/Standing";
import { isStatic } from "../../ui/static";
import classes from "./Catalogue.module.css";
import { type Line, reasons } from "./entries";

interface Props {
  lines: Line[];
  why: Map<string, Schema["Reason"][]>;
  preview: string | undefined;
  /** What is said where there is none. */
  empty: string;
}

/** Of the list; where it stands is not known without a server. */
const columns = ["Picture", "Component", "Status", ...(isStatic ? [] : ["Verdict"]), "Checks", "Used"];
const row = 60;
const shelf = 28;
const picture = { width: 168, height: 44 };

/** Components a line each; only those in sight are in the page. The arrows go from one to the next, Enter opens it. */
export function EntryGrid({ lines, why, preview, empty }: Props) {
  const navigate = useNavigate();
  const scroller = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(-1);
  const entries = lines.flatMap((l, i) => ("entry" in l ? [{ line: i, entry: l.entry }] : []));
  const chosen = Math.min(at, entries.length - 1);
  // eslint-disable-next-line react-hooks/incompatible-library -- the virtualizer measures on every render by design
  const virtual = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => ("entry" in lines[i]! ? row : shelf),
    getItemKey: (i) => ("entry" in lines[i]! ? lines[i].entry.slug : `shelf ${lines[i]!.shelf}`),
    overscan: 4,
  });
  useEffect(() => virtual.measure(), [lines, virtual]);
  const go = (to: number) => {
    const next = Math.max(0, Math.min(entries.length - 1, to));
    setAt(next);
    if (entries[next]) virtual.scrollToIndex(entries[next].line);
  };
  const page = Math.max(1, Math.floor((scroller.current?.clientHeight ?? 400) / row) - 1);
  const steps: Record<string, number> = {
    ArrowDown: 1,
    ArrowUp: -1,
    PageDown: page,
    PageUp: -page,
    Home: -entries.length,
    End: entries.length,
  };
  const press = (e: KeyboardEvent) => {
    const by = steps[e.key];
    if (by !== undefined && entries.length > 0) {
      e.preventDefault();
      go(at < 0 ? (by < 0 ? entries.length - 1 : 0) : chosen + by);
    } else if (e.key === "Enter" && entries[chosen] && e.target === e.currentTarget)
      void navigate(`/catalogue/${entries[chosen].entry.slug}`);
  };
  if (entries.length === 0) return <p className={classes.none}>{empty}</p>;
  return (
    <div
      ref={scroller}
      className={classes.grid}
      role="grid"
      data-static={isStatic || undefined}
      aria-label="Components"
      aria-rowcount={lines.length + 1}
      aria-activedescendant={entries[chosen] ? `entry-${entries[chosen].entry.slug}` : undefined}
      tabIndex={0}
      onKeyDown={press}
      onFocus={(e) => e.target === e.currentTarget && at < 0 && setAt(0)}
    >
      <div role="row" aria-rowindex={1} className={`${classes.line} ${classes.heads}`}>
        {columns.map((title) => (
          <span key={title} role="columnheader">
            {title}
          </span>
        ))}
      </div>
      <div role="presentation" style={{ height: virtual.getTotalSize(), position: "relative" }}>
        {virtual.getVirtualItems().map((v) => {
          const line = lines[v.index]!;
          const place = { height: v.size, transform: `translateY(${v.start}px)` };
          if ("shelf" in line)
            return (
              <div key={v.key} role="row" aria-rowindex={v.index + 2} className={classes.shelf} style={place}>
                <span role="rowheader">
                  {line.shelf} <span className="quiet">{line.count}</span>
                </span>
              </div>
            );
          const { entry: e } = line;
          return (
            <div
              key={v.key}
              id={`entry-${e.slug}`}
              role="row"
              aria-rowindex={v.index + 2}
              className={`${classes.line} ${classes.row} ${entries[chosen]?.entry === e ? classes.chosen : ""}`}
              style={place}
              onClick={() => void navigate(`/catalogue/${e.slug}`)}
            >
              <span role="gridcell" className={classes.small}>
                {preview && <LivePicture entry={e} preview={preview} {...picture} />}
              </span>
              <span role="gridcell" className={classes.words}>
                <Link to={`/catalogue/${e.slug}`} tabIndex={-1}>
                  {e.name}
                </Link>
                <Told entry={e} why={reasons(why.get(e.slug))} />
              </span>
              <span role="gridcell">
                <Status entry={e} />
              </span>
              {!isStatic && (
                <span role="gridcell">
                  <Standing entry={e} />
                </span>
              )}
              <span role="gridcell">
                <Findings entry={e} />
              </span>
              <span role="gridcell" className="quiet">
                {e.uses + e.usedBy + e.trials === 0 && "nowhere yet"}
                {e.uses > 0 && <div>{e.uses} in the design</div>}
                {e.usedBy > 0 && <div>in {count(e.usedBy, "component")}</div>}
                {e.trials > 0 && <div>{e.trials} on trial</div>}
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** What it is for; where something was looked for, what of it was found. */
function Told({ entry: e, why }: { entry: Schema["Entry"]; why: string[] }) {
  if (e.deprecated) return <span className={classes.warned}>{e.deprecated}</span>;
  if (why.length > 0) return <span className={classes.why}>{why.join(" · ")}</span>;
  return <span className="quiet">{e.purpose || "Nobody has said yet what it is for."}</span>;
}

export function Status({ entry: e }: { entry: Schema["Entry"] }) {
  return (
    <>
      <span className={e.status === "released" ? undefined : e.status === "draft" ? "quiet" : classes.warned}>{e.status}</span>
      {e.version && <div className="mono">{e.version}</div>}
    </>
  );
}

function Findings({ entry: e }: { entry: Schema["Entry"] }) {
  if (e.errors + e.warnings === 0) return <span className="quiet">clean</span>;
  return (
    <Away to={`/bench/${e.slug}?facet=checks`}>
      {[e.errors > 0 && count(e.errors, "error"), e.warnings > 0 && count(e.warnings, "warning")].filter(Boolean).join(", ")}
    </Away>
  );
}
