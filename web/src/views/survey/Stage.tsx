import { useElementSize, useMergedRef } from "@mantine/hooks";
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from "react";

import type { Box } from "../../../preview/messages";
import type { Schema } from "../../api/client";
import { type Place, placed } from "../../marks/geometry";
import { Sheet, Ticks } from "../../marks/Marks";
import classes from "./Stage.module.css";
import { apart, fit, panned, showing, smallestAt, zoomed } from "./view";

/** Something marked on a page. Marks of one group are lit together. */
export interface Mark {
  key: string;
  group: string;
  box: Box;
  /** What stands over it; nothing for none. */
  label?: string;
}

interface Props {
  page: Schema["SurveyPage"];
  drawn: Schema["DrawnPage"] | undefined;
  marks: Mark[];
  /** The group that is pointed at, or picked. */
  lit: string | undefined;
  picked: string | undefined;
  marked: string[];
  onLit: (group: string | undefined) => void;
  onPick: (group: string) => void;
  onMark: (layer: string) => void;
  /** What is to be brought into sight. */
  show?: Box;
}

const step = { pan: 60, zoom: 1.25 };

/** The picture of a page with what was found on it: zoomed and moved by pointer and keys. */
export function Stage({ page, drawn, marks, lit, picked, marked, onLit, onPick, onMark, show }: Props) {
  const { ref: sized, width, height } = useElementSize<HTMLDivElement>();
  const own = useRef<HTMLDivElement>(null);
  const ref = useMergedRef(sized, own);
  const stage = useMemo(() => ({ width, height }), [width, height]);
  // A place of one's own holds for the page and the room it was chosen in.
  const room = `${page.id} ${width} ${height}`;
  const [chosen, setChosen] = useState<{ room: string; place: Place }>();
  const place = chosen?.room === room ? chosen.place : fit(page, stage);
  const moving = useMoving(place);
  const set = (next: Place) => setChosen({ room, place: next });
  const now = useRef({ place, set });
  useEffect(() => {
    now.current = { place, set };
  });

  const [shown, setShown] = useState(show);
  if (show !== shown) {
    setShown(show);
    if (show && width > 0) set(showing(place, show, stage));
  }

  // The wheel moves, and with Ctrl, as pinching does, enlarges: React's own listener could not keep the page from scrolling.
  useEffect(() => {
    const e = own.current;
    if (!e) return;
    const wheel = (w: WheelEvent) => {
      w.preventDefault();
      const { place, set } = now.current;
      const at = e.getBoundingClientRect();
      if (w.ctrlKey || w.metaKey) set(zoomed(place, Math.exp(-w.deltaY / 300), { x: w.clientX - at.x, y: w.clientY - at.y }));
      else set(panned(place, -(w.shiftKey ? w.deltaY : w.deltaX), w.shiftKey ? 0 : -w.deltaY, page, stage));
    };
    e.addEventListener("wheel", wheel, { passive: false });
    return () => e.removeEventListener("wheel", wheel);
  }, [page, stage]);

  const center = { x: width / 2, y: height / 2 };
  const keys: Record<string, () => void> = {
    ArrowLeft: () => set(panned(place, step.pan, 0, page, stage)),
    ArrowRight: () => set(panned(place, -step.pan, 0, page, stage)),
    ArrowUp: () => set(panned(place, 0, step.pan, page, stage)),
    ArrowDown: () => set(panned(place, 0, -step.pan, page, stage)),
    "+": () => set(zoomed(place, step.zoom, center)),
    "=": () => set(zoomed(place, step.zoom, center)),
    "-": () => set(zoomed(place, 1 / step.zoom, center)),
    "0": () => setChosen(undefined),
  };
  const onKey = (e: KeyboardEvent) => {
    if (e.ctrlKey || e.metaKey || e.altKey || !keys[e.key]) return;
    e.preventDefault();
    keys[e.key]!();
  };

  const drag = useRef<{ x: number; y: number; place: Place; moved: boolean }>(undefined);
  const at = (e: PointerEvent) => {
    const r = own.current!.getBoundingClientRect();
    return { x: (e.clientX - r.x - place.x) / place.scale, y: (e.clientY - r.y - place.y) / place.scale };
  };
  const onMove = (e: PointerEvent) => {
    const d = drag.current;
    if (d) {
      const [dx, dy] = [e.clientX - d.x, e.clientY - d.y];
      d.moved ||= Math.abs(dx) + Math.abs(dy) > 4;
      if (d.moved) set(panned(d.place, dx, dy, page, stage));
      return;
    }
    const { x, y } = at(e);
    onLit(smallestAt(marks, x, y)?.group);
  };
  const onUp = (e: PointerEvent) => {
    const d = drag.current;
    drag.current = undefined;
    if (!d || d.moved || e.button !== 0) return;
    const { x, y } = at(e);
    const mark = smallestAt(marks, x, y);
    if (mark && !e.shiftKey) onPick(mark.group);
    else {
      const layer = smallestAt(drawn?.layers ?? [], x, y);
      if (layer) onMark(layer.id);
    }
  };

  const html = useMemo(() => ({ __html: drawn?.picture ?? "" }), [drawn]);
  const seen = (b: Box) => b.x < width && b.y < height && b.x + b.width > 0 && b.y + b.height > 0;
  const onStage = marks.map((m) => ({ ...m, at: placed(m.box, place) })).filter((m) => seen(m.at));
  const legible = apart(onStage, (m) => m.group === lit || m.group === picked);
  const markedHere = drawn?.layers.filter((l) => marked.includes(l.id)) ?? [];
  return (
    <div
      ref={ref}
      className={classes.stage}
      role="region"
      aria-label={`Page ${page.name}: arrows move it, plus and minus enlarge it, 0 fits it`}
      tabIndex={0}
      onKeyDown={onKey}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        drag.current = { x: e.clientX, y: e.clientY, place, moved: false };
        try {
          e.currentTarget.setPointerCapture(e.pointerId);
        } catch {
          // a pointer that is gone already cannot be kept
        }
      }}
      onPointerMove={onMove}
      onPointerUp={onUp}
      onPointerLeave={() => onLit(undefined)}
    >
      <div
        className={classes.paper}
        data-moving={moving || undefined}
        style={{ width: page.width, height: page.height, transform: `translate(${place.x}px, ${place.y}px) scale(${place.scale})` }}
        role="img"
        aria-label={`Page ${page.name}, as drawn`}
      >
        <div aria-hidden="true" dangerouslySetInnerHTML={html} />
      </div>
      <Sheet width={width} height={height}>
        {onStage.map((m) => {
          const on = m.group === lit || m.group === picked;
          return (
            <g key={m.key} data-chosen={on || undefined} className={on || !picked ? undefined : classes.faint}>
              <Ticks box={m.at} chosen={on} />
              {m.label && legible.has(m.key) && (
                <text className={classes.label} x={m.at.x + 12} y={m.at.y - 4}>
                  {m.label}
                </text>
              )}
            </g>
          );
        })}
        {markedHere.map((l) => (
          <Ticks key={l.id} box={placed(l.box, place)} chosen dashed />
        ))}
      </Sheet>
      <div className={classes.zoom} onPointerDown={(e) => e.stopPropagation()} onPointerUp={(e) => e.stopPropagation()}>
        <button type="button" aria-label="Smaller" onClick={() => set(zoomed(place, 1 / step.zoom, center))}>
          −
        </button>
        <button type="button" aria-label={`${Math.round(place.scale * 100)} %: fit the page`} onClick={() => setChosen(undefined)}>
          {Math.round(place.scale * 100)} %
        </button>
        <button type="button" aria-label="Larger" onClick={() => set(zoomed(place, step.zoom, center))}>
          +
        </button>
      </div>
    </div>
  );
}

/** Whether something moved a moment ago: what moves is painted once and drawn as it is, so that it keeps up with the pointer. */
function useMoving(place: Place): boolean {
  const key = `${place.x} ${place.y} ${place.scale}`;
  const [still, setStill] = useState(key);
  useEffect(() => {
    const timer = setTimeout(() => setStill(key), 160);
    return () => clearTimeout(timer);
  }, [key]);
  return still !== key;
}
