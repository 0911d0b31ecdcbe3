import { Link } from "react-router";

import type { Schema } from "../../api/client";
import { BuiltFrame } from "../../lanes/BuiltFrame";
import { reachOf } from "../../lanes/Lanes";
import { shownCase } from "../../lanes/shown";
import classes from "./Catalogue.module.css";

interface Props {
  bench: Schema["Bench"];
  preview: string;
  theme: Schema["LookTheme"] | undefined;
}

/** Of a cell, px. */
const most = { width: 132, height: 84 };
const label = 20;

/** Every case running, small, in rows; one opens it on the bench. */
export function AllCases({ bench, preview, theme }: Props) {
  const cases = bench.cases.filter((c) => c.new.length === 0);
  if (cases.length === 0) return null;
  const reach = cases.map((c) => reachOf(c.boxes)); // what is laid over others sticks out
  const width = Math.max(24, ...cases.map((c) => c.width), ...reach.map((r) => r.width));
  const height = Math.max(16, ...cases.map((c) => c.height), ...reach.map((r) => r.height));
  const scale = Math.min(1, most.width / width, most.height / height);
  const cell = { width: Math.max(96, Math.ceil(width * scale)) + 16, height: Math.ceil(height * scale) + 16 + label };
  const columns = Math.max(1, Math.floor(600 / cell.width));
  const rows = Math.ceil(cases.length / columns);
  const at = (i: number) => ({ x: (i % columns) * cell.width, y: Math.floor(i / columns) * cell.height });
  return (
    <section aria-label="All cases">
      <h2>
        All cases{" "}
        <span className="quiet">
          {cases.length}
          {theme ? `, in ${theme.name}` : ""}
        </span>
      </h2>
      <div className={classes.cases} style={{ width: columns * cell.width, height: rows * cell.height }}>
        <div aria-hidden="true">
          <BuiltFrame
            src={`${preview}/${bench.slug}/${bench.build}/`}
            title="All cases, running"
            cases={cases.map((c, i) => shownCase(c, theme, (at(i).x + 8) / scale, (at(i).y + 8) / scale))}
            width={(columns * cell.width) / scale}
            height={(rows * cell.height) / scale}
            scale={scale}
          />
        </div>
        {cases.map((c, i) => (
          <Link
            key={c.key}
            to={`/bench/${bench.slug}?case=${encodeURIComponent(c.key)}`}
            className={classes.case}
            style={{ left: at(i).x, top: at(i).y, ...cell }}
            title={c.name}
          >
            <span>{c.name}</span>
          </Link>
        ))}
      </div>
    </section>
  );
}
