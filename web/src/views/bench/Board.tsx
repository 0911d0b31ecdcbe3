import { useElementSize } from "@mantine/hooks";
import { type KeyboardEvent, useMemo, useState } from "react";

import type { Box, Failed, MeasuredCase, Painted } from "../../../preview/messages";
import type { Schema } from "../../api/client";
import { LookedFrames } from "../../lanes/LookedFrames";
import { differingIn } from "../../lanes/pixels";
import { lookedCase } from "../../lanes/shown";
import { Picture } from "../../ui/Picture";
import { count } from "../../ui/count";
import classes from "./Board.module.css";

interface Props {
  title: string;
  /** What is said of it all. */
  note: string;
  themes: Schema["LookTheme"][];
  list: Schema["Looked"][];
  src: string;
  /** The version that was released last, and its address on the preview origin. */
  release?: { version: string; src: string };
  chosen?: string;
  onChoose?: (key: string) => void;
  onFailed: (failure: Failed) => void;
}

const pad = 16;
/** px under a picture: its name, what it is, and what is in trouble. */
const foot = 70;
/** The least width of a cell, px. */
const narrowest = 184;
/** px around a case within which it is compared with the release. */
const around = 6;

/** Cases as pictures of one board, every one of them running at once, with what is in trouble and what was released. */
export function Board({ title, note, themes, list, src, release, chosen, onChoose, onFailed }: Props) {
  const { ref, width: stage } = useElementSize();
  const [measured, setMeasured] = useState<Record<string, Box>>({});
  const [now, setNow] = useState<Record<number, Painted>>({});
  const [then, setThen] = useState<Record<number, Painted>>({});
  const sizes = list.map((c) => ({
    width: Math.ceil(Math.max(c.width, c.container, measured[c.key]?.width ?? 0)),
    height: Math.ceil(Math.max(24, measured[c.key]?.height ?? c.height)),
  }));
  const widest = Math.max(1, ...sizes.map((s) => s.width));
  const scale = stage > 0 ? Math.min(1, (stage - 2 * pad) / widest) : 1;
  const { cells, height } = placed(sizes, scale, stage);
  const place = (i: number) => ({ x: cells[i]!.x / scale, y: cells[i]!.y / scale });
  const frame = { width: stage / scale, height: height / scale, scale };
  const measure = (all: MeasuredCase[]) =>
    setMeasured((m) => ({
      ...m,
      ...Object.fromEntries(all.flatMap((c) => c.parts.filter((p) => p.part === "root").map((p) => [c.case, p.box]))),
    }));
  const areas = list.map((_, i) => ({
    x: place(i).x - around,
    y: place(i).y - around,
    width: sizes[i]!.width + 2 * around,
    height: sizes[i]!.height + 2 * around,
  }));
  const shape = JSON.stringify(areas);
  // How many px of each case differ from the release, once both are painted as they stand.
  const differs = useMemo(() => {
    const out: Record<string, number> = {};
    for (const [text, a] of Object.entries(then)) {
      const b = now[Number(text)];
      if (!b || a.width !== b.width || a.height !== b.height) continue;
      const mine = list.flatMap((c, i) =>
        c.released && (c.look.text ?? 100) === Number(text) ? [{ c, area: (JSON.parse(shape) as typeof areas)[i]! }] : [],
      );
      differingIn(
        a,
        b,
        mine.map((m) => m.area),
      ).forEach((n, i) => (out[mine[i]!.c.key] = n));
    }
    return out;
  }, [now, then, list, shape]);

  const step = (e: KeyboardEvent<HTMLElement>) => {
    const all = [...e.currentTarget.querySelectorAll<HTMLElement>("button")];
    const at = all.indexOf(document.activeElement as HTMLElement);
    const to = { ArrowRight: at + 1, ArrowLeft: at - 1, ArrowDown: below(all, at, 1), ArrowUp: below(all, at, -1) }[e.key];
    if (at < 0 || to === undefined) return;
    e.preventDefault();
    all[to]?.focus();
  };
  const first = list.some((c) => c.key === chosen) ? chosen : list[0]?.key;
  return (
    <section className={classes.board} aria-label={title}>
      <header className={classes.head}>
        <h2>{title}</h2>
        <span className="quiet" role="status">
          {note}
          {release && said(Object.values(differs), release.version)}
        </span>
      </header>
      <div className={classes.scroll} tabIndex={onChoose ? -1 : 0} role="region" aria-label={`${title}, all of them`}>
        <div ref={ref} className={classes.stage} style={{ height }} onKeyDown={onChoose && step}>
          {stage > 0 && (
            <>
              <LookedFrames
                src={src}
                title={`${title}, running`}
                cases={list}
                show={(c, i) => (c.new.length > 0 ? undefined : lookedCase(c, themes, place(i).x, place(i).y))}
                paint={release !== undefined}
                onMeasured={measure}
                onPainted={(text, painted) => setNow((p) => ({ ...p, [text]: painted }))}
                onFailed={onFailed}
                {...frame}
              />
              {release && (
                <div className={classes.then} aria-hidden="true">
                  <LookedFrames
                    src={release.src}
                    title={`${title}, as released`}
                    cases={list}
                    show={(c, i) => (c.released ? { ...lookedCase(c, themes, place(i).x, place(i).y), props: c.released } : undefined)}
                    paint
                    onPainted={(text, painted) => setThen((p) => ({ ...p, [text]: painted }))}
                    {...frame}
                  />
                </div>
              )}
            </>
          )}
          {list.map(
            (c, i) =>
              c.new.length > 0 && (
                <div key={c.key} className={classes.drawn} style={{ left: cells[i]!.x, top: cells[i]!.y }}>
                  <Picture svg={c.picture} label={`${c.name}, as drawn`} width={c.width} height={c.height} scale={scale} />
                </div>
              ),
          )}
          {list.map((c, i) => {
            const words = (
              <>
                <span className={classes.name}>{c.saved ? `“${c.name}”` : c.name}</span>
                {onChoose && (
                  <span className={classes.what}>
                    {c.new.length > 0 ? "new in the design" : c.drawn ? "drawn" : c.saved ? "saved" : "not drawn"}
                    {release && c.new.length === 0 && ` · ${against(c, differs[c.key], release.version)}`}
                  </span>
                )}
                {c.troubles.map((t) => (
                  <span key={t} className={classes.trouble} title={t}>
                    {t}
                  </span>
                ))}
              </>
            );
            const at = {
              left: cells[i]!.x,
              top: cells[i]!.y + sizes[i]!.height * scale + 4,
              width: Math.max(narrowest, sizes[i]!.width * scale),
            };
            return onChoose ? (
              <button
                key={c.key}
                type="button"
                data-case={c.name}
                data-differs={differs[c.key]}
                aria-pressed={c.key === chosen}
                tabIndex={c.key === first ? 0 : -1}
                className={classes.caption}
                style={at}
                onClick={() => onChoose(c.key)}
              >
                {words}
              </button>
            ) : (
              <div key={c.key} data-stress={c.name} className={classes.caption} style={at}>
                {words}
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}

/** "· 3 of 12 differ from 1.0.0"; nothing before they were compared. */
function said(differs: number[], version: string) {
  if (differs.length === 0) return "";
  const n = differs.filter((d) => d > 0).length;
  return n === 0 ? ` · no pixel differs from ${version}` : ` · ${count(n, "case differs", "cases differ")} from ${version}`;
}

function against(c: Schema["Looked"], differs: number | undefined, version: string) {
  if (!c.released) return `not in ${version}`;
  if (differs === undefined) return "comparing …";
  return differs === 0 ? `as in ${version}` : `${differs} px differ from ${version}`;
}

/** The one of the next row that stands nearest, or of the row before. */
function below(all: HTMLElement[], at: number, way: 1 | -1) {
  const here = all[at]?.getBoundingClientRect();
  if (!here) return undefined;
  let best: number | undefined;
  let distance = Infinity;
  all.forEach((e, i) => {
    const there = e.getBoundingClientRect();
    const down = (there.top - here.top) * way;
    const far = down * 4 + Math.abs(there.left - here.left);
    if (down > 8 && far < distance) [best, distance] = [i, far];
  });
  return best;
}

/** Places pictures of some sizes in rows, as words in a text. */
function placed(sizes: { width: number; height: number }[], scale: number, stage: number) {
  const cells: { x: number; y: number }[] = [];
  let [x, y, tall] = [pad, pad, 0];
  for (const s of sizes) {
    const wide = Math.max(narrowest, s.width * scale);
    if (x > pad && x + wide > stage - pad) [x, y, tall] = [pad, y + tall + foot, 0];
    cells.push({ x, y });
    x += wide + 2 * pad;
    tall = Math.max(tall, s.height * scale);
  }
  return { cells, height: y + tall + foot };
}
