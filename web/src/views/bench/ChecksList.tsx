import { Button } from "@mantine/core";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";

import { api, type Schema, useChecks, useTried, useWrite } from "../../api/client";
import { Failure, Query } from "../../ui/States";
import inline from "../../ui/Inline.module.css";
import { count } from "../../ui/count";
import classes from "./ChecksList.module.css";

interface Props {
  bench: Schema["Bench"];
  part: string | undefined;
  onPart: (part: string | undefined) => void;
  /** Leads to a row of the sheet. */
  onGo: (on: string) => void;
}

/** What a review finds, a finding a row: mended by a key once it is shown what that does, or set aside with a reason. */
export function ChecksList({ bench, ...rest }: Props) {
  const checks = useChecks(bench.slug, bench.build);
  return (
    <Query query={checks} what="the checks">
      {(data) => <List bench={bench} checks={data} {...rest} />}
    </Query>
  );
}

function List({ bench, checks, part, onPart, onGo }: Props & { checks: Schema["Checks"] }) {
  const { slug, build } = bench;
  const list = useRef<HTMLOListElement>(null);
  const [open, setOpen] = useState<{ key: string; what: "mend" | "aside" }>();
  const [active, setActive] = useState<string>();
  const { findings } = checks;
  const current = findings.some((f) => f.key === active) ? active : findings[0]?.key;
  const mending = open?.what === "mend" ? ({ do: "mend", on: open.key } as const) : undefined;
  const tried = useTried(slug, build, mending, bench.theme);
  const back = () => {
    setOpen(undefined);
    requestAnimationFrame(() => list.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus());
  };
  const mend = useWrite((key: string) => api.amend(slug, bench.revision, { do: "mend", on: key }), back);
  const aside = useWrite(({ key, reason }: { key: string; reason: string }) => api.setAside(slug, [key], reason), back);
  const keyed = (e: KeyboardEvent<HTMLLIElement>, f: Schema["Checked"]) => {
    if (e.target !== e.currentTarget) return;
    const rows = [...(list.current?.querySelectorAll<HTMLElement>("[data-finding]") ?? [])];
    const at = rows.indexOf(e.currentTarget);
    if (e.key === "ArrowDown") rows[at + 1]?.focus();
    else if (e.key === "ArrowUp") rows[at - 1]?.focus();
    else if (e.key === "Escape") setOpen(undefined);
    else if (e.key === "Enter" && mending && tried.data) mend.mutate(f.key);
    else if (e.key === "Enter") onGo(f.on);
    else if (e.key === "m" && f.mends) setOpen({ key: f.key, what: "mend" });
    else if (e.key === "x" && f.aside) aside.mutate({ key: f.key, reason: "" });
    else if (e.key === "x") setOpen({ key: f.key, what: "aside" });
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <section className={classes.checks} aria-label="Checks">
      <header className={classes.head}>
        <h2>Checks</h2>
        <span className="quiet" role="status">
          {checks.errors + checks.warnings === 0
            ? "nothing found that stands"
            : `${count(checks.errors, "error")}, ${count(checks.warnings, "warning")}`}
          {findings.length > checks.errors + checks.warnings && `, ${findings.length - checks.errors - checks.warnings} set aside`}
        </span>
        {findings.length > 0 && (
          <span className={`quiet ${classes.how}`}>Enter goes there · M mends · X sets aside, or lets stand again</span>
        )}
      </header>
      {findings.length === 0 ? (
        <p className={classes.none}>
          A review finds nothing: elements, names, contrast, targets, units, rules and uses are as they should be.
        </p>
      ) : (
        <ol className={classes.list} ref={list}>
          {findings.map((f) => (
            <li
              key={f.key}
              data-finding={f.rule}
              data-severity={f.aside ? "aside" : f.severity}
              className={f.part !== undefined && f.part === part ? classes.lit : undefined}
              tabIndex={f.key === current ? 0 : -1}
              onFocus={() => {
                setActive(f.key);
                onPart(f.part);
              }}
              onPointerEnter={() => onPart(f.part)}
              onKeyDown={(e) => keyed(e, f)}
            >
              <span className={classes.severity}>{f.aside ? "aside" : f.severity}</span>
              <span>
                {f.message}
                {f.fix && <span className="quiet">: {f.fix}</span>}
                {f.aside && <span className={classes.reason}> set aside: {f.aside}</span>}
              </span>
              <span className={classes.do}>
                {f.mends && (
                  <button type="button" tabIndex={-1} onClick={() => setOpen({ key: f.key, what: "mend" })}>
                    Mend
                  </button>
                )}
                <button
                  type="button"
                  tabIndex={-1}
                  onClick={() => (f.aside ? aside.mutate({ key: f.key, reason: "" }) : setOpen({ key: f.key, what: "aside" }))}
                >
                  {f.aside ? "Let it stand" : "Set aside"}
                </button>
                <button type="button" tabIndex={-1} onClick={() => onGo(f.on)}>
                  Go there
                </button>
              </span>
              {open?.key === f.key && (
                <div className={classes.open}>
                  {open.what === "aside" ? (
                    <Reason busy={aside.isPending} commit={(reason) => aside.mutate({ key: f.key, reason })} cancel={back} />
                  ) : (
                    <Mending tried={tried.data} error={tried.error ?? mend.error} onKeep={() => mend.mutate(f.key)} onLeave={back} />
                  )}
                </div>
              )}
            </li>
          ))}
        </ol>
      )}
      {aside.error && <Failure error={aside.error} />}
    </section>
  );
}

function Reason({ busy, commit, cancel }: { busy: boolean; commit: (reason: string) => void; cancel: () => void }) {
  const field = useRef<HTMLInputElement>(null);
  const [reason, setReason] = useState("");
  useEffect(() => field.current?.focus(), []);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim() !== "") commit(reason.trim());
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Escape") cancel();
      }}
    >
      <label>
        Why{" "}
        <input
          ref={field}
          className={inline.field}
          value={reason}
          readOnly={busy}
          maxLength={500}
          placeholder="the reason is kept and shown"
          onChange={(e) => setReason(e.currentTarget.value)}
        />
      </label>{" "}
      <Button type="submit" disabled={reason.trim() === ""} loading={busy}>
        Set aside
      </Button>
    </form>
  );
}

/** What mending would do, before it is done. */
function Mending({
  tried,
  error,
  onKeep,
  onLeave,
}: {
  tried: Schema["Tried"] | undefined;
  error: Error | null;
  onKeep: () => void;
  onLeave: () => void;
}) {
  if (error) return <Failure error={error} />;
  if (!tried) return <span className="quiet">Trying…</span>;
  return (
    <>
      {tried.changes.length > 0 ? tried.changes.map((c) => c.text).join("; ") : "Nothing changes for who uses it"}
      <span className="quiet">
        , {tried.cases === 0 ? "no case looks otherwise" : `${count(tried.cases, "case looks", "cases look")} otherwise`}
      </span>{" "}
      <Button variant="filled" onClick={onKeep}>
        Mend it
      </Button>{" "}
      <Button onClick={onLeave}>Leave it</Button>
    </>
  );
}
