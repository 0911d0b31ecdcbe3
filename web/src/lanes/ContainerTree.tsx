import { useRef } from "react";

import type { Schema } from "../api/client";
import { KindMark } from "../ui/KindMark";
import classes from "./ContainerTree.module.css";

interface Props {
  view: Schema["LayoutView"];
  part: string | undefined;
  onPart: (part: string) => void;
}

/** The tree of containers, a part a row, with its room and how far it is from the drawing. */
export function ContainerTree({ view, part, onPart }: Props) {
  const list = useRef<HTMLUListElement>(null);
  const step = (by: number) => {
    const i = view.parts.findIndex((p) => p.id === part) + by;
    const next = view.parts[i];
    if (!next) return;
    onPart(next.id);
    list.current?.querySelectorAll("button")[i]?.focus();
  };
  const drawn = view.parts.some((p) => p.residual !== undefined);
  return (
    <section className={classes.tree} aria-label="Containers">
      <header className={classes.treeHead}>
        <h2>Containers</h2>
        {drawn ? (
          <span className={view.residual <= 0.5 ? classes.level : classes.off}>
            {view.residual <= 0.5 ? "solved as drawn" : `${view.residual} px off at most`}
          </span>
        ) : (
          <span className="quiet">as contracted at {view.width} px</span>
        )}
      </header>
      <ul
        ref={list}
        className={classes.rows}
        onKeyDown={(e) => {
          if (e.key === "ArrowDown" || e.key === "ArrowUp") {
            e.preventDefault();
            step(e.key === "ArrowDown" ? 1 : -1);
          }
        }}
      >
        {view.parts.map((p) => (
          <li key={p.id}>
            <button
              type="button"
              className={classes.row}
              aria-pressed={p.id === part}
              tabIndex={p.id === part ? 0 : -1}
              title={p.name}
              style={{ paddingLeft: 12 + p.depth * 14 }}
              onClick={() => onPart(p.id)}
            >
              <KindMark kind={p.kind ?? "leaf"} />
              <span className={classes.partName}>{p.name}</span>
              <span className={classes.summary}>{summary(p)}</span>
              {p.residual !== undefined && p.residual > 0.5 && <span className={classes.off}>{p.residual}</span>}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A container's room in a few words, px: "row · gap 8 · padding 8/12". */
function summary(p: Schema["PartLayout"]) {
  if (p.kind === "leaf") return `${p.width} × ${p.height}`;
  const said = Object.fromEntries(p.declared.map((s) => [s.property, s.value.replaceAll("px", "")]));
  const out = [p.kind === "split" ? `split ${p.columns}` : p.kind];
  if (p.distribute === "space-between") out.push("spread");
  else if (said.gap && said.gap !== "0") out.push(`gap ${said.gap}`);
  const padding = [...new Set([said["padding-block"], said["padding-inline"]])].join("/");
  if (padding !== "0") out.push(`padding ${padding}`);
  return out.join(" · ");
}
