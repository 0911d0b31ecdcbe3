import { useEffect, useMemo, useRef } from "react";

import type { Failed, MeasuredCase } from "../../preview/messages";
import type { Schema } from "../api/client";
import { Glyph } from "../ui/Glyph";
import { Picture } from "../ui/Picture";
import { BuiltFrame } from "./BuiltFrame";
import classes from "./CaseStrip.module.css";
import { shownCase } from "./shown";

interface Props {
  cases: Schema["CaseView"][];
  /** The theme they are shown in, and all that they are measured in. */
  theme: string;
  themes: Schema["LookTheme"][];
  src: string;
  measure: string[];
  verdicts: Record<string, Schema["CaseLedger"]>;
  chosen: string;
  onChoose: (key: string) => void;
  onMeasured: (cases: MeasuredCase[]) => void;
  onFailed: (failure: Failed) => void;
}

const pad = 8;
const most = { width: 132, height: 40 };
/** px under the row, out of the frame. */
const below = 10_000;

/**
 * Every case as a small live picture in one row; choosing one switches the lanes. Cases in the
 * other themes run below the row, where nobody sees them, to be measured.
 */
export function CaseStrip({ cases, theme, themes, src, measure, verdicts, chosen, onChoose, onMeasured, onFailed }: Props) {
  const row = useRef<HTMLDivElement>(null);
  const { cell, height, scale } = useMemo(() => {
    const width = Math.max(24, ...cases.map((c) => c.width));
    const tall = Math.max(16, ...cases.map((c) => c.height));
    const letters = Math.max(...cases.map((c) => c.name.length + (c.new.length > 0 ? 5 : 0)));
    const fit = Math.min(1, most.width / width, most.height / tall);
    return { cell: Math.max(Math.ceil(width * fit) + 2 * pad, Math.ceil(letters * 6.7) + 34), height: Math.ceil(tall * fit), scale: fit };
  }, [cases]);
  const shown = themes.flatMap((t) =>
    cases.flatMap((c, i) => (c.new.length > 0 ? [] : [shownCase(c, t, (i * cell + pad) / scale, t.name === theme ? 0 : below)])),
  );

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
  return (
    <div
      className={classes.strip}
      role="toolbar"
      aria-label="Cases"
      ref={row}
      onKeyDown={(e) => {
        if (e.key === "ArrowRight" || e.key === "ArrowLeft") {
          e.preventDefault();
          step(e.key === "ArrowRight" ? 1 : -1);
        }
      }}
    >
      <div className={classes.row} style={{ width: cases.length * cell }}>
        <div className={classes.live} style={{ height }} aria-hidden="true">
          <BuiltFrame
            src={src}
            title="All cases, running"
            cases={shown}
            measure={measure}
            width={(cases.length * cell) / scale}
            height={height / scale}
            scale={scale}
            onMeasured={onMeasured}
            onFailed={onFailed}
          />
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
                {c.new.length > 0 ? `new: ${c.name}` : c.name}
              </span>
            </button>
          );
        })}
      </div>
    </div>
  );
}
