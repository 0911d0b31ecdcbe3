import { Button, NativeSelect } from "@mantine/core";
import { type FormEvent, useEffect, useRef, useState } from "react";

import { api, type Schema, useWrite } from "../../../api/client";
import { Failure } from "../../../ui/States";
import classes from "./Behaviour.module.css";

interface Props {
  bench: Schema["Bench"];
  view: Schema["BehaviourView"];
  state: string;
  /** What is asked for by a key at the brick, and how often it was: the field of it gets the focus. */
  asked: { what: Asked; times: number } | undefined;
  onEdited: (done: Schema["Edited"]) => void;
  /** The state that is chosen from now on. */
  onChoose: (state: string) => void;
}

/** What can be asked for at a brick, by its key. */
export type Asked = "rename" | "add" | "lead" | "remove";

/** What is done to a state where it is drawn: it is called otherwise, followed by another, led on from, taken away. */
export function BrickTools({ bench, view, state, asked, onEdited, onChoose }: Props) {
  const [name, setName] = useState("");
  const [to, setTo] = useState("");
  const [on, setOn] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const list = useRef<HTMLSelectElement>(null);
  const redraw = useWrite(
    (r: Schema["Redraw"]) => api.redraw(bench.slug, bench.revision, r),
    (done, r) => {
      setName("");
      setOn("");
      if (r.do === "add" || r.do === "rename") onChoose(r.to!);
      onEdited(done);
    },
    `sheet ${bench.slug}`,
  );
  const remove = () => redraw.mutate({ do: "remove", state });
  const times = asked?.times;
  useEffect(() => {
    if (asked?.what === "lead") list.current?.focus();
    else if (asked?.what === "remove") remove();
    else if (asked) field.current?.focus();
    // Only what is asked for anew is done.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [times]);
  const target = view.states.some((s) => s.id === to) ? to : state;
  const ways = view.ways.filter((w) => w.from === state);
  const submit = (e: FormEvent, r: Schema["Redraw"]) => {
    e.preventDefault();
    redraw.mutate(r);
  };
  return (
    <div className={classes.brickTools} role="group" aria-label={`What is done to ${state}`} onKeyDown={(e) => e.stopPropagation()}>
      <b>{state}</b>
      <form onSubmit={(e) => submit(e, { do: asked?.what === "rename" ? "rename" : "add", state, to: name.trim() })}>
        <input
          ref={field}
          aria-label="Name of a state"
          placeholder="a name"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <Button size="compact-xs" disabled={name.trim() === ""} onClick={() => redraw.mutate({ do: "rename", state, to: name.trim() })}>
          Rename <kbd>R</kbd>
        </Button>
        <Button size="compact-xs" disabled={name.trim() === ""} onClick={() => redraw.mutate({ do: "add", state, to: name.trim() })}>
          Add after it <kbd>A</kbd>
        </Button>
        <Button size="compact-xs" onClick={remove}>
          Remove <kbd>Del</kbd>
        </Button>
      </form>
      <form onSubmit={(e) => submit(e, { do: "lead", state, to: target, on })}>
        <NativeSelect
          ref={list}
          size="xs"
          aria-label="Lead to"
          value={target}
          onChange={(e) => setTo(e.currentTarget.value)}
          data={view.states.map((s) => ({ value: s.id, label: `to ${s.id}` }))}
        />
        <input
          aria-label="What leads there"
          placeholder="press of …, after 2000 ms"
          list="ways-known"
          value={on}
          onChange={(e) => setOn(e.currentTarget.value)}
        />
        <datalist id="ways-known">
          {view.events.map((e) => (
            <option key={e.words} value={e.words} />
          ))}
        </datalist>
        <Button type="submit" size="compact-xs" disabled={on.trim() === ""}>
          Lead there <kbd>L</kbd>
        </Button>
        {ways.some((w) => w.to === target) && (
          <Button size="compact-xs" onClick={() => redraw.mutate({ do: "cut", state, to: target })}>
            Cut the way to {target}
          </Button>
        )}
      </form>
      {redraw.error && <Failure error={redraw.error} />}
    </div>
  );
}
