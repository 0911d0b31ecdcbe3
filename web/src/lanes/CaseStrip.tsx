import { useElementSize } from "@mantine/hooks";
import { useEffect, useMemo, useRef, useState } from "react";

import type { Failed, MeasuredCase } from "../../preview/messages";
import type { Schema } from "../api/client";
import { Glyph } from "../ui/Glyph";
import { Picture } from "../ui/Picture";
import { BuiltFrame } from "./BuiltFrame";
import classes from "./CaseStrip.module.css";
import { LookedFrames } from "./LookedFrames";
import { lookedCase, shownCase } from "./shown";

interface Props {
  /** As they are measured. */
  cases: Schema["CaseView"][];
  /** What is shown of them where they are looked at otherwise, by their keys. */
  looked?: Record<string, Schema["Looked"]>;
  /** The theme they are shown in, and all that they are measured in. */
  theme: string;
  themes: Schema["LookTheme"][];
  src: string;
  next?: string;
  measure: string[];
  verdicts: Record<string, Schema["CaseLedger"]>;
  /** In as many rows as it takes, not in one. */
  rows: boolean;
  chosen: string;
  onChoose: (key: string) => void;
  onMeasured: (cases: MeasuredCase[]) => void;
  onFailed: (failure: Failed) => void;
}

const pad = 8;
const most = { width: 132, height: 40 };
/** px under the row, out of the frame. */
const below = 10_000;
/** px under a case's picture and over it: its name, and room. */
const foot = 36;

/**
 * Every case as a small live picture in one row; choosing one switches the lanes. Cases in the
 * other themes run below the row, where nobody sees them, to be measured.
 */
export function CaseStrip({
  cases,
  looked,
  theme,
  themes,
  src,
  next,
  measure,
  verdicts,
  rows,
  chosen,
  onChoose,
  onMeasured,
  onFailed,
}: Props) {
  const row = useRef<HTMLDivElement>(null);
  const { ref: measured, width: stage } = useElementSize();
  const [seen, setSeen] = useState({ from: 0, to: 1 });
  const { cell, height, scale } = useMemo(() => {
    const seen = cases.map((c) => looked?.[c.key] ?? c);
    const width = Math.max(24, ...seen.map((c) => Math.max(c.width, c.container)));
    const tall = Math.max(16, ...seen.map((c) => c.height));
    const letters = Math.max(...cases.map((c) => c.name.length + (c.new.length > 0 ? 5 : 0)));
    const fit = Math.min(1, most.width / width, most.height / tall);
    return { cell: Math.max(Math.ceil(width * fit) + 2 * pad, Math.ceil(letters * 6.7) + 34), height: Math.ceil(tall * fit), scale: fit };
  }, [cases, looked]);
  const columns = rows && stage > 0 ? Math.max(1, Math.floor(stage / cell)) : cases.length;
  const lines = Math.ceil(cases.length / Math.max(1, columns));
  const high = height + foot;
  const at = (i: number) => ({ x: ((i % columns) * cell + pad) / scale, y: (Math.floor(i / columns) * high) / scale });
  const shown = themes.flatMap((t) =>
    cases.flatMap((c, i) =>
      c.new.length > 0
        ? []
        : [
            {
              ...shownCase(c, t, at(i).x, t.name === theme && !looked ? at(i).y : below),
              width: c.fills ? c.width : undefined, // measured as it is by itself
            },
          ],
    ),
  );
  const placedCase = (c: Schema["Looked"]) => {
    const i = cases.findIndex((o) => o.key === c.key);
    return lookedCase(c, themes, at(i).x, at(i).y);
  };
  // What of a long row is seen, as parts of it.
  const look = () => {
    const at = row.current;
    if (at) setSeen({ from: at.scrollLeft / at.scrollWidth, to: (at.scrollLeft + at.clientWidth) / at.scrollWidth });
  };
  useEffect(look, [stage, cell, cases.length, rows]);

  useEffect(() => {
    row.current?.querySelector("[aria-pressed=true]")?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [chosen]);

  const step = (by: number) => {
    const i = cases.findIndex((c) => c.key === chosen) + by;
    const next = cases[i];
    if (!next) return;
    onChoose(next.key);
    row.current?.querySelectorAll("button")[i]?.focus();
  };
  const cut = !rows && (seen.from > 0.001 || seen.to < 0.999);
  return (
    <div className={classes.band} ref={measured}>
      <div
        className={classes.strip}
        data-rows={rows || undefined}
        role="toolbar"
        aria-label="Cases"
        ref={row}
        onScroll={look}
        onKeyDown={(e) => {
          if (e.key === "ArrowRight" || e.key === "ArrowLeft") {
            e.preventDefault();
            step(e.key === "ArrowRight" ? 1 : -1);
          }
        }}
      >
        <div className={classes.row} style={{ width: columns * cell }}>
          <div className={classes.live} style={{ height: lines * high }} aria-hidden="true">
            <BuiltFrame
              src={src}
              next={next}
              title="All cases, running"
              cases={shown}
              measure={measure}
              width={(columns * cell) / scale}
              height={(lines * high) / scale}
              scale={scale}
              onMeasured={onMeasured}
              onFailed={onFailed}
            />
            {looked && (
              <LookedFrames
                src={src}
                title="All cases, running in what is pinned"
                cases={cases.flatMap((c) => looked[c.key] ?? [])}
                show={(c) => (c.new.length > 0 ? undefined : placedCase(c))}
                width={(columns * cell) / scale}
                height={(lines * high) / scale}
                scale={scale}
              />
            )}
          </div>
          {cases.map((c) => {
            const verdict = verdicts[c.key];
            return (
              <button
                key={c.key}
                type="button"
                className={classes.cell}
                style={{ width: cell }}
                aria-pressed={c.key === chosen}
                tabIndex={c.key === chosen ? 0 : -1}
                title={c.name}
                onClick={() => onChoose(c.key)}
              >
                <span style={{ height }} className={classes.picture}>
                  {c.new.length > 0 && (
                    <span className={classes.fresh} style={{ paddingLeft: pad }}>
                      <Picture svg={c.picture} label="as drawn" width={c.width} height={c.height} scale={scale} />
                    </span>
                  )}
                </span>
                <span className={classes.label}>
                  {verdict && verdict.verdict !== "agree" && <Glyph verdict={verdict.verdict} size={10} />}
                  {c.new.length > 0 ? `new: ${c.name}` : c.saved ? `“${c.name}”` : c.name}
                </span>
              </button>
            );
          })}
        </div>
      </div>
      {cut && (
        <div className={classes.track} aria-hidden="true">
          <div style={{ left: `${seen.from * 100}%`, right: `${(1 - seen.to) * 100}%` }} />
        </div>
      )}
    </div>
  );
}
