import { Fragment, type KeyboardEvent, type ReactNode, useRef, useState } from "react";

import type { Schema } from "../api/client";
import { Glyph } from "../ui/Glyph";
import { Value } from "../ui/Value";
import { agreement } from "../ui/count";
import classes from "./Ledger.module.css";

type Fact = Schema["Fact"];

interface Props {
  facts: Fact[];
  /** Of the parts, as they stand in the pictures, by id. */
  numbers?: Record<string, number>;
  measured: boolean;
  /** There is no drawing: the ledger has two sides. */
  undrawn?: boolean;
  /** Where the facts hold, when the lanes show something else. */
  note?: string;
  all: boolean;
  onAll: (all: boolean) => void;
  part: string | undefined;
  onPart: (part: string | undefined) => void;
  /** Opens the editor of a fact's contract value; the element is where the focus goes back to. */
  onEdit: (fact: Fact, at: HTMLElement) => void;
  /** The fact that is edited, and its editor: it stands under the fact. */
  editing?: { fact: Fact; editor: ReactNode };
}

const factKey = (f: Fact) => `${f.part} ${f.property}`;

/** A fact a row, grouped by facet: Design | Contract | Built | verdict. */
export function Ledger({ facts, numbers, measured, undrawn, note, all, onAll, part, onPart, onEdit, editing }: Props) {
  const body = useRef<HTMLTableElement>(null);
  const [active, setActive] = useState<string>();
  const edited = editing && factKey(editing.fact);
  const shown = all ? facts : facts.filter((f) => f.verdict !== "agree" || factKey(f) === edited);
  const differing = facts.filter((f) => f.verdict !== "agree").length;
  const current = shown.some((f) => factKey(f) === active) ? active : shown[0] && factKey(shown[0]);

  const keyed = (e: KeyboardEvent<HTMLTableRowElement>, fact: Fact) => {
    const rows = [...(body.current?.querySelectorAll<HTMLElement>("tr[data-fact]") ?? [])];
    const i = rows.indexOf(e.currentTarget);
    if (e.key === "ArrowDown" || e.key === "ArrowUp") {
      e.preventDefault();
      rows[i + (e.key === "ArrowDown" ? 1 : -1)]?.focus();
    } else if (e.key === "Enter" || e.key === "e") {
      if (e.target !== e.currentTarget || !editable(fact)) return;
      e.preventDefault();
      onEdit(fact, e.currentTarget);
    }
  };

  return (
    <section className={classes.ledger} aria-label="Ledger">
      <header className={classes.head}>
        <h2>Ledger</h2>
        <span className="quiet" role="status" data-testid="ledger-summary">
          {agreement(differing, facts.length)}
          {!measured && ", built not measured yet"}
          {note && `, ${note}`}
        </span>
        <button type="button" className={classes.toggle} aria-pressed={all} onClick={() => onAll(!all)}>
          All facts
        </button>
      </header>
      <div className={classes.scroll} tabIndex={shown.length === 0 ? 0 : -1}>
        {shown.length === 0 ? (
          <p className={classes.level}>
            <Glyph verdict="agree" measured={measured} drawn={!undrawn} size={20} />
            {measured
              ? undrawn
                ? "Level: contract and built component say the same of this case."
                : "Level: design, contract and built component say the same of this case."
              : undrawn
                ? "The built side is not measured yet."
                : "Design and contract say the same of this case; the built side is not measured."}
          </p>
        ) : (
          <table className="grid" ref={body}>
            <thead>
              <tr>
                <th className={classes.glyph}>
                  <span className="hidden-but-read">Verdict</span>
                </th>
                <th>Part · property</th>
                <th>Design</th>
                <th>Contract</th>
                <th>Built</th>
                <th>Verdict</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((f, i) => (
                <Fragment key={factKey(f)}>
                  {shown[i - 1]?.facet !== f.facet && (
                    <tr className={classes.facet}>
                      <th colSpan={6} scope="colgroup">
                        {f.facet}
                      </th>
                    </tr>
                  )}
                  <tr
                    data-fact={factKey(f)}
                    data-verdict={f.verdict}
                    className={f.part === part ? classes.lit : undefined}
                    tabIndex={factKey(f) === current ? 0 : -1}
                    onFocus={() => {
                      setActive(factKey(f));
                      onPart(f.part);
                    }}
                    onPointerEnter={() => onPart(f.part)}
                    onPointerLeave={() => onPart(undefined)}
                    onKeyDown={(e) => keyed(e, f)}
                  >
                    <td>
                      <Glyph verdict={f.verdict} measured={f.built !== undefined} drawn={!undrawn} />
                    </td>
                    <td className="mono">
                      <span className={classes.number}>{numbers?.[f.part] || ""}</span>
                      {f.name} · {f.property}
                    </td>
                    <Side said={f.design} differs={f.verdict === "design moved" || f.verdict === "several moved"} />
                    <td className={f.verdict === "contract moved" || f.verdict === "several moved" ? classes.moved : undefined}>
                      {editable(f) ? (
                        <button
                          type="button"
                          className={classes.edit}
                          tabIndex={-1}
                          onClick={(e) => onEdit(f, e.currentTarget)}
                          title={where(f, facts)}
                        >
                          {f.contract ? <Value {...f.contract} /> : <span className="quiet">follows content</span>}
                        </button>
                      ) : (
                        <span className={classes.fixed}>
                          {f.contract ? <Value {...f.contract} plain /> : <span className="quiet">follows content</span>}
                        </span>
                      )}
                    </td>
                    <Side said={f.built} differs={f.verdict === "code moved" || f.verdict === "several moved"} />
                    <td className="quiet">{verdictWords(f)}</td>
                  </tr>
                  {factKey(f) === edited && (
                    <tr className={classes.editing}>
                      <td colSpan={6}>{editing?.editor}</td>
                    </tr>
                  )}
                </Fragment>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </section>
  );
}

/** A value of a style; what else is told is edited where the contract says it. */
const editable = (f: Fact) => !["shape", "props", "content", "access"].includes(f.facet);

function verdictWords(f: Fact) {
  if (f.kept) return "kept";
  if (f.follows) return `follows ${f.follows}`;
  return f.verdict === "several moved" ? `${f.verdict}, ${f.apart ? "apart" : "the same way"}` : f.verdict;
}

function where(f: Fact, all: Fact[]) {
  const by = all.find((o) => o.part === f.saidBy)?.name ?? f.name;
  const place = f.saidBy ? `said by ${by}${f.when ? ` when ${f.when}` : ""}` : "not said: the initial value";
  return `${place}. Edit (E)`;
}

function Side({ said, differs }: { said?: Schema["Statement"]; differs: boolean }) {
  return <td className={differs ? classes.moved : undefined}>{said ? <Value {...said} /> : <span className="quiet">–</span>}</td>;
}
