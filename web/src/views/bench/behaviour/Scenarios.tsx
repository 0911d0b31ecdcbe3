import { Button, NativeSelect } from "@mantine/core";
import { useState } from "react";

import { api, type Schema, useSeen, useWrite } from "../../../api/client";
import { Failure } from "../../../ui/States";
import { count } from "../../../ui/count";
import { said } from "./bricks";
import classes from "./Scenarios.module.css";
import { isExpected } from "./moments";

interface Props {
  bench: Schema["Bench"];
  view: Schema["BehaviourView"];
  instance: Schema["Instance"];
  /** The instance's place, from 1. */
  place: number;
  at: number;
  /** The part that is pointed at, by its id. */
  part: string | undefined;
  onPart: (part: string | undefined) => void;
  onToggle: (expect: Schema["Expected"]) => void;
  onLay: (scenario: Schema["ScenarioView"]) => void;
  onEdited: (done: Schema["Edited"]) => void;
}

/** What is expected of the part that is pointed at; and sequences that are kept by name, replayed, each laid on the time line by a press. */
export function Scenarios({ bench, view, instance, place, at, part, onPart, onToggle, onLay, onEdited }: Props) {
  const [name, setName] = useState<string>();
  const called = name ?? instance.scenario ?? "";
  const keep = useWrite(
    () => api.keepScenario(bench.slug, bench.revision, called, instance),
    (done) => {
      setName(undefined);
      onEdited(done);
    },
    `sheet ${bench.slug}`,
  );
  const drop = useWrite((of: string) => api.dropScenario(bench.slug, bench.revision, of), onEdited, `sheet ${bench.slug}`);
  const chosen = view.scenarios.find((s) => s.name === instance.scenario);
  const failing = view.scenarios.filter((s) => !s.holds).length;
  return (
    <section className={classes.panel} aria-label="Scenarios">
      <header className={classes.head}>
        <h2>Scenarios</h2>
        <span role="status">
          {view.scenarios.length === 0
            ? "none kept yet"
            : failing === 0
              ? `${count(view.scenarios.length, "holds", "hold")}`
              : `${failing} of ${view.scenarios.length} ${failing === 1 ? "does" : "do"} not hold`}
        </span>
        <NativeSelect
          size="xs"
          aria-label="Expect of"
          value={part ?? ""}
          onChange={(e) => onPart(e.currentTarget.value || undefined)}
          data={[{ value: "", label: "expect of …" }, ...view.parts.map((p) => ({ value: p.id, label: p.name }))]}
        />
      </header>
      <form
        className={classes.keep}
        onSubmit={(e) => {
          e.preventDefault();
          keep.mutate(undefined);
        }}
      >
        <input
          aria-label="Name of the scenario"
          placeholder={`what happens to ${place}`}
          value={called}
          maxLength={120}
          onChange={(e) => setName(e.currentTarget.value)}
          onKeyDown={(e) => e.stopPropagation()}
        />
        <Button
          type="submit"
          size="compact-xs"
          disabled={called.trim() === "" || instance.happens.length === 0}
          loading={keep.isPending}
          title={instance.happens.length === 0 ? "Nothing happens to it yet: let something happen, or use it" : undefined}
        >
          {view.scenarios.some((s) => s.name === called.trim()) ? "Keep again" : "Keep as a scenario"}
        </Button>
      </form>
      {part !== undefined && (
        <Expecting bench={bench} view={view} instance={instance} at={at} part={part} onToggle={onToggle} onDone={() => onPart(undefined)} />
      )}
      {keep.error && <Failure error={keep.error} />}
      {drop.error && <Failure error={drop.error} />}
      <ul className={classes.list}>
        {view.scenarios.map((s) => (
          <li key={s.name} data-fails={s.holds ? undefined : true}>
            <button
              type="button"
              className={classes.name}
              aria-pressed={s.name === chosen?.name}
              title="Lay it on the time line"
              onClick={() => onLay(s)}
            >
              <span>{s.name}</span>
              <em>{s.holds ? `holds · ${count(s.steps.length, "step")}` : "does not hold"}</em>
            </button>
            <Button size="compact-xs" aria-label={`Remove ${s.name}`} onClick={() => drop.mutate(s.name)}>
              Remove
            </Button>
            {(s === chosen || !s.holds) && <Steps of={s} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Steps({ of }: { of: Schema["ScenarioView"] }) {
  return (
    <ol className={classes.steps}>
      {of.given.length > 0 && <li>given {of.given.join(", ")}</li>}
      {of.steps.map((s, i) => (
        <li key={i}>
          {[s.after, s.happens].filter(Boolean).join(", ") || "at first"}
          {s.missed && <strong> {s.missed}</strong>}
          {s.expects.map((e, k) => (
            <span key={k} data-missed={e.missed ? true : undefined}>
              {e.says}
              {e.missed && <strong> {e.missed}</strong>}
            </span>
          ))}
        </li>
      ))}
    </ol>
  );
}

interface ExpectingProps extends Pick<Props, "bench" | "view" | "instance" | "at" | "onToggle"> {
  part: string;
  onDone: () => void;
}

/** All that is so of a part at a time: a press expects it from now on, another does not. */
function Expecting({ bench, view, instance, at, part, onToggle, onDone }: ExpectingProps) {
  const seen = useSeen(bench.slug, bench.build, instance, at, part);
  const name = view.parts.find((p) => p.id === part)?.name ?? part;
  return (
    <div
      className={classes.expecting}
      role="group"
      aria-label={`Expect of ${name}`}
      onKeyDown={(e) => {
        if (e.key !== "Escape") return;
        e.stopPropagation();
        onDone();
      }}
    >
      <p>
        <b>{name}</b> at {said(at)}: what is so, to be expected
      </p>
      {seen.error ? (
        <Failure error={seen.error} />
      ) : (
        <div className={classes.offers}>
          {(seen.data ?? []).map((s) => (
            <button
              key={s.says}
              type="button"
              aria-pressed={instance.happens.some((h) => h.at === at && isExpected(h.expect, s.expect))}
              onClick={() => onToggle(s.expect)}
            >
              {s.says}
            </button>
          ))}
          {seen.data?.length === 0 && <span>Nothing is seen of it: it is one of several, or not there.</span>}
        </div>
      )}
    </div>
  );
}
