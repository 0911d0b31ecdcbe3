import { Button, NativeSelect, NumberInput, TextInput } from "@mantine/core";
import { useState } from "react";

import { api, type Schema, useWrite } from "../../../api/client";
import { Failure } from "../../../ui/States";
import classes from "./Behaviour.module.css";

interface Props {
  bench: Schema["Bench"];
  view: Schema["BehaviourView"];
  /** Begins with words of one's own. */
  onWrite: (text: string) => void;
  onDone: (done: Schema["Edited"]) => void;
}

/** A stock machine, or the options of a prop as states. */
type Stock = Schema["StockView"] & { options?: string[] };

const several = ["panels", "tabs", "menu button", "radio group", "carousel"];

/** Behaviours by the names the trade has for them, to begin with. */
export function Stocks({ bench, view, onWrite, onDone }: Props) {
  const [chosen, setChosen] = useState<Stock>();
  return (
    <section className={classes.stocks} data-chosen={chosen !== undefined || undefined} aria-label="Behaviours to begin with">
      <h2>{view.has ? "Another behaviour" : `What does ${bench.name} do?`}</h2>
      <p className={classes.quiet}>
        Begin with what the trade has a name for: states, keys, attributes and focus follow the published practice. Or{" "}
        <button
          type="button"
          className={classes.link}
          onClick={() => onWrite(`machine ${bench.name}\nstate first\n  on press: to second\nstate second\n  on press: to first\n`)}
        >
          begin with words of your own
        </button>
        , or paste SCXML there.
      </p>
      <ul className={classes.stockList}>
        {view.drawn.map((d) => (
          <li key={`drawn ${d.prop}`}>
            <button
              type="button"
              aria-pressed={chosen?.options !== undefined && chosen.name === d.prop}
              onClick={() =>
                setChosen(
                  chosen?.options !== undefined && chosen.name === d.prop
                    ? undefined
                    : { name: d.prop, says: "", parts: [], options: d.options },
                )
              }
            >
              <strong>the states of {d.prop}</strong>
              <span>{d.options.join(", ")}: what is drawn for each is what the component looks like while it is in it.</span>
            </button>
          </li>
        ))}
        {view.stocks.map((s) => (
          <li key={s.name}>
            <button type="button" aria-pressed={s === chosen} onClick={() => setChosen(s === chosen ? undefined : s)}>
              <strong>{s.name}</strong>
              <span>{s.says}</span>
              {s.practice && <span className={classes.quiet}>ARIA practice: {s.practice}</span>}
            </button>
          </li>
        ))}
      </ul>
      {chosen && <Adopting key={chosen.name} bench={bench} view={view} stock={chosen} onDone={onDone} />}
    </section>
  );
}

