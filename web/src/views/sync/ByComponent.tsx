import { Button, Checkbox, TextInput } from "@mantine/core";
import { Fragment, type KeyboardEvent, useRef, useState } from "react";
import { Link } from "react-router";

import { ApiError, api, type Schema, useCode, useOutcome, useSync, useWrite } from "../../api/client";
import { useCommands } from "../../frame/commands";
import { count } from "../../ui/count";
import { Glyph } from "../../ui/Glyph";
import { Empty, Failure, Query } from "../../ui/States";
import { Value } from "../../ui/Value";
import { Changes } from "../../ui/Changes";
import { say } from "../../ui/say";
import { Branch } from "./Branch";
import { CodeCard } from "./Code";
import { Came } from "./Came";
import { MovedSheet } from "./MovedSheet";
import { TokenCard } from "./TokenCard";
import { Unknown } from "./Unknown";
import { Touches } from "./Touches";
import classes from "./Sync.module.css";

/** What moved since it was agreed, component by component, to be decided. */
export function ByComponent() {
  const sync = useSync();
  const code = useCode();
  const moved =
    code.data &&
    (code.data.components.length > 0 ||
      code.data.shared > 0 ||
      code.data.tokens.list.length > 0 ||
      code.data.tokens.unread.length > 0 ||
      code.data.unknown.length > 0)
      ? code.data
      : undefined;
  return (
    <Query query={sync} what="what moved">
      {(list) =>
        list.length === 0 && !moved && !code.error ? (
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
            {list.map((c) => (
              <Component key={`${c.slug} ${c.revision} ${c.design}`} component={c} few={list.length <= 6} />
            ))}
            {code.error && <Failure error={code.error} />}
            {moved && (
              <>
                <h2 className={classes.lane}>
                  The code <span className="quiet">at {moved.hash.slice(0, 7)}</span>
                </h2>
                {moved.tokens.list.length + moved.tokens.unread.length > 0 && <TokenCard tokens={moved.tokens} hash={moved.hash} />}
                {moved.components.map((c) => (
                  <CodeCard key={`${c.slug} ${moved.hash}`} component={c} hash={moved.hash} few={moved.components.length <= 6} />
                ))}
                {moved.unknown.length > 0 && <Unknown list={moved.unknown} hash={moved.hash} />}
                {(moved.shared > 0 ||
                  moved.components.some((c) => c.toWrite > 0) ||
                  moved.tokens.list.some((t) => t.side === "contract" || t.outcome === "back")) && <Branch hash={moved.hash} />}
              </>
            )}
          </div>
        )
      }
    </Query>
  );
}

type Side = "take" | "keep" | "ask" | "merge";

/** Whose move it is, in words, and what can be decided of it. */
const origins: Record<Schema["Move"]["side"], { title: string; sides: Side[] }> = {
  design: { title: "The design moved", sides: ["take", "keep"] },
  contract: { title: "The contract moved", sides: ["ask", "keep", "take"] },
  several: { title: "Both moved, apart", sides: ["take", "keep"] },
};

const labels: Record<Side, string> = { take: "Take design", keep: "Keep", ask: "Ask designer", merge: "Both" };

const sidesOf = (m: Schema["Move"]): Side[] => (m.merged ? [...origins[m.side].sides, "merge"] : origins[m.side].sides);

