import { Button, TextInput } from "@mantine/core";
import { type KeyboardEvent, useRef, useState } from "react";
import { Link } from "react-router";

import { api, type Schema, useCodeOutcome, useWrite } from "../../api/client";
import { Changes } from "../../ui/Changes";
import { count } from "../../ui/count";
import { Glyph } from "../../ui/Glyph";
import { Failure } from "../../ui/States";
import { say } from "../../ui/say";
import { Value } from "../../ui/Value";
import { CodePictures } from "./CodePictures";
import { Came } from "./Came";
import { Touches } from "./Touches";
import classes from "./Sync.module.css";

type Way = "take" | "back" | "leave" | "ask" | "merge" | "clear";

/** What can be decided of a move: its key, what the service calls it once it stands, and how it is counted. */
const ways: { way: Exclude<Way, "clear">; label: string; key: string; outcome: string; counted: string }[] = [
  { way: "take", label: "Take code", key: "t", outcome: "", counted: "taken into the contract" },
  { way: "back", label: "Put back", key: "b", outcome: "back", counted: "put back by the next branch" },
  { way: "leave", label: "Leave", key: "l", outcome: "left", counted: "left as they are" },
  { way: "ask", label: "Ask designer", key: "d", outcome: "asked", counted: "asked about" },
  { way: "merge", label: "Both", key: "m", outcome: "", counted: "merged" },
];

const verdicts: Record<Schema["CodeMove"]["side"], string> = { code: "code moved", contract: "contract moved", several: "several moved" };

