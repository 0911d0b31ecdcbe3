import { Button } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";

import { api, operations, type Schema, useBehaviour, useTriedBehaviour, useWrite } from "../../../api/client";
import { Failure, Query } from "../../../ui/States";
import { count } from "../../../ui/count";
import classes from "./Behaviour.module.css";
import { type Asked, BrickTools } from "./BrickTools";
import { MachineDrawing } from "./MachineDrawing";
import { Stocks } from "./Stocks";
import { TimeLine } from "./TimeLine";

interface Props {
  bench: Schema["Bench"];
  src: string;
  onEdited: (done: Schema["Edited"]) => void;
}

/** What a component does: its machine drawn and in words, what is wrong with it, and instances of it in simulated time. */
export function BehaviourFacet({ bench, ...rest }: Props) {
  const behaviour = useBehaviour(bench.slug, bench.build);
  return (
    <Query query={behaviour} what="the behaviour">
      {(view) => <Facet bench={bench} view={view} {...rest} />}
    </Query>
  );
}

function Facet({ bench: asRead, view, src, onEdited: edited }: Props & { view: Schema["BehaviourView"] }) {
  // What was written here last may not have been read again yet: the next edit is one of it.
  const [written, setWritten] = useState(0);
  const bench = { ...asRead, revision: Math.max(asRead.revision, view.revision, written) };
  const onEdited = (done: Schema["Edited"]) => {
    setWritten(done.revision);
    edited(done);
  };
  const [typed, setTyped] = useState<string>();
  const [chosen, setChosen] = useState<string>();
  const [other, setOther] = useState(false);
  const [asked, setAsked] = useState<{ what: Asked; times: number }>();
  const words = useRef<HTMLTextAreaElement>(null);
  const [settled] = useDebouncedValue(typed, 250);
  const tried = useTriedBehaviour(
    bench.slug,
    bench.build,
    typed === undefined || settled === undefined || settled === view.text ? undefined : settled,
  );
  const keep = useWrite(
    (text: string) => api.behave(bench.slug, bench.revision, text),
    (done) => {
      setTyped(undefined);
      setOther(false);
      onEdited(done);
    },
    `sheet ${bench.slug}`,
  );
  const changed = typed !== undefined && typed !== view.text;
  const trying = changed && tried.data !== undefined;
  const wrong = trying ? (tried.data?.wrong ?? []) : [];
  const shown = trying && wrong.length === 0 ? tried.data! : view;
  const text = typed ?? view.text;
  const drawnState = view.states.find((s) => s.id === chosen)?.id;
  const goTo = (state: string) => {
    const at = shown.states.find((s) => s.id === state)?.line ?? 1;
    const area = words.current;
    if (!area) return;
    const lines = text.split("\n");
    const start = lines.slice(0, at - 1).reduce((n, l) => n + l.length + 1, 0);
    area.focus();
    area.setSelectionRange(start, start + (lines[at - 1]?.length ?? 0));
    area.scrollTop = Math.max(0, (at - 4) * 20);
  };
  const stateAt = () => {
    const area = words.current;
    if (!area) return;
    const line = area.value.slice(0, area.selectionStart).split("\n").length;
    const here = shown.states.filter((s) => s.line > 0 && s.line <= line).toSorted((a, b) => b.line - a.line)[0];
    if (here) setChosen(here.id);
  };
  if (!view.has && typed === undefined) {
    return (
      <div className={classes.none}>
        <div className={classes.tools}>
          <Room bench={bench} view={view} />
        </div>
        <Stocks bench={bench} view={view} onWrite={setTyped} onDone={onEdited} />
      </div>
    );
  }
  return (
    <div className={classes.facet}>
      <div className={classes.drawn}>
        <MachineDrawing
          view={shown}
          chosen={chosen}
          onChoose={setChosen}
          onOpen={goTo}
          onAsk={(what) => setAsked({ what, times: (asked?.times ?? 0) + 1 })}
        />
        {drawnState && !changed && (
          <BrickTools bench={bench} view={view} state={drawnState} asked={asked} onEdited={onEdited} onChoose={setChosen} />
        )}
      </div>
      <section className={classes.words} aria-label="Sentences">
        <textarea
          ref={words}
          className={classes.text}
          aria-label="What it does, in words"
          aria-invalid={wrong.length > 0 || undefined}
          spellCheck={false}
          value={text}
          onChange={(e) => setTyped(e.currentTarget.value)}
          onSelect={stateAt}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === "Enter" && (e.ctrlKey || e.metaKey) && changed) {
              e.preventDefault();
              keep.mutate(text);
            } else if (e.key === "Escape") {
              e.preventDefault();
              setTyped(undefined);
              keep.reset();
              e.currentTarget.blur();
            }
          }}
        />
        <div className={classes.tools}>
          <Button size="compact-sm" variant="filled" disabled={!changed} loading={keep.isPending} onClick={() => keep.mutate(text)}>
            Keep <kbd>Ctrl Enter</kbd>
          </Button>
          <Button
            size="compact-sm"
            disabled={!changed}
            onClick={() => {
              setTyped(undefined);
              keep.reset();
            }}
          >
            Drop <kbd>Esc</kbd>
          </Button>
          <span className={classes.end}>
            <Button size="compact-sm" onClick={() => setOther(!other)} aria-expanded={other}>
              Begin with another
            </Button>
            <Room bench={bench} view={view} />
            {view.has && (
              <>
                <Button size="compact-sm" component="a" href={`${operations}/components/${bench.slug}/behaviour.scxml`} download>
                  SCXML
                </Button>
                <Button size="compact-sm" onClick={() => keep.mutate("")}>
                  Remove
                </Button>
              </>
            )}
          </span>
        </div>
        {keep.error && <Failure error={keep.error} />}
        {wrong.length > 0 ? (
          <ol className={classes.findings} aria-label="What is wrong with the words">
            {wrong.map((w, i) => (
              <li key={i} data-wrong>
                <b>line {w.line}</b> {w.message}. <em>{w.fix}</em>
              </li>
            ))}
          </ol>
        ) : (
          <Findings view={shown} onChoose={setChosen} />
        )}
        {other && <Stocks bench={bench} view={view} onWrite={setTyped} onDone={onEdited} />}
      </section>
      {view.has && (
        <TimeLine
          key={view.states.map((s) => s.id).join(" ")}
          bench={bench}
          view={view}
          src={src}
          onChoose={setChosen}
          onEdited={onEdited}
        />
      )}
    </div>
  );
}

