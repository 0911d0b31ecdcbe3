import type { Schema } from "../../../api/client";
import { Value } from "../../../ui/Value";
import { Cell, Fresh } from "./Cell";
import classes from "./ContractFacet.module.css";
import { useHeld } from "./state";

interface Props {
  rules: Schema["RuleRow"][];
  parts: Schema["PartRow"][];
  byCondition: boolean;
  onGroup: () => void;
}

/** What each part says, by itself and when conditions hold, as sentences; grouped by part or by condition. */
export function Rules({ rules, parts, byCondition, onGroup }: Props) {
  const groups = byCondition ? grouped(rules, (r) => r.when) : grouped(rules, (r) => r.part);
  const { numbers } = useHeld();
  return (
    <section className={classes.part} aria-label="Rules">
      <h2>
        Rules <span className="quiet">later ones win</span>
        <button type="button" tabIndex={-1} className={classes.turn} aria-pressed={byCondition} onClick={onGroup}>
          {byCondition ? "by condition" : "by part"} <kbd>B</kbd>
        </button>
      </h2>
      {groups.map(([key, of]) => (
        <div key={key} className={classes.group}>
          <h3>
            {byCondition ? (
              <Sentence when={key} />
            ) : (
              <>
                <span className={classes.number}>{numbers[key]}</span> {of[0]?.name}
              </>
            )}
          </h3>
          <ul className={classes.sentences}>
            {of
              .filter((r) => !byCondition || r.values.length > 0)
              .map((r) => (
                <Rule
                  key={r.on}
                  rule={r}
                  byCondition={byCondition}
                  use={/^[^a-z]/.test(parts.find((p) => p.id === r.part)?.element ?? "")}
                />
              ))}
          </ul>
        </div>
      ))}
    </section>
  );
}

function grouped(rules: Schema["RuleRow"][], by: (r: Schema["RuleRow"]) => string) {
  const out = new Map<string, Schema["RuleRow"][]>();
  for (const r of rules) out.set(by(r), [...(out.get(by(r)) ?? []), r]);
  return [...out];
}

function Sentence({ when }: { when: string }) {
  return when === "" ? (
    <span className="quiet">always</span>
  ) : (
    <>
      <span className="quiet">when</span> {when}
    </>
  );
}

function Rule({ rule: r, byCondition, use }: { rule: Schema["RuleRow"]; byCondition: boolean; use: boolean }) {
  const { cursor } = useHeld();
  const here = cursor.on === r.on || cursor.on.startsWith(`${r.on}/`);
  return (
    <li data-row data-rule={r.on} className={here ? classes.chosen : undefined}>
      <span className={classes.ruleNumber}>{r.number || ""}</span>
      {byCondition ? (
        <Cell on={r.on} cell="part" text={r.name} label={`Part of rule ${r.number}`} part={r.part} fixed={r.number === 0} />
      ) : r.number === 0 ? (
        <Cell on={r.on} cell="style" text="always" label={`What ${r.name} ${use ? "stands by" : "says"}`} part={r.part} fixed>
          <span className="quiet">always</span>
        </Cell>
      ) : (
        <>
          <span className="quiet">when</span>{" "}
          <Cell on={r.on} cell="when" text={r.when} label={`Condition of rule ${r.number}`} part={r.part} />
        </>
      )}
      <span className={classes.values}>
        {r.values.map((v) => (
          <span key={v.property} className={classes.declaration}>
            <span className={classes.property}>{v.property}</span>{" "}
            <Cell on={v.on} cell="value" text={v.text} label={`${v.property} of ${r.name}`} part={r.part}>
              {v.value !== undefined && v.value !== v.text && <Value value={v.value} expression={v.text} brief plain />}
              {(v.value === undefined || v.value === v.text) && <Value value={v.text} plain />}
            </Cell>
          </span>
        ))}
        {r.values.length === 0 && <span className="quiet">nothing</span>}
        <Fresh on={r.on} cell="value" />
      </span>
    </li>
  );
}