/** What the code of one component says otherwise than its contract, to be decided. */
export function CodeCard({ component: c, hash, few }: { component: Schema["CodeComponent"]; hash: string; few: boolean }) {
  const [chosen, setChosen] = useState<Record<string, Way>>({});
  const [reason, setReason] = useState("");
  const table = useRef<HTMLTableElement>(null);
  // What is chosen stays while other decisions are read again; what moved no more falls out.
  const of = (way: Way) => Object.keys(chosen).filter((key) => chosen[key] === way && c.moves.some((m) => m.key === key));
  const write = useWrite(
    () =>
      api.decideCode(c.slug, {
        revision: c.revision,
        hash,
        take: of("take"),
        back: of("back"),
        leave: of("leave"),
        ask: of("ask"),
        merge: of("merge"),
        clear: of("clear"),
        reason,
      }),
    () => {
      setChosen({});
      say(c.name, "Decided.");
    },
  );
  const choose = (m: Schema["CodeMove"], way: Way) => {
    if (m.side === "contract" || (way === "take" && !m.takable) || (way === "merge" && !m.merged)) return;
    setChosen((now) => {
      const stands = ways.find((w) => w.outcome !== "" && w.outcome === m.outcome)?.way;
      const to = now[m.key] === way ? undefined : way === stands ? (now[m.key] ? undefined : "clear") : way;
      const next = { ...now };
      delete next[m.key];
      return to ? { ...next, [m.key]: to } : next;
    });
  };
  const keyed = (e: KeyboardEvent<HTMLTableRowElement>, m: Schema["CodeMove"]) => {
    if (e.target instanceof HTMLInputElement) return;
    const rows = [...(table.current?.querySelectorAll<HTMLElement>("tr[data-move]") ?? [])];
    const i = rows.indexOf(e.currentTarget);
    const way = ways.find((w) => w.key === e.key)?.way;
    if (way) choose(m, way);
    else if (e.key === "ArrowDown") rows[i + 1]?.focus();
    else if (e.key === "ArrowUp") rows[i - 1]?.focus();
    else return;
    e.preventDefault();
  };
  const decided = [...ways.map((w) => w.way), "clear" as const].reduce((n, way) => n + of(way).length, 0);
  const changing = of("take").length + of("merge").length > 0;
  const outcome = useCodeOutcome(c.slug, { revision: c.revision, hash, take: of("take"), merge: of("merge") }, changing);
  return (
    <section className={classes.component} id={`code-${c.slug}`} aria-label={`${c.name}, code`}>
      <header className={classes.head}>
        <h3>
          <Link to={`/bench/${c.slug}`}>{c.name}</Link>
        </h3>
        {c.file && <span className="mono quiet">{c.file}</span>}
        {c.by && (
          <span className="quiet">
            {c.by.author}, {new Date(c.by.at).toLocaleString()}: “{c.by.message}”
          </span>
        )}
      </header>
      {c.state === "missing" && <p className={classes.gone}>There is no code of it yet. The next branch writes it.</p>}
      {c.state === "not read" && (
        <p className={classes.gone}>Its code could not be read: it is no function that gives JSX back. Nothing is said of it.</p>
      )}
      {c.moves.length > 0 && (
        <>
          <table className={`grid ${classes.moves} ${classes.code}`} ref={table}>
            <thead>
              <tr>
                <th className={classes.glyph}>
                  <span className="hidden-but-read">Verdict</span>
                </th>
                <th className={classes.what}>What</th>
                <th>Written last</th>
                <th>Contract</th>
                <th>Code</th>
                <th className={classes.bump}>Bump</th>
                <th className={classes.decide}>Decide</th>
              </tr>
            </thead>
            <tbody>
              {c.moves.map((m, i) => (
                <tr key={m.key} data-move={m.key} tabIndex={i === 0 ? 0 : -1} onKeyDown={(e) => keyed(e, m)}>
                  <td>
                    <Glyph verdict={verdicts[m.side]} />
                  </td>
                  <td>
                    <What move={m} />
                    {m.merged && (
                      <span className={classes.where}>
                        <span className="quiet">both</span> <Value value={m.merged} />
                      </span>
                    )}
                    {m.side === "several" && <Came slug={c.slug} lane="code" move={m.key} />}
                  </td>
                  <td className="quiet">
                    <Said text={m.base} />
                  </td>
                  <td className={m.side === "code" ? undefined : classes.moved}>
                    <Said text={m.contract} />
                  </td>
                  <td className={m.side === "contract" ? undefined : classes.moved}>
                    <Said text={m.code} />
                  </td>
                  <td className="quiet">{m.bump}</td>
                  <td>
                    <Decide move={m} chosen={chosen[m.key]} choose={(way) => choose(m, way)} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <CodePictures slug={c.slug} hash={hash} open={few} />
        </>
      )}
      {c.unread.length > 0 && (
        <details className={classes.unread}>
          <summary>{count(c.unread.length, "piece of the code was", "pieces of the code were")} not read</summary>
          <ul>
            {c.unread.map((p) => (
              <li key={`${p.line} ${p.column} ${p.message}`}>
                <span className="mono quiet">
                  {p.file}:{p.line}
                </span>{" "}
                {p.message}
              </li>
            ))}
          </ul>
        </details>
      )}
      {decided > 0 && (
        <div className={classes.confirm}>
          <div>
            <p className={classes.sum}>
              {[...ways, { way: "clear", counted: "open again" } as const]
                .filter((w) => of(w.way).length > 0)
                .map((w) => `${of(w.way).length} ${w.counted}`)
                .join(", ")}
              .
            </p>
            {changing && outcome.data && (
              <>
                <Touches outcome={outcome.data} />
                <Changes list={outcome.data.changes} />
              </>
            )}
            {changing && outcome.error && <Failure error={outcome.error} />}
          </div>
          <div className={classes.finish}>
            {of("leave").length > 0 && (
              <TextInput
                size="xs"
                label="Why the code may differ"
                value={reason}
                onChange={(e) => setReason(e.currentTarget.value)}
                maxLength={1000}
                required
              />
            )}
            <Button onClick={() => setChosen({})}>Clear decisions</Button>
            <Button
              variant="filled"
              loading={write.isPending}
              disabled={(of("leave").length > 0 && reason.trim() === "") || (changing && !outcome.data)}
              onClick={() => write.mutate(undefined)}
            >
              Confirm
            </Button>
          </div>
          {write.error && <Failure error={write.error} />}
        </div>
      )}
    </section>
  );
}

function What({ move: m }: { move: Schema["CodeMove"] }) {
  return (
    <span>
      {m.kind === "value" ? <span className="mono">{[m.name, m.about.property, m.when].filter(Boolean).join(" · ")}</span> : m.said}
      {m.at && (
        <span className={`mono quiet ${classes.where}`}>
          {m.at.file.split("/").pop()}:{m.at.line}
        </span>
      )}
      {m.unsure && <span className={`quiet ${classes.where}`}>{m.unsure}</span>}
    </span>
  );
}

function Said({ text }: { text: string }) {
  return text === "" ? <span className="quiet">–</span> : <Value value={text} />;
}

function Decide({ move: m, chosen, choose }: { move: Schema["CodeMove"]; chosen: Way | undefined; choose: (way: Way) => void }) {
  if (m.side === "contract") return <span className="quiet">written with the next branch</span>;
  return (
    <span className={classes.sides} role="group" aria-label={`Decide ${m.name} ${m.about.property}`}>
      {ways
        .filter((w) => w.way !== "merge" || m.merged)
        .map((w) => {
          const standing = !chosen && w.outcome !== "" && m.outcome === w.outcome;
          return (
            <button
              key={w.way}
              type="button"
              aria-pressed={chosen === w.way || standing}
              disabled={w.way === "take" && !m.takable}
              title={standing && m.reason ? `${m.by}: ${m.reason}` : undefined}
              data-due={!chosen && m.due === w.way ? "" : undefined}
              onClick={() => choose(w.way)}
            >
              {w.label}
            </button>
          );
        })}
    </span>
  );
}
