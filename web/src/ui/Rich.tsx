import type { ReactNode } from "react";

import type { Schema } from "../api/client";
import classes from "./Rich.module.css";

/** Rich text: blocks of runs, an item after another in one list. */
export function Rich({ blocks }: { blocks: Schema["Block"][] }) {
  const out: ReactNode[] = [];
  for (let i = 0; i < blocks.length; i++) {
    const b = blocks[i]!;
    if (b.kind === "item") {
      const items = [];
      while (blocks[i]?.kind === "item") items.push(<li key={i}>{runs(blocks[i++]!)}</li>);
      out.push(<ul key={`list ${i--}`}>{items}</ul>);
    } else if (b.kind === "heading") out.push(<h4 key={i}>{runs(b)}</h4>);
    else out.push(<p key={i}>{runs(b)}</p>);
  }
  return <div className={classes.rich}>{out}</div>;
}

function runs(block: Schema["Block"]): ReactNode {
  return block.runs.map((r, i) => {
    let out: ReactNode = r.text;
    if (r.code) out = <code>{out}</code>;
    if (r.emphasis) out = <em>{out}</em>;
    if (r.strong) out = <strong>{out}</strong>;
    if (r.link)
      out = (
        <a href={r.link} target="_blank" rel="noreferrer">
          {out}
        </a>
      );
    return <span key={i}>{out}</span>;
  });
}
