import { Anchor, Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";

import { api, operations, type Schema, useDecisions, useWrite } from "../../api/client";
import { Failure, Query } from "../../ui/States";
import { say } from "../../ui/say";
import classes from "./Sync.module.css";

type Ruling = Schema["Ruling"];

const ways: Record<Schema["Decided"]["way"], string> = {
  take: "taken",
  keep: "kept",
  ask: "asked",
  back: "put back",
  leave: "left",
  merge: "merged",
  clear: "open again",
};

/** What was decided, by whom and why; the last of each component can be undone. */
export function Decided() {
  const [words, setWords] = useState("");
  const list = useDecisions(words);
  return (
    <div className={classes.view}>
      <div className={classes.search}>
        <TextInput
          size="xs"
          aria-label="Find in what was decided"
          placeholder="Component, value, person, reason or version"
          value={words}
          onChange={(e) => setWords(e.currentTarget.value)}
        />
        <span className="quiet">Changelog</span>
        <Anchor href={`${operations}/decisions/changelog?for=designers`} download>
          for designers
        </Anchor>
        <Anchor href={`${operations}/decisions/changelog?for=developers`} download>
          for developers
        </Anchor>
      </div>
      <Query query={list} what="what was decided">
        {(shown) =>
          shown.length === 0 ? (
            <p className="quiet">{words ? "Nothing that was decided has all of these words." : "Nothing was decided yet."}</p>
          ) : (
            days(shown).map(([day, rulings]) => (
              <section key={day} className={classes.component} aria-label={day}>
                <header className={classes.head}>
                  <h2>{day}</h2>
                </header>
                <ul className={classes.rulings}>
                  {rulings.map((r) => (
                    <RulingRow key={r.id} ruling={r} />
                  ))}
                </ul>
              </section>
            ))
          )
        }
      </Query>
    </div>
  );
}

/** By the day they were made on, in the order they come in. */
function days(list: Ruling[]): [string, Ruling[]][] {
  const out = new Map<string, Ruling[]>();
  for (const r of list) {
    const day = new Date(r.when).toLocaleDateString(undefined, { year: "numeric", month: "long", day: "numeric" });
    out.set(day, [...(out.get(day) ?? []), r]);
  }
  return [...out];
}

function RulingRow({ ruling: r }: { ruling: Ruling }) {
  const back = useWrite(
    () => api.takeBack(r.id),
    () => say(r.of, "Undone: it waits again."),
  );
  return (
    <li className={r.undone ? classes.undone : undefined}>
      <div className={classes.ruled}>
        <strong>
          <Link to={`/bench/${r.component}`}>{r.of}</Link>
        </strong>{" "}
        <span className="quiet">
          {r.at} · {r.by}, {new Date(r.when).toLocaleTimeString(undefined, { hour: "2-digit", minute: "2-digit" })}
          {r.version && ` · released as ${r.version}`}
          {r.undone && " · undone"}
        </span>
        {r.reason && <p className={classes.reason}>“{r.reason}”</p>}
        <ul>
          {r.decided.map((d) => (
            <li key={`${d.way} ${d.key}`}>
              <span className={classes.way}>{ways[d.way]}</span> <span className="mono">{d.said}</span>
              {d.foregone && <span className="quiet"> by who wins</span>}
            </li>
          ))}
        </ul>
        {back.error && <Failure error={back.error} />}
      </div>
      {r.undoable && (
        <Button loading={back.isPending} onClick={() => back.mutate(undefined)}>
          Undo
        </Button>
      )}
    </li>
  );
}
