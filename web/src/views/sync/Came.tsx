import { useState } from "react";

import { type Schema, useMoveHistory } from "../../api/client";
import { Query } from "../../ui/States";
import { Value } from "../../ui/Value";
import classes from "./Sync.module.css";

/** How each side of a move came to say what it says, once it is asked for. */
export function Came({ slug, lane, move }: { slug: string; lane: "design" | "code"; move: string }) {
  const [open, setOpen] = useState(false);
  const history = useMoveHistory(slug, lane, move, open);
  return (
    <details className={classes.came} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>How it came</summary>
      {open && (
        <Query query={history} what="how it came">
          {(h) => (
            <>
              <Side title="Contract" list={h.contract} />
              <Side title="Design" list={h.design} />
              <Side title="Code" list={h.code} />
            </>
          )}
        </Query>
      )}
    </details>
  );
}

function Side({ title, list }: { title: string; list: Schema["Came"][] }) {
  if (list.length === 0) return null;
  return (
    <div>
      <strong>{title}</strong>
      <ol>
        {list.map((c) => (
          <li key={c.rev}>
            {c.said && <Value value={c.said} />}{" "}
            <span className="quiet">
              {c.rev}
              {c.by && `, ${c.by}`}, {new Date(c.at).toLocaleDateString()}
              {c.note && `: “${c.note}”`}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
