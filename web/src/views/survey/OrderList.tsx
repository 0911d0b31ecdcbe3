import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";

import { api, type Schema, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Failure } from "../../ui/States";
import classes from "./Survey.module.css";
import type { ListProps } from "./Words";

/** What to build, each after those it is made of. */
export function OrderList({ survey: s, lit, onLit, onPick }: Pick<ListProps, "survey" | "lit" | "onLit" | "onPick">) {
  const [name, setName] = useState("");
  const draft = useWrite((level: number) => api.draftLevel(s.document, level));
  const plan = useWrite(({ name, wanted }: { name: string; wanted: boolean }) => api.plan(name, wanted));
  const names = new Map(s.order.map((p) => [p.id, p.name]));
  const parts = s.order.filter((p) => p.kind !== "page");
  const pages = s.order.filter((p) => p.kind === "page");
  const levels = [...new Set(parts.map((p) => p.level))].sort((a, b) => a - b);
  const done = parts.filter((p) => p.component).length;
  const row = (p: Schema["SurveyPiece"]) => (
    <li key={p.id} data-lit={p.id === lit || undefined} onPointerEnter={() => onLit(p.id)} onPointerLeave={() => onLit(undefined)}>
      <div className={classes.piece}>
        <span className={classes.state} data-state={p.state}>
          {p.component ? "✓" : p.state === "ready" ? "○" : "·"}
        </span>
        <span className={classes.what}>
          {p.component ? (
            <Link to={`/bench/${p.component}`}>{p.name}</Link>
          ) : p.kind === "find" || p.kind === "family" ? (
            <button type="button" className={classes.plain} onClick={() => onPick(p.id, s.finds.find((f) => f.id === p.id)?.onPages ?? [])}>
              {p.name}
            </button>
          ) : (
            p.name
          )}{" "}
          <span className="quiet">{p.state === "ready" ? "can be built" : p.state}</span>
        </span>
        <span className="quiet">
          {p.kind === "planned" ? (
            <button type="button" className={classes.plain} onClick={() => plan.mutate({ name: p.name, wanted: false })}>
              take off
            </button>
          ) : (
            p.kind
          )}
        </span>
        {p.of.length > 0 && <span className={classes.more}>made of {p.of.map((id) => names.get(id)).join(", ")}</span>}
      </div>
    </li>
  );
  return (
    <>
      <p className={classes.nothing}>
        {done} of {count(parts.length, "component")} {done === 1 ? "is" : "are"} there.
      </p>
      {s.cycles.map((c) => (
        <p key={c.join()} className={classes.cycle} role="alert">
          {c.map((id) => names.get(id)).join(", ")} are made of each other: draw one of them without the others.
        </p>
      ))}
      {draft.error && <Failure error={draft.error} />}
      {levels.map((level) => {
        const ready = parts.filter((p) => p.level === level && p.draftable);
        return (
          <section key={level} className={classes.rule} aria-label={`Level ${level + 1}`}>
            <header>
              <h2>{level === 0 ? "1: made of nothing else" : level + 1}</h2>
              {ready.length > 0 && (
                <Button size="compact-sm" loading={draft.isPending && draft.variables === level} onClick={() => draft.mutate(level)}>
                  Draft {ready.length === 1 ? ready[0]!.name : `these ${ready.length}`}
                </Button>
              )}
            </header>
            <ol className={classes.rows}>{parts.filter((p) => p.level === level).map(row)}</ol>
          </section>
        );
      })}
      {pages.length > 0 && (
        <section className={classes.rule} aria-label="Pages">
          <header>
            <h2>Pages</h2>
          </header>
          <ol className={classes.rows}>{pages.map(row)}</ol>
        </section>
      )}
      <form
        className={classes.filter}
        onSubmit={(e) => {
          e.preventDefault();
          plan.mutate({ name: name.trim(), wanted: true });
          setName("");
        }}
      >
        <TextInput
          size="xs"
          aria-label="Component that no drawing shows yet"
          placeholder="A component that no drawing shows yet"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <Button type="submit" size="compact-sm" disabled={name.trim() === ""}>
          Add
        </Button>
      </form>
      {plan.error && <Failure error={plan.error} />}
    </>
  );
}