function Component({ component: c, few }: { component: Schema["SyncComponent"]; few: boolean }) {
  const [sides, setSides] = useState<Record<string, Side>>({});
  const [release, setRelease] = useState(true);
  const table = useRef<HTMLTableElement>(null);
  const decide = (key: string, side: Side | undefined) =>
    setSides((now) => {
      const next = { ...now };
      delete next[key];
      return side ? { ...next, [key]: side } : next;
    });
  const designs = c.moves.filter((m) => m.side === "design" && !m.kept);
  const all = (side: Side) => setSides((now) => ({ ...now, ...Object.fromEntries(designs.map((m) => [m.key, side])) }));
  const moves = (["design", "contract", "several"] as const).flatMap((side) => c.moves.filter((m) => m.side === side));
  const [pointed, setPointed] = useState<string>();
  const [reason, setReason] = useState("");
  const keyed = (e: KeyboardEvent<HTMLTableRowElement>, key: string) => {
    const rows = [...(table.current?.querySelectorAll<HTMLElement>("tr[data-move]") ?? [])];
    const i = rows.indexOf(e.currentTarget);
    if (e.target instanceof HTMLInputElement) return;
    const side = ({ t: "take", k: "keep", d: "ask", m: "merge" } as const)[e.key];
    const move = c.moves.find((m) => m.key === key);
    if (side && move && sidesOf(move).includes(side)) decide(key, side);
    else if (e.key === "ArrowDown") rows[i + 1]?.focus();
    else if (e.key === "ArrowUp") rows[i - 1]?.focus();
    else return;
    e.preventDefault();
  };
  useCommands(
    designs.length === 0
      ? []
      : [
          { label: "Take all from the design", what: `For ${c.name}`, run: () => all("take") },
          { label: "Keep all", what: `For ${c.name}`, run: () => all("keep") },
        ],
  );
  const decision: Schema["Decision"] = {
    revision: c.revision,
    design: c.design,
    take: Object.keys(sides).filter((k) => sides[k] === "take"),
    keep: Object.keys(sides).filter((k) => sides[k] === "keep"),
    ask: Object.keys(sides).filter((k) => sides[k] === "ask"),
    merge: Object.keys(sides).filter((k) => sides[k] === "merge"),
    release: release && c.version !== "",
  };
  const decided = Object.keys(sides).length;
  const exception = c.moves.some((m) => m.side !== "design" && sides[m.key] === "keep");
  return (
    <section className={classes.component} id={c.slug} aria-label={c.name}>
      <header className={classes.head}>
        <h2>
          <Link to={`/bench/${c.slug}`}>{c.name}</Link>
        </h2>
        <span className="quiet">
          {c.version || "draft"} · design revision {c.agreed} → {c.design}
          {c.by && `, ${c.by}`}
          {c.at && `, ${new Date(c.at).toLocaleDateString()}`}
          {c.note && `: “${c.note}”`}
        </span>
        {designs.length > 0 && (
          <span className={classes.tools}>
            <Button onClick={() => all("keep")}>Keep all</Button>
            <Button onClick={() => all("take")}>Take all from the design</Button>
          </span>
        )}
      </header>
      {c.gone ? (
        <p className={classes.gone}>The newest revision does not hold this family. The contract stays as it is.</p>
      ) : (
        <>
          {c.breaks.length > 0 && <Breaks list={c.breaks} />}
          <div className={classes.body}>
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
                {moves.map((m, i) => (
                  <Fragment key={m.key}>
                    {moves[i - 1]?.side !== m.side && (
                      <tr className={classes.origin}>
                        <th colSpan={7} scope="colgroup">
                          {origins[m.side].title}
                        </th>
                      </tr>
                    )}
                    <tr
                      data-move={m.key}
                      tabIndex={i === 0 ? 0 : -1}
                      onKeyDown={(e) => keyed(e, m.key)}
                      onFocus={() => setPointed(m.key)}
                      onPointerEnter={() => setPointed(m.key)}
                      className={m.kept ? classes.kept : undefined}
                    >
                      <td>
                        <Glyph verdict={m.kept ? "agree" : `${m.side} moved`} />
                      </td>
                      <td>
                        <What move={m} />
                        {m.side === "several" && (
                          <>
                            {m.base && (
                              <span className={classes.where}>
                                <span className="quiet">agreed</span> <Value {...m.base} />
                              </span>
                            )}
                            {m.merged && (
                              <span className={classes.where}>
                                <span className="quiet">both</span> <Value value={m.merged} />
                              </span>
                            )}
                            <Came slug={c.slug} lane="design" move={m.key} />
                          </>
                        )}
                      </td>
                      <td className={m.kept || m.side === "design" ? undefined : classes.moved}>
                        {m.from.value || m.from.expression ? <Value {...m.from} /> : <span className="quiet">–</span>}
                      </td>
                      <td className={m.kept || m.side === "contract" ? undefined : classes.moved}>
                        {m.to.value || m.to.expression ? <Value {...m.to} /> : <span className="quiet">gone</span>}
                      </td>
                      <td>{m.cases}</td>
                      <td className="quiet">{m.bump}</td>
                      <td>
                        <span className={classes.sides} role="group" aria-label={`Decide ${m.name ?? ""} ${m.property}`}>
                          {sidesOf(m).map((side) => (
                            <button
                              key={side}
                              type="button"
                              aria-pressed={sides[m.key] === side || (!sides[m.key] && side === standing(m))}
                              data-due={!sides[m.key] && c.due[m.key] === side ? "" : undefined}
                              onClick={() => decide(m.key, sides[m.key] === side ? undefined : side)}
                            >
                              {!sides[m.key] && side === standing(m) ? (side === "ask" ? "Asked" : "Kept") : labels[side]}
                            </button>
                          ))}
                        </span>
                      </td>
                    </tr>
                  </Fragment>
                ))}
              </tbody>
            </table>
            <MovedSheet component={c} move={moves.find((m) => m.key === pointed) ?? moves.find((m) => !m.kept) ?? moves[0]} few={few} />
          </div>
        </>
      )}
      {decided > 0 && (
        <Confirm
          component={c}
          decision={decision}
          exception={exception}
          reason={reason}
          setReason={setReason}
          release={release}
          setRelease={setRelease}
          again={() => setSides({})}
        />
      )}
    </section>
  );
}

