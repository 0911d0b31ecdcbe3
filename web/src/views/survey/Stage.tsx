import { type PointerEvent, useMemo } from "react";

import type { Box } from "../../../preview/messages";
import type { Schema } from "../../api/client";
import { placed } from "../../marks/geometry";
import { Sheet, Ticks } from "../../marks/Marks";
import classes from "./Stage.module.css";
import { useSheet } from "./useSheet";
import { apart, smallestAt } from "./view";
import { Zoom } from "./Zoom";

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

/** The picture of a page with what was found on it: zoomed and moved by pointer and keys. */
export function Stage({ page, drawn, marks, lit, picked, marked, onLit, onPick, onMark, show }: Props) {
  const { ref, place, width, height, moving, larger, smaller, reset, onKeyDown, at, onPointerDown, dragged, pressed } = useSheet(
    page.id,
    page,
    show,
  );
  const onMove = (e: PointerEvent<HTMLElement>) => {
    if (dragged(e)) return;
    const { x, y } = at(e);
    onLit(smallestAt(marks, x, y)?.group);
  };
  const onUp = (e: PointerEvent) => {
    if (!pressed() || e.button !== 0) return;
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
      onKeyDown={onKeyDown}
      onPointerDown={onPointerDown}
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
          const label = legible.get(m.key);
          return (
            <g key={m.key} data-chosen={on || undefined} className={on || !picked ? undefined : classes.faint}>
              <Ticks box={m.at} chosen={on} haloed />
              {label && (
                <text className={classes.label} {...label}>
                  {m.label}
                </text>
              )}
            </g>
          );
        })}
        {markedHere.map((l) => (
          <Ticks key={l.id} box={placed(l.box, place)} chosen dashed haloed />
        ))}
      </Sheet>
      <Zoom scale={place.scale} smaller={smaller} reset={reset} larger={larger} />
    </div>
  );
}
