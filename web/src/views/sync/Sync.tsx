import { Button, Checkbox } from "@mantine/core";
import { type KeyboardEvent, useRef, useState } from "react";
import { Link } from "react-router";

import { ApiError, api, type Schema, useOutcome, useSync, useWrite } from "../../api/client";
import { Glyph } from "../../ui/Glyph";
import { Empty, Failure, Query } from "../../ui/States";
import { Value } from "../../ui/Value";
import { Changes } from "../bench/ReleaseDialog";
import { say } from "../../ui/say";
import classes from "./Sync.module.css";

/** What the designs moved since it was agreed, to be decided. */
export function Sync() {
  const sync = useSync();
  return (
    <Query query={sync} what="what moved">
      {(list) =>
        list.length === 0 ? (
          <Empty
            title="Nothing has moved"
            action={
              <Button component={Link} to="/sources" variant="filled">
                To the sources
              </Button>
            }
          >
            Every contract says what the newest design says. Fetch the design host to see whether it moved.
          </Empty>
        ) : (
          <div className={classes.view}>
            <h1>Sync</h1>
            {list.map((c) => (
              <Component key={`${c.slug} ${c.revision} ${c.design}`} component={c} />
            ))}
          </div>
        )
      }
    </Query>
  );
}

type Side = "take" | "keep";

