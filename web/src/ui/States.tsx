import { Button, Loader } from "@mantine/core";
import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";

import { ApiError, type Problem } from "../api/client";
import classes from "./States.module.css";

/** What a view shows while there is nothing: what it is for, and the one thing to do. */
export function Empty({ title, children, action }: { title: string; children: ReactNode; action?: ReactNode }) {
  return (
    <div className={classes.empty}>
      <svg viewBox="0 0 72 32" width="108" height="48" aria-hidden="true" className={classes.bricks}>
        <path d="M1 1h33v9H1zM38 1h33v9H38zM1 11.5h15v9H1zM20 11.5h32v9H20zM56 11.5h15v9H56zM1 22h33v9H1z" />
        <path className={classes.missing} d="M38.5 22.5h32v8h-32z" />
      </svg>
      <h2>{title}</h2>
      <p>{children}</p>
      {action}
    </div>
  );
}

export function Loading({ what }: { what: string }) {
  return (
    <div className={classes.loading} role="status">
      <Loader size="xs" type="bars" aria-hidden="true" /> Reading {what}…
    </div>
  );
}

export function Failure({ error, retry, children }: { error: Error; retry?: () => void; children?: ReactNode }) {
  const problems = error instanceof ApiError ? (error.trouble.problems ?? []) : [];
  return (
    <div className={classes.failure} role="alert">
      <strong>{error.message.split("\n")[0]}</strong>
      {problems.length > 0 && <Problems list={problems} />}
      {children}
      {retry && (
        <div>
          <Button onClick={retry}>Try again</Button>
        </div>
      )}
    </div>
  );
}

/** Every problem: where it is, what it is, what to do. */
export function Problems({ list }: { list: readonly Problem[] }) {
  return (
    <ol className={classes.problems}>
      {list.map((p, i) => (
        <li key={i}>
          <span className="mono quiet">
            {p.file}
            {p.line ? `:${p.line}:${p.column}` : ""} {p.pointer}
          </span>
          <span>
            {p.message}
            {p.fix && <em> {p.fix}.</em>}
          </span>
        </li>
      ))}
    </ol>
  );
}

/** Shows a query's data once it is there, and what there is to say before. */
export function Query<T>({ query, what, children }: { query: UseQueryResult<T>; what: string; children: (data: T) => ReactNode }) {
  if (query.data !== undefined) return children(query.data);
  if (query.error) return <Failure error={query.error} retry={() => void query.refetch()} />;
  return <Loading what={what} />;
}
