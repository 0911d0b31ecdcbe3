import { Button } from "@mantine/core";
import { type KeyboardEvent, useRef, useState } from "react";
import { Link } from "react-router";

import { api, type Schema, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Glyph } from "../../ui/Glyph";
import { Failure, Problems } from "../../ui/States";
import { Value } from "../../ui/Value";
import { say } from "../../ui/say";
import classes from "./Sync.module.css";

type Token = Schema["CodeToken"];
type Way = "take" | "back" | "clear";

const ways: { way: Exclude<Way, "clear">; label: string; key: string }[] = [
  { way: "take", label: "Take", key: "t" },
  { way: "back", label: "Put back", key: "b" },
];

/** What the repository's token files say otherwise than the project's, token by token. */
export function TokenCard({ tokens, hash }: { tokens: Schema["CodeTokens"]; hash: string }) {
  const [chosen, setChosen] = useState<Record<string, Way>>({});
  const table = useRef<HTMLTableElement>(null);
  const of = (way: Way) => Object.keys(chosen).filter((key) => chosen[key] === way);
  const write = useWrite(
    () => api.decideCodeTokens({ revision: tokens.revision, hash, take: of("take"), back: of("back"), clear: of("clear") }),
    () => {
      setChosen({});
      say("Token files", "Decided.");
    },
  );
  const choose = (t: Token, way: Exclude<Way, "clear">) => {
    if (t.side === "contract") return;
    setChosen((now) => {
      const next = { ...now };
      delete next[t.key];
      if (now[t.key] === way) return next;
      return { ...next, [t.key]: way === t.outcome ? "clear" : way };
    });
  };
  const keyed = (e: KeyboardEvent<HTMLTableRowElement>, t: Token) => {
    const rows = [...(table.current?.querySelectorAll<HTMLElement>("tr[data-move]") ?? [])];
    const i = rows.indexOf(e.currentTarget);
    const way = ways.find((w) => w.key === e.key)?.way;
    if (way) choose(t, way);
    else if (e.key === "ArrowDown") rows[i + 1]?.focus();
    else if (e.key === "ArrowUp") rows[i - 1]?.focus();
    else return;
    e.preventDefault();
  };
  const waiting = tokens.list.filter((t) => t.side !== "contract" && t.outcome === "");
  return (
    <section className={classes.component} id="code-tokens" aria-label="Token files">
      <header className={classes.head}>
        <h3>Token files</h3>
        <span className="quiet">{count(tokens.list.length, "difference")}, token by token</span>
        {waiting.length > 1 && (
          <span className={classes.tools}>
            <Button onClick={() => setChosen(Object.fromEntries(waiting.map((t) => [t.key, "back"])))}>Put all back</Button>
            <Button onClick={() => setChosen(Object.fromEntries(waiting.map((t) => [t.key, "take"])))}>Take all</Button>
          </span>
        )}
      </header>
      {tokens.list.length > 0 && (
        <table className={`grid ${classes.moves} ${classes.code}`} ref={table}>
          <thead>
            <tr>
              <th className={classes.glyph}>
                <span className="hidden-but-read">Verdict</span>
              </th>
              <th className={classes.what}>What</th>
              <th>Last in both</th>
              <th>Project</th>
              <th>Repository</th>
              <th className={classes.decide}>Decide</th>
            </tr>
          </thead>
          <tbody>
            {tokens.list.map((t, i) => (
              <tr key={t.key} data-move={t.key} tabIndex={i === 0 ? 0 : -1} onKeyDown={(e) => keyed(e, t)}>
                <td>
                  <Glyph verdict={t.side === "several" ? "several moved" : `${t.side} moved`} />
                </td>
                <td>
                  {t.path && t.kind === "token" && t.ours ? (
                    <Link to={`/tokens/${encodeURIComponent(t.path)}`}>{t.path}</Link>
                  ) : (
                    t.path || t.file
                  )}
                  {t.kind !== "token" && (
                    <span className="quiet">
                      {" "}
                      {t.kind}
                      {t.from && `, was ${t.from}`}
                    </span>
                  )}
                  {t.path && <span className={`mono quiet ${classes.where}`}>{t.file}</span>}
                </td>
                <td className="quiet">
                  <Said text={t.base} of={t} />
                </td>
                <td className={t.side === "code" ? undefined : classes.moved}>
                  <Said text={t.ours} of={t} />
                </td>
                <td className={t.side === "contract" ? undefined : classes.moved}>
                  <Said text={t.theirs} of={t} />
                </td>
                <td>
                  {t.side === "contract" ? (
                    <span className="quiet">{t.kind === "file removed" ? "stays in the repository" : "written with the next branch"}</span>
                  ) : (
                    <span className={classes.sides} role="group" aria-label={`Decide ${t.path || t.file}`}>
                      {ways.map((w) => (
                        <button
                          key={w.way}
                          type="button"
                          aria-pressed={chosen[t.key] === w.way || (!chosen[t.key] && t.outcome === w.way)}
                          onClick={() => choose(t, w.way)}
                        >
                          {w.label}
                        </button>
                      ))}
                    </span>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {tokens.unread.length > 0 && <Problems list={tokens.unread} />}
      {Object.keys(chosen).length > 0 && (
        <div className={classes.confirm}>
          <p className={classes.sum}>
            {[
              of("take").length > 0 && `${of("take").length} taken into the project`,
              of("back").length > 0 && `${of("back").length} put back by the next branch`,
              of("clear").length > 0 && `${of("clear").length} open again`,
            ]
              .filter(Boolean)
              .join(", ")}
            .
          </p>
          <div className={classes.finish}>
            <Button onClick={() => setChosen({})}>Clear decisions</Button>
            <Button variant="filled" loading={write.isPending} onClick={() => write.mutate(undefined)}>
              Confirm
            </Button>
          </div>
          {write.error && <Failure error={write.error} />}
        </div>
      )}
    </section>
  );
}

/** What one side says: a token's value, or of a file that it is there. */
function Said({ text, of }: { text: string; of: Token }) {
  if (text === "") return <span className="quiet">–</span>;
  return of.path === "" && of.kind !== "token" ? <span>{text}</span> : <Value value={text} />;
}