function Component({ component: c }: { component: Schema["SyncComponent"] }) {
  const [sides, setSides] = useState<Record<string, Side>>({});
  const [release, setRelease] = useState(true);
  const table = useRef<HTMLTableElement>(null);
  const decide = (key: string, side: Side | undefined) =>
    setSides((now) => {
      const next = { ...now };
      delete next[key];
      return side ? { ...next, [key]: side } : next;
    });
  const all = (side: Side) => setSides(Object.fromEntries(c.moves.filter((m) => !m.kept).map((m) => [m.key, side])));
  const keyed = (e: KeyboardEvent<HTMLTableRowElement>, key: string) => {
    const rows = [...(table.current?.querySelectorAll<HTMLElement>("tr[data-move]") ?? [])];
    const i = rows.indexOf(e.currentTarget);
    if (e.key === "t" || e.key === "k") decide(key, e.key === "t" ? "take" : "keep");
    else if (e.key === "ArrowDown") rows[i + 1]?.focus();
    else if (e.key === "ArrowUp") rows[i - 1]?.focus();
    else return;
    e.preventDefault();
  };
  const decision: Schema["Decision"] = {
    revision: c.revision,
    design: c.design,
    take: Object.keys(sides).filter((k) => sides[k] === "take"),
    keep: Object.keys(sides).filter((k) => sides[k] === "keep"),
    release: release && c.version !== "",
  };
  const decided = decision.take.length + decision.keep.length;
  return (
    <section className={classes.component} id={c.slug} aria-label={c.name}>
      <header className={classes.head}>
        <h2>
          <Link to={`/bench/${c.slug}`}>{c.name}</Link>
        </h2>
        <span className="quiet">
          {c.version || "draft"} · design revision {c.agreed} → {c.design}
          {c.note && `: “${c.note}”`}
        </span>
        {c.waiting > 0 && (
          <span className={classes.tools}>
            <Button onClick={() => all("keep")}>Keep all</Button>
            <Button onClick={() => all("take")}>Take all from the design</Button>
          </span>
        )}
      </header>
      {c.gone ? (
        <p className={classes.gone}>The newest revision does not hold this family. The contract stays as it is.</p>
      ) : (
        <table className={`grid ${classes.moves}`} ref={table}>
          <thead>
            <tr>
              <th className={classes.glyph}>
                <span className="hidden-but-read">Verdict</span>
              </th>
              <th>What</th>
              <th>Contract</th>
              <th>Design</th>
              <th>Cases</th>
              <th>Bump</th>
              <th>Decide</th>
            </tr>
          </thead>
          <tbody>
            {c.moves.map((m, i) => (
              <tr key={m.key} data-move={m.key} tabIndex={i === 0 ? 0 : -1} onKeyDown={(e) => keyed(e, m.key)} className={m.kept ? classes.kept : undefined}>
                <td>
                  <Glyph verdict={m.kept ? "agree" : "design moved"} />
                </td>
                <td>
                  <What move={m} />
                </td>
                <td>{m.from.value || m.from.expression ? <Value {...m.from} /> : <span className="quiet">–</span>}</td>
                <td className={m.kept ? undefined : classes.moved}>{m.to.value || m.to.expression ? <Value {...m.to} /> : <span className="quiet">gone</span>}</td>
                <td>{m.cases}</td>
                <td className="quiet">{m.bump}</td>
                <td>
                  <span className={classes.sides} role="group" aria-label={`Decide ${m.part ?? ""} ${m.property}`}>
                    {(["take", "keep"] as const).map((side) => (
                      <button
                        key={side}
                        type="button"
                        aria-pressed={sides[m.key] === side || (m.kept === true && side === "keep" && !sides[m.key])}
                        onClick={() => decide(m.key, sides[m.key] === side ? undefined : side)}
                      >
                        {side === "take" ? "Take design" : m.kept && !sides[m.key] ? "Kept" : "Keep"}
                      </button>
                    ))}
                  </span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {decided > 0 && <Confirm component={c} decision={decision} release={release} setRelease={setRelease} again={() => setSides({})} />}
    </section>
  );
}

function What({ move: m }: { move: Schema["Move"] }) {
  return (
    <span className="mono">
      {[m.part, m.property, m.when].filter(Boolean).join(" · ")}
      {m.kind !== "value" && <span className="quiet"> {m.kind}</span>}
    </span>
  );
}

/** What the decisions do, before they are done. */
function Confirm(props: {
  component: Schema["SyncComponent"];
  decision: Schema["Decision"];
  release: boolean;
  setRelease: (on: boolean) => void;
  again: () => void;
}) {
  const { component: c, decision, release, setRelease, again } = props;
  const outcome = useOutcome(c.slug, decision);
  const write = useWrite(
    () => api.decide(c.slug, decision),
    (done) => say(c.name, done.released ? `Decided, and released as ${done.version}.` : "Decided."),
  );
  const stale = write.error instanceof ApiError && write.error.trouble.status === 409 ? (write.error.trouble.current) : undefined;
  return (
    <div className={classes.confirm}>
      <Query query={outcome} what="what it would do">
        {(o) => (
          <>
            <div>
              <p className={classes.sum}>
                {decision.take.length} taken, {decision.keep.length} kept: {o.cases} {o.cases === 1 ? "case looks" : "cases look"} different, {o.uses}{" "}
                {o.uses === 1 ? "use" : "uses"} on the design’s pages, {o.waiting} left to decide.
              </p>
              {o.changes.length > 0 && <Changes list={o.changes} />}
            </div>
            <div className={classes.finish}>
              {o.from !== "" && o.level !== "none" && (
                <Checkbox
                  size="xs"
                  checked={release}
                  onChange={(e) => setRelease(e.currentTarget.checked)}
                  label={
                    <>
                      Release <code>{o.version}</code> ({o.level}, from <code>{o.from}</code>)
                    </>
                  }
                />
              )}
              <Button onClick={again}>Undecide</Button>
              <Button variant="filled" loading={write.isPending} onClick={() => write.mutate(undefined)}>
                Confirm
              </Button>
            </div>
          </>
        )}
      </Query>
      {write.error && (
        <Failure error={write.error}>
          {stale && (
            <div>
              <p className={classes.sum}>
                Now at revision {stale.revision} ({stale.note}). Your decisions would change it so:
              </p>
              <Changes list={stale.changes} />
            </div>
          )}
        </Failure>
      )}
    </div>
  );
}
