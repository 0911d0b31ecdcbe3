import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";

import type { Schema } from "../../api/client";
import classes from "./Survey.module.css";

interface Props {
  layers: Schema["DrawnLayer"][];
  /** The large pieces of the page, with what they are like. */
  sections: Schema["SurveySection"][];
  marked: string[];
  onMark: (layer: string) => void;
}

/** All layers of the page, to be marked by keys as well as on the picture. */
export function LayerList({ layers, sections, marked, onMark }: Props) {
  const near = new Map(sections.flatMap((s) => (s.nearest[0] ? [[s.layer, s.nearest[0]] as const] : [])));
  const scroll = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the list renders with the view
  const rows = useVirtualizer({ count: layers.length, getScrollElement: () => scroll.current, estimateSize: () => 24, overscan: 12 });
  if (layers.length === 0) return <p className={classes.nothing}>There are no layers on this page.</p>;
  return (
    <>
      <p className={classes.nothing}>Mark layers, here or on the picture, to read them as one drawing and to draft it.</p>
      <div ref={scroll} className={classes.layers}>
        <ul style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((v) => {
            const l = layers[v.index]!;
            return (
              <li key={l.id} style={{ transform: `translateY(${v.start}px)`, paddingLeft: 16 + 14 * Math.min(l.depth, 8) }}>
                <label>
                  <input
                    type="checkbox"
                    aria-label={`${l.name}, ${l.kind}`}
                    checked={marked.includes(l.id)}
                    onChange={() => onMark(l.id)}
                  />{" "}
                  {l.name}{" "}
                  <span className="quiet">
                    {l.kind}
                    {near.has(l.id) && ` · nearest: ${near.get(l.id)!.name} ${near.get(l.id)!.likeness.toFixed(2)}`}
                  </span>
                </label>
              </li>
            );
          })}
        </ul>
      </div>
    </>
  );
}
