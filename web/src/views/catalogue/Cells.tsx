import { Link } from "react-router";

import type { Schema } from "../../api/client";
import { BuiltFrame } from "../../lanes/BuiltFrame";
import { reachOf } from "../../lanes/Lanes";
import { shownCase } from "../../lanes/shown";
import classes from "./Catalogue.module.css";

/** A case in a cell of a sheet. */
export interface Cell {
  key: string;
  name: string;
  case: Schema["CaseView"];
  theme: Schema["LookTheme"] | undefined;
  /** States it is held in, beside its own. */
  states?: string[];
  /** Where a press leads; nowhere without. */
  to?: string;
  /** It is meant: what is pointed at elsewhere is seen in it. */
  meant?: boolean;
}

interface Props {
  cells: Cell[];
  /** Address of the build on the preview origin. */
  src: string;
  title: string;
  /** In so many columns; as many as there is room for without. */
  columns?: number;
}

/** Of a cell, px. */
const most = { width: 132, height: 84 };
const label = 20;

/** Cases running, small, in rows, all in one frame. */
export function Cells({ cells, src, title, columns: wanted }: Props) {
  if (cells.length === 0) return null;
  const reach = cells.map((c) => reachOf(c.case.boxes)); // what is laid over others sticks out
  const width = Math.max(24, ...cells.map((c) => c.case.width), ...reach.map((r) => r.width));
  const height = Math.max(16, ...cells.map((c) => c.case.height), ...reach.map((r) => r.height));
  const scale = Math.min(1, most.width / width, most.height / height);
  const size = { width: Math.max(96, Math.ceil(width * scale)) + 16, height: Math.ceil(height * scale) + 16 + label };
  const columns = wanted ?? Math.max(1, Math.floor(600 / size.width));
  const rows = Math.ceil(cells.length / columns);
  const at = (i: number) => ({ x: (i % columns) * size.width, y: Math.floor(i / columns) * size.height });
  return (
    <div className={classes.cases} style={{ width: columns * size.width, height: rows * size.height }}>
      <div aria-hidden="true">
        <BuiltFrame
          src={src}
          title={title}
          cases={cells.map((c, i) => {
            const shown = shownCase(c.case, c.theme, (at(i).x + 8) / scale, (at(i).y + 8) / scale);
            return { ...shown, key: c.key, states: [...(shown.states ?? []), ...(c.states ?? [])] };
          })}
          width={(columns * size.width) / scale}
          height={(rows * size.height) / scale}
          scale={scale}
        />
      </div>
      {cells.map((c, i) => {
        const place = { left: at(i).x, top: at(i).y, ...size };
        const name = <span>{c.name}</span>;
        return c.to ? (
          <Link key={c.key} to={c.to} className={classes.case} data-meant={c.meant || undefined} style={place} title={c.name}>
            {name}
          </Link>
        ) : (
          <div key={c.key} className={classes.case} data-meant={c.meant || undefined} style={place} title={c.name}>
            {name}
          </div>
        );
      })}
    </div>
  );
}