/** The component that keeps this one's room while it loads: derived by a press, and again after a change. */
function Room({ bench, view }: { bench: Schema["Bench"]; view: Schema["BehaviourView"] }) {
  const navigate = useNavigate();
  const derive = useWrite(
    () => api.placeholder(bench.slug),
    (made) => void navigate(`/bench/${made.slug}`),
  );
  if (view.roomOf) return <span className={classes.quiet}>It keeps the room of {view.roomOf}, and is derived from it.</span>;
  return (
    <>
      <Button
        size="compact-sm"
        loading={derive.isPending}
        title="What keeps its room while it loads"
        onClick={() => derive.mutate(undefined)}
      >
        Derive its placeholder
      </Button>
      {derive.error && <Failure error={derive.error} />}
    </>
  );
}

/** What was found by going through all that can happen, each with the shortest way there. */
function Findings({ view, onChoose }: { view: Schema["BehaviourView"]; onChoose: (state: string) => void }) {
  return (
    <div className={classes.checked}>
      <p role="status">
        <b>Checked</b> {count(view.states.length, "state")}, {count(view.explored, "configuration")}
        {view.whole ? ", explored whole" : " explored, and there are more"}.{view.findings.length === 0 && " Nothing is wrong with it."}
      </p>
      {view.findings.length > 0 && (
        <ol className={classes.findings} aria-label="What is wrong with it">
          {view.findings.map((f, i) => (
            <li key={i} onPointerEnter={() => f.state && onChoose(f.state)}>
              {f.message}.{f.path && f.path.length > 0 && <span className="mono quiet"> {f.path.join(" → ")}</span>}
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}