function Adopting({
  bench,
  view,
  stock,
  onDone,
}: {
  bench: Schema["Bench"];
  view: Schema["BehaviourView"];
  stock: Stock;
  onDone: Props["onDone"];
}) {
  const [items, setItems] = useState(3);
  const [many, setMany] = useState(false);
  const [always, setAlways] = useState(false);
  const [vertical, setVertical] = useState(false);
  const [mixed, setMixed] = useState(false);
  const [outside, setOutside] = useState(false);
  const [leads, setLeads] = useState<"itself" | "both" | "prop">("both");
  const [open, setOpen] = useState(0);
  const [names, setNames] = useState(stock.options?.join(", ") ?? "stop 3000, go 4000, slow 1000");
  const [takes, setTakes] = useState<Record<string, string>>(() =>
    Object.fromEntries(stock.parts.map((p) => [p, view.parts.find((q) => q.name === p)?.id ?? ""])),
  );
  const numbered = several.includes(stock.name);
  const parts = stock.parts
    .filter((p) => !/\d$/.test(p) || Number(/\d+$/.exec(p)![0]) === 1)
    .flatMap((p) => {
      if (!/1$/.test(p) || !numbered) return [p];
      return Array.from({ length: items }, (_, i) => p.replace(/1$/, String(i + 1)));
    });
  const adopt = useWrite((body: Schema["AdoptedBody"]) => api.adopt(bench.slug, body), onDone, `sheet ${bench.slug}`);
  const cycle = names
    .split(",")
    .map((one) => one.trim().split(/\s+/))
    .filter((one) => one[0]);
  const flag = (label: string, on: boolean, set: (on: boolean) => void) => (
    <label className={classes.flag}>
      <input type="checkbox" checked={on} onChange={(e) => set(e.currentTarget.checked)} /> {label}
    </label>
  );
  return (
    <form
      className={classes.adopting}
      aria-label={`Begin with a ${stock.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        adopt.mutate({
          revision: bench.revision,
          stock: stock.options ? undefined : stock.name,
          states: stock.options ? stock.name : undefined,
          items: numbered ? items : undefined,
          several: many,
          always,
          vertical,
          mixed,
          outside,
          open,
          leads: stock.options && leads,
          names: stock.name === "timed cycle" ? cycle.map((c) => c[0]!) : undefined,
          times:
            stock.name === "timed cycle"
              ? cycle.map((c) => Number(c[1]) || 1000)
              : stock.options && cycle.some((c) => c[1])
                ? cycle.map((c) => Number(c[1]) || 0)
                : undefined,
          takes: Object.fromEntries(
            Object.entries(takes).filter(([name, id]) => id !== "" && (parts.includes(name) || stock.options?.includes(name))),
          ),
        });
      }}
    >
      <h3>{stock.options ? `the states of ${stock.name}` : stock.name}</h3>
      <div className={classes.choices}>
        {numbered && <NumberInput label="How many" size="xs" min={1} max={50} value={items} onChange={(n) => setItems(Number(n) || 1)} />}
        {["panels", "tabs", "radio group"].includes(stock.name) && (
          <NumberInput
            label="Open at first, 0 for none"
            size="xs"
            min={0}
            max={items}
            value={open}
            onChange={(n) => setOpen(Number(n) || 0)}
          />
        )}
        {stock.name === "panels" && flag("several are open at once", many, setMany)}
        {stock.name === "panels" && flag("one is always open", always, setAlways)}
        {stock.options && (
          <NativeSelect
            size="xs"
            label="Who leads from one to another"
            aria-label="Who leads from one to another"
            value={leads}
            onChange={(e) => setLeads(e.currentTarget.value as typeof leads)}
            data={[
              { value: "both", label: `itself, and ${stock.name} whenever that changes` },
              { value: "itself", label: `itself, once ${stock.name} said where it begins` },
              { value: "prop", label: `${stock.name} alone: a press only tells` },
            ]}
          />
        )}
        {["tabs", "slider"].includes(stock.name) && flag("goes down", vertical, setVertical)}
        {stock.name === "checkbox" && flag("can be partly checked", mixed, setMixed)}
        {stock.name === "dialog" && flag("a press beside it closes it", outside, setOutside)}
        {(stock.name === "timed cycle" || stock.options) && (
          <TextInput
            label={
              stock.options
                ? "How long each lasts, ms, where time leads to the next: still 3000, running 9000"
                : "States with how long each lasts, ms"
            }
            size="xs"
            value={names}
            onChange={(e) => setNames(e.currentTarget.value)}
          />
        )}
      </div>
      {stock.options && (
        <div className={classes.takes}>
          {stock.options.map((option) => (
            <NativeSelect
              key={option}
              size="xs"
              label={`what is pressed for ${option}`}
              aria-label={`what is pressed for ${option}`}
              value={takes[option] ?? ""}
              onChange={(e) => {
                const id = e.currentTarget.value;
                setTakes((all) => ({ ...all, [option]: id }));
              }}
              data={[
                { value: "", label: "nothing" },
                ...view.parts.map((q) => ({ value: q.id, label: `${q.name} · ${q.element || "component"}` })),
              ]}
            />
          ))}
        </div>
      )}
      {parts.length > 0 && (
        <div className={classes.takes}>
          {parts.map((p) => (
            <NativeSelect
              key={p}
              size="xs"
              label={`${p} is`}
              aria-label={`${p} is`}
              value={takes[p] ?? ""}
              onChange={(e) => {
                const id = e.currentTarget.value;
                setTakes((all) => ({ ...all, [p]: id }));
              }}
              data={[
                { value: "", label: "a new part" },
                ...view.parts.map((q) => ({ value: q.id, label: `${q.name} · ${q.element || "component"}` })),
              ]}
            />
          ))}
        </div>
      )}
      {adopt.error && <Failure error={adopt.error} />}
      <div>
        <Button type="submit" variant="filled" loading={adopt.isPending}>
          Begin with it
        </Button>
      </div>
    </form>
  );
}
