import { Autocomplete, Button } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";

import { ApiError, api, type Schema, useCompletions, useTried, useValuesOf, useWrite } from "../api/client";
import inline from "../ui/Inline.module.css";
import { Reach } from "../ui/Reach";
import { Failure, Query } from "../ui/States";
import { Value } from "../ui/Value";
import classes from "./EditValue.module.css";

interface Props {
  slug: string;
  revision: number;
  fact: Schema["Fact"];
  tokens: Schema["TokenPick"][];
  /** Name of the theme that the cases are looked at in. */
  theme: string;
  onEdited?: (done: Schema["Edited"]) => void;
  close: () => void;
}

/** Edits what the contract says of one fact, in the place that says it; it stands where the value does and covers nothing. */
export function EditValue(props: Props) {
  const { fact, slug } = props;
  const part = fact.saidBy ?? fact.part;
  const said = useValuesOf(slug, part, fact.property);
  return (
    <Query query={said} what="what the contract says">
      {(values) => <Editor key={`${part} ${fact.property}`} {...props} part={part} values={values} />}
    </Query>
  );
}

function Editor({
  slug,
  revision,
  fact,
  tokens,
  theme,
  onEdited,
  close,
  part,
  values,
}: Props & { part: string; values: Schema["Values"] }) {
  const start = Math.max(
    0,
    values.declared.findIndex((s) => s.when === (fact.whenKey ?? "")),
  );
  const [place, setPlace] = useState(start);
  // What the person saw when they began: news that come meanwhile are a conflict, not overwritten.
  const [read] = useState(revision);
  const chosen = values.declared[place];
  const [value, setValue] = useState(chosen?.value ?? "");
  const save = useWrite(
    (v: string) => api.edit(slug, read, [{ part, property: fact.property, when: chosen?.when ?? "", value: v }]),
    (done) => {
      onEdited?.(done);
      close();
    },
    `sheet ${slug}`,
  );
  // What it would do, before it is kept: to which cases, and to whom.
  const [paused] = useDebouncedValue(value, 200); // whoever knows what they want does not wait for it
  const typed = paused.trim();
  const edit = chosen && typed !== "" && typed !== chosen.value ? { ...chosen.edit, text: (chosen.edit.text ?? "") + typed } : undefined;
  const tried = useTried(slug, String(read), edit, theme);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    field.current?.focus();
    field.current?.select();
  }, []);
  const keyed = (e: KeyboardEvent<HTMLFormElement>) => {
    // The list of tokens closes first, by itself.
    if (e.key !== "Escape" || field.current?.getAttribute("aria-expanded") === "true") return;
    e.stopPropagation();
    close();
  };
  const fitting = tokens.filter((t) => values.types.includes(t.type));
  const byOption = new Map(fitting.map((t) => [`{${t.path}}`, t]));
  const offered =
    useCompletions(slug, String(read), { do: "set", on: `parts/${part}/${fact.property}`, cell: "value", text: value }).data ?? [];
  const stale = save.error instanceof ApiError && save.error.trouble.status === 409 ? save.error.trouble.current : undefined;
  return (
    <form
      className={classes.form}
      data-editor={fact.property}
      aria-label={`${values.name || fact.name} · ${fact.property}`}
      onKeyDown={keyed}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate(value.trim());
      }}
    >
      <strong>
        {values.name || fact.name} · {fact.property}
      </strong>
      {values.declared.length > 1 ? (
        <select
          aria-label="Where it is said"
          className={inline.field}
          value={place}
          onChange={(e) => {
            const to = Number(e.currentTarget.value);
            setPlace(to);
            setValue(values.declared[to]?.value ?? "");
          }}
        >
          {values.declared.map((s, i) => (
            <option key={s.when} value={i}>
              {s.label || "always, unless a rule says otherwise"}
              {s.value && `: ${s.value}`}
            </option>
          ))}
        </select>
      ) : (
        <span className="quiet">{values.declared[0]?.label || "always"}</span>
      )}
      <Autocomplete
        ref={field}
        aria-label="Value: as CSS writes it, or a token"
        placeholder="As CSS writes it, or a token"
        openOnFocus={false}
        className={classes.value}
        value={value}
        onChange={setValue}
        data={offered.map((o) => o.text)}
        filter={({ options }) => options} // the server chose, and put the likeliest first
        maxDropdownHeight={220}
        classNames={{ input: "mono" }}
        renderOption={({ option }) => {
          const t = byOption.get(option.value);
          return t ? <Value value={t.value} expression={option.value} /> : <code>{option.value}</code>;
        }}
      />
      <div className={classes.actions}>
        {place > 0 && chosen?.value && (
          <Button variant="subtle" onClick={() => save.mutate("")}>
            Remove from this rule
          </Button>
        )}
        <Button onClick={close}>Cancel</Button>
        <Button type="submit" variant="filled" loading={save.isPending} disabled={value.trim() === ""}>
          Set
        </Button>
      </div>
      <p className={classes.reach} role="status">
        {edit === undefined ? "" : tried.error ? tried.error.message : tried.data ? <Reach tried={tried.data} /> : "…"}
      </p>
      {save.error && !stale && <Failure error={save.error} />}
      {stale && (
        <Failure error={save.error!}>
          <p className={classes.both}>
            Now at revision {stale.revision} ({stale.note}). Yours would change it so:
          </p>
          <ul className={classes.both}>
            {stale.changes.length === 0 && <li>nothing: both say the same</li>}
            {stale.changes.map((c) => (
              <li key={c.text} className="mono">
                {c.text}
              </li>
            ))}
          </ul>
          <p className={classes.both}>Leave this, look at the new state, and edit again.</p>
        </Failure>
      )}
    </form>
  );
}
