import { Button, SegmentedControl, TextInput } from "@mantine/core";
import { useState } from "react";

import { api, questionsAddress, type Schema, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Failure } from "../../ui/States";
import classes from "./Survey.module.css";
import type { ListProps } from "./Words";

/** What is unclear, rule by rule: why it matters, what to do, and what was said of it. */
export function DoubtList({ survey: s, page, here, lit, picked, onLit, onPick }: ListProps) {
  const [outcome, setOutcome] = useState<"" | "aside" | "asked">("");
  const rule = useWrite(({ id, off }: { id: string; off: boolean }) => api.switchRule(id, off));
  const off = s.rules.filter((r) => r.off);
  const list = s.doubts
    .map((d, i) => ({ d, number: i + 1 }))
    .filter(({ d }) => (d.outcome || "") === outcome && (!here || d.page === page));
  const asked = s.doubts.filter((d) => d.outcome === "asked").length;
  return (
    <>
      <div className={classes.filter}>
        <SegmentedControl
          size="xs"
          aria-label="Which doubts"
          value={outcome}
          onChange={(v) => setOutcome(v as typeof outcome)}
          data={[
            { value: "", label: "Open" },
            { value: "asked", label: `Questions ${asked}` },
            { value: "aside", label: "Set aside" },
          ]}
        />
        {asked > 0 && (
          <span className={classes.export}>
            As one page: <a href={questionsAddress(s.document, false)}>HTML</a> · <a href={questionsAddress(s.document, true)}>Markdown</a>
          </span>
        )}
      </div>
      {rule.error && <Failure error={rule.error} />}
      {s.rules.map((r) => {
        const mine = list.filter(({ d }) => d.rule === r.id);
        if (mine.length === 0) return null;
        return (
          <section key={r.id} className={classes.rule} aria-label={r.title}>
            <header>
              <h2>
                {r.title} <span className="mono quiet">{mine.length}</span>
              </h2>
              <button type="button" className={classes.plain} onClick={() => rule.mutate({ id: r.id, off: true })}>
                do not ask this
              </button>
            </header>
            <p className="quiet">
              {r.why} {r.fix}
            </p>
            <ol className={classes.rows}>
              {mine.map(({ d, number }) => (
                <DoubtRow
                  key={d.id}
                  document={s.document}
                  doubt={d}
                  number={number}
                  isNew={s.since?.newDoubts.includes(d.id) ?? false}
                  lit={d.id === lit || d.id === picked}
                  open={d.id === picked}
                  onLit={onLit}
                  onPick={() => onPick(d.id === picked ? undefined : d.id, d.page ? [d.page] : [])}
                />
              ))}
            </ol>
          </section>
        );
      })}
      {list.length === 0 && (
        <p className={classes.nothing}>
          {outcome === "asked"
            ? "No doubt is put to the designer yet."
            : outcome === "aside"
              ? "No doubt is set aside."
              : here
                ? "Nothing on this page is doubted."
                : "Nothing is doubted."}
        </p>
      )}
      {off.length > 0 && (
        <p className={classes.nothing}>
          Not asked in this project:{" "}
          {off.map((r) => (
            <button key={r.id} type="button" className={classes.plain} onClick={() => rule.mutate({ id: r.id, off: false })}>
              {r.title}
            </button>
          ))}
        </p>
      )}
    </>
  );
}

interface RowProps {
  document: string;
  doubt: Schema["SurveyDoubt"];
  number: number;
  isNew: boolean;
  lit: boolean;
  open: boolean;
  onLit: (group: string | undefined) => void;
  onPick: () => void;
}

function DoubtRow({ document, doubt: d, number, isNew, lit, open, onLit, onPick }: RowProps) {
  const [reason, setReason] = useState(d.reason);
  const say = useWrite((outcome: "" | "aside" | "asked") => api.sayOfDoubt({ document, doubt: d.id, outcome, reason: reason.trim() }));
  return (
    <li data-lit={lit || undefined} onPointerEnter={() => onLit(d.id)} onPointerLeave={() => onLit(undefined)}>
      <button type="button" className={classes.row} onClick={onPick} aria-expanded={open}>
        <span className={classes.number}>{number}</span>
        <span className={classes.what}>
          {d.message}
          {isNew && <span className={classes.isNew}> new</span>}
        </span>
        <span className="mono quiet">{d.layers.length > 1 ? d.layers.length : ""}</span>
        <span className={classes.more}>
          {d.where} · <span className="mono">{d.layer}</span>
          {d.reason && ` · ${d.reason}`}
        </span>
      </button>
      {open && (
        <div className={classes.answer}>
          <TextInput
            size="xs"
            aria-label="Reason, or what is asked"
            placeholder={d.outcome ? "" : "Why it is set aside, or what you ask"}
            value={reason}
            onChange={(e) => setReason(e.currentTarget.value)}
          />
          {d.outcome !== "asked" && (
            <Button size="compact-sm" loading={say.isPending} onClick={() => say.mutate("asked")}>
              Ask the designer
            </Button>
          )}
          {d.outcome !== "aside" && (
            <Button size="compact-sm" disabled={reason.trim() === ""} loading={say.isPending} onClick={() => say.mutate("aside")}>
              Set aside
            </Button>
          )}
          {d.outcome && (
            <Button size="compact-sm" loading={say.isPending} onClick={() => say.mutate("")}>
              Let it stand
            </Button>
          )}
          {d.layers.length > 1 && <span className="quiet">{count(d.layers.length, "layer")}</span>}
          {say.error && <Failure error={say.error} />}
        </div>
      )}
    </li>
  );
}