/** What would break if all were taken that the design moved. */
function Breaks({ list }: { list: Schema["Break"][] }) {
  const [all, setAll] = useState(false);
  const shown = all ? list : list.slice(0, 3);
  return (
    <div className={classes.breaks} role="note" aria-label="What would break">
      <strong>Taken whole, this breaks:</strong>
      <ul>
        {shown.map((b) => (
          <li key={b.what}>
            {b.what} {b.uses.length > 0 && <span className="quiet">Used so: {b.uses.join(", ")}.</span>}
          </li>
        ))}
      </ul>
      {list.length > shown.length && (
        <button type="button" onClick={() => setAll(true)}>
          {list.length - shown.length} more
        </button>
      )}
    </div>
  );
}

/** What was decided before and still holds. */
function standing(m: Schema["Move"]): Side | undefined {
  return m.kept ? "keep" : m.asked ? "ask" : undefined;
}

function What({ move: m }: { move: Schema["Move"] }) {
  return (
    <span className="mono">
      {[m.name, m.property, m.when].filter(Boolean).join(" · ")}
      {m.kind !== "value" && <span className="quiet"> {m.kind}</span>}
    </span>
  );
}

/** What the decisions do, before they are done. */
function Confirm(props: {
  component: Schema["SyncComponent"];
  decision: Schema["Decision"];
  /** A move of the contract's own is kept: it wants a reason. */
  exception: boolean;
  reason: string;
  setReason: (reason: string) => void;
  release: boolean;
  setRelease: (on: boolean) => void;
  again: () => void;
}) {
  const { component: c, decision, exception, reason, setReason, release, setRelease, again } = props;
  const outcome = useOutcome(c.slug, decision);
  const write = useWrite(
    () => api.decide(c.slug, { ...decision, reason, release: decision.release && !outcome.data?.blocked }),
    (done) => say(c.name, done.released ? `Decided, and released as ${done.version}.` : "Decided."),
  );
  const stale = write.error instanceof ApiError && write.error.trouble.status === 409 ? write.error.trouble.current : undefined;
  return (
    <div className={classes.confirm}>
      <Query query={outcome} what="what it would do">
        {(o) => (
          <>
            <div>
              <p className={classes.sum}>
                {decision.take.length} taken, {decision.keep.length} kept, {decision.ask?.length ?? 0} asked
                {decision.merge && decision.merge.length > 0 && `, ${decision.merge.length} merged`}:{" "}
                {count(o.cases, "case looks", "cases look")} different, {o.waiting} left to decide.
              </p>
              <Touches outcome={o} />
              {o.changes.length > 0 && <Changes list={o.changes} />}
            </div>
            <div className={classes.finish}>
              {decision.keep.length > 0 && (
                <TextInput
                  size="xs"
                  label="Why the contract is to differ from the design"
                  value={reason}
                  onChange={(e) => setReason(e.currentTarget.value)}
                  maxLength={1000}
                  required={exception}
                />
              )}
              {o.from !== "" && o.level !== "none" && (
                <Checkbox
                  size="xs"
                  checked={release && o.blocked === ""}
                  disabled={o.blocked !== ""}
                  description={o.blocked && `Not with it: ${o.blocked}`}
                  onChange={(e) => setRelease(e.currentTarget.checked)}
                  label={
                    <>
                      Release <code>{o.version}</code> ({o.level}, from <code>{o.from}</code>)
                    </>
                  }
                />
              )}
              <Button onClick={again}>Clear decisions</Button>
              <Button
                variant="filled"
                loading={write.isPending}
                disabled={exception && reason.trim() === ""}
                onClick={() => write.mutate(undefined)}
              >
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
