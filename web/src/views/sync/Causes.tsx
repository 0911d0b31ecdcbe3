import { Button } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";

import { type Schema, useDrift } from "../../api/client";
import { useCommands } from "../../frame/commands";
import { count } from "../../ui/count";
import { Glyph } from "../../ui/Glyph";
import { Empty, Query } from "../../ui/States";
import { Value } from "../../ui/Value";
import { Press } from "./Press";
import classes from "./Sync.module.css";

type Cause = Schema["Cause"];
type Way = Schema["WayChosen"]["way"];

const labels: Record<Way, string> = {
  take: "Take",
  keep: "Keep",
  ask: "Ask designer",
  back: "Put back",
  leave: "Leave",
  merge: "Both",
  clear: "Open again",
};

/** What can be decided of a cause, by where it was seen and who moved. */
function waysOf(c: Cause): Way[] {
  if (c.lane === "code")
    return c.side === "contract" ? [] : c.moves.every((m) => m.takable) ? ["take", "back", "leave", "ask"] : ["back", "leave", "ask"];
  return c.side === "contract" ? ["ask", "keep", "take"] : ["take", "keep"];
}

const groups: { lane: Cause["lane"]; side: Cause["side"]; title: string }[] = [
  { lane: "design", side: "design", title: "The design moved" },
  { lane: "design", side: "contract", title: "The contract moved from the design" },
  { lane: "design", side: "several", title: "Design and contract moved, apart" },
  { lane: "code", side: "code", title: "The code moved" },
  { lane: "code", side: "several", title: "Code and contract moved, apart" },
  { lane: "code", side: "contract", title: "The contract moved, and is written with the next branch" },
];

/** What moved, by what explains it: a token that stands for another is one line, however many facts it moved. */
export function Causes() {
  const drift = useDrift();
  const [chosen, setChosen] = useState<Record<string, Way>>({});
  const choose = (list: Cause[], way: Way) =>
    setChosen((now) => {
      const next = { ...now };
      const off = list.length === 1 && now[list[0]!.key] === way;
      for (const c of list) {
        delete next[c.key];
        if (!off && waysOf(c).includes(way)) next[c.key] = way;
      }
      return next;
    });
  const open = (drift.data?.causes ?? []).filter((c) => c.open > 0);
  const designs = open.filter((c) => c.lane === "design" && c.side === "design");
  const codes = open.filter((c) => c.lane === "code" && c.side === "code");
  useCommands(
    open.length === 0
      ? []
      : [
          { label: "Take all that the designs moved", what: "By cause", run: () => choose(designs, "take") },
          { label: "Take all that the code moved", what: "By cause", run: () => choose(codes, "take") },
          { label: "Put back all that the code moved", what: "By cause", run: () => choose(codes, "back") },
        ],
  );
  return (
    <Query query={drift} what="what moved">
      {(d) => {
        const choices = d.causes.flatMap((c) => {
          const way = chosen[c.key];
          return way ? c.moves.map((m) => ({ component: m.component, lane: m.lane, key: m.key, way })) : [];
        });
        if (d.causes.length === 0)
          return (
            <Empty
              title="Nothing has moved"
              action={
                <Button component={Link} to="/sources" variant="filled">
                  To the sources
                </Button>
              }
            >
              Design, contracts and code say the same.
            </Empty>
          );
        return (
          <div className={classes.view}>
            {groups.map((g) => {
              const list = d.causes.filter((c) => c.lane === g.lane && c.side === g.side);
              if (list.length === 0) return null;
              const waiting = list.filter((c) => c.open > 0);
              const ways = (["take", "keep", "back"] as const).filter(
                (w) => waiting.length > 1 && waiting.every((c) => waysOf(c).includes(w)),
              );
              return (
                <section key={g.title} className={classes.component} aria-label={g.title}>
                  <header className={classes.head}>
                    <h2>{g.title}</h2>
                    <span className="quiet">
                      {count(
                        list.reduce((n, c) => n + c.moves.length, 0),
                        "move",
                      )}
                      , {count(list.length, "cause")}
                    </span>
                    <span className={classes.tools}>
                      {ways.map((w) => (
                        <Button key={w} onClick={() => choose(waiting, w)}>
                          {labels[w]} all
                        </Button>
                      ))}
                    </span>
                  </header>
                  <ul className={classes.causes}>
                    {list.map((c) => (
                      <CauseRow key={c.key} cause={c} chosen={chosen[c.key]} choose={(way) => choose([c], way)} />
                    ))}
                  </ul>
                </section>
              );
            })}
            {choices.length > 0 && (
              <div className={`${classes.confirm} ${classes.below}`} role="region" aria-label="Decide">
                <Press request={{ hash: d.hash, read: d.read, choices }} done={() => setChosen({})} again={() => setChosen({})} />
              </div>
            )}
          </div>
        );
      }}
    </Query>
  );
}

function CauseRow({ cause: c, chosen, choose }: { cause: Cause; chosen: Way | undefined; choose: (way: Way) => void }) {
  const one = c.moves[0]!;
  const bench = (m: Schema["Moved"]) => `/sync#${m.lane === "code" ? "code-" : ""}${m.component}`;
  return (
    <li className={c.open === 0 ? classes.kept : undefined}>
      <Glyph verdict={c.open === 0 ? "agree" : `${c.side} moved`} />
      <div className={classes.cause}>
        {c.moves.length === 1 ? (
          <>
            <span>
              <Link to={bench(one)}>{one.of}</Link> <span className="mono">{one.said}</span>
            </span>
          </>
        ) : (
          <details>
            <summary>
              {c.from && c.to ? (
                <>
                  <Value value={c.from} /> <span aria-hidden="true">→</span> <Value value={c.to} />
                  <span className="hidden-but-read">{c.said}</span>
                </>
              ) : (
                c.said
              )}{" "}
              <span className="quiet">
                explains {count(c.moves.length, "move")} of{" "}
                {c.components > 2 ? count(c.components, "component") : [...new Set(c.moves.map((m) => m.of))].join(" and ")}
              </span>
            </summary>
            <ul>
              {c.moves.map((m) => (
                <li key={`${m.component} ${m.key}`}>
                  <Link to={bench(m)}>{m.of}</Link> <span className="mono">{m.said}</span>
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
      <span className="quiet">{c.bump}</span>
      <span className={classes.sides} role="group" aria-label={`Decide ${c.said}`}>
        {waysOf(c).map((way) => (
          <button key={way} type="button" aria-pressed={chosen === way} onClick={() => choose(way)}>
            {labels[way]}
          </button>
        ))}
      </span>
    </li>
  );
}
