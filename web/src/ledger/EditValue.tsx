import { Autocomplete, Button, Modal, Radio } from "@mantine/core";
import { useState } from "react";

import { ApiError, api, type Schema, useValuesOf, useWrite } from "../api/client";
import { Failure, Query } from "../ui/States";
import { Value } from "../ui/Value";
import classes from "./EditValue.module.css";

interface Props {
  slug: string;
  revision: number;
  fact: Schema["Fact"];
  tokens: Schema["TokenPick"][];
  close: () => void;
}

/** Edits what the contract says of one fact, in the place that says it. */
export function EditValue(props: Props) {
  const { fact, slug, close } = props;
  const part = fact.saidBy ?? fact.part;
  const said = useValuesOf(slug, part, fact.property);
  return (
    <Modal opened onClose={close} title={`${said.data?.name ?? fact.name} · ${fact.property}`} closeButtonProps={{ "aria-label": "Close" }}>
      <Query query={said} what="what the contract says">
        {(values) => <Editor {...props} part={part} values={values} />}
      </Query>
    </Modal>
  );
}

function Editor({ slug, revision, fact, tokens, close, part, values }: Props & { part: string; values: Schema["Values"] }) {
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
    () => close(),
  );
  const fitting = tokens.filter((t) => values.types.includes(t.type));
  const byOption = new Map(fitting.map((t) => [`{${t.path}}`, t]));
  const stale = save.error instanceof ApiError && save.error.trouble.status === 409 ? save.error.trouble.current : undefined;
  return (
    <form
      className={classes.form}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate(value.trim());
      }}
    >
      <Autocomplete
        label="Value: as CSS writes it, or a token"
        data-autofocus
        value={value}
        onChange={setValue}
        data={[...byOption.keys()]}
        limit={50}
        maxDropdownHeight={220}
        classNames={{ input: "mono" }}
        renderOption={({ option }) => {
          const t = byOption.get(option.value);
          return <Value value={t?.value ?? ""} expression={option.value} />;
        }}
      />
      {values.declared.length > 1 && (
        <Radio.Group
          label="Where"
          value={String(place)}
          onChange={(v) => {
            setPlace(Number(v));
            setValue(values.declared[Number(v)]?.value ?? "");
          }}
        >
          <div className={classes.places}>
            {values.declared.map((s, i) => (
              <Radio
                key={s.when}
                size="xs"
                value={String(i)}
                label={
                  <span className={classes.place}>
                    {s.label || "always, unless a rule says otherwise"}
                    {s.value && <code>{s.value}</code>}
                  </span>
                }
              />
            ))}
          </div>
        </Radio.Group>
      )}
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
          <p className={classes.both}>Close this, look at the new state, and edit again.</p>
        </Failure>
      )}
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
    </form>
  );
}
