import { Button, NativeSelect } from "@mantine/core";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";

import type { Heard, ShownCase } from "../../../../preview/messages";
import { type Schema, useCourses } from "../../../api/client";
import { BuiltFrame } from "../../../lanes/BuiltFrame";
import { Failure } from "../../../ui/States";
import classes from "./Behaviour.module.css";
import { activeAt, keptAt, nextChange, said } from "./bricks";
import { Courses } from "./Courses";
import { givenAt, long, put, toggled, withHeard } from "./moments";
import { Scenarios } from "./Scenarios";

interface Props {
  bench: Schema["Bench"];
  view: Schema["BehaviourView"];
  src: string;
  onChoose: (state: string) => void;
  onEdited: (done: Schema["Edited"]) => void;
}

type Instance = Schema["Instance"];

const speeds = [0.25, 0.5, 1, 2, 5, 10];

/** Several at first: one for each value it can begin with, three at most; else two. */
function beginning(view: Schema["BehaviourView"]): Instance[] {
  const values = view.begins.slice(0, 3);
  if (values.length < 2) return [{ happens: [] }, { happens: [] }];
  return values.map((v) => ({ begins: { [v.prop]: v.value }, happens: [] }));
}

/** Several instances side by side in simulated time: a course each, a brick as long as its state lasts, and what is on screen at the time that is pointed at. Used, they are recorded. */
export function TimeLine({ bench, view, src, onChoose, onEdited }: Props) {
  const [instances, setInstances] = useState(() => beginning(view));
  const [at, setAt] = useState(0);
  const [until, setUntil] = useState(view.span);
  const [mine, setMine] = useState(0);
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState(1);
  const [used, setUsed] = useState(0); // how often they were; even while the time line is looked at
  const recorded = useRef(new Set<number>());
  const [event, setEvent] = useState(0);
  const [share, setShare] = useState("0.5");
  const [value, setValue] = useState(0);
  const [part, setPart] = useState<string>();
  const run = useCourses(bench.slug, bench.build, instances, until);
  const courses = (run.data ?? []).slice(0, instances.length);
  const chosen = view.events[Math.min(event, view.events.length - 1)];
  const using = used % 2 === 1;
  const own = instances[mine] ?? instances[0]!;

  useEffect(() => {
    if (!playing) return undefined;
    let last = performance.now();
    let frame = requestAnimationFrame(function tick(now) {
      const gone = (now - last) * speed;
      last = now;
      setAt((t) => {
        if (t + gone < until) return t + gone;
        setPlaying(false);
        return until;
      });
      frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, speed, until]);

  const change = (which: number, to: (happens: Schema["Happens"][]) => Schema["Happens"][]) =>
    setInstances((all) => all.map((one, i) => (i === which ? { ...one, happens: to(one.happens) } : one)));
  const drop = (which: number, when: number) => {
    if (!chosen) return;
    const brings = chosen.drag ? Math.min(1, Math.max(0, Number(share) || 0)) : chosen.values?.[Math.min(value, chosen.values.length - 1)];
    change(which, (all) => put(all, { at: Math.round(when), event: chosen.event, value: brings }));
  };
  const lift = (which: number, index: number) => change(which, (all) => all.filter((_, k) => k !== index));
  const hear = (heard: Heard) => {
    const which = Number(heard.case.split(" ")[2]);
    const first = !recorded.current.has(which);
    recorded.current.add(which);
    setMine(which);
    setAt(heard.at);
    setUntil((u) => long(u, heard.at));
    change(which, (all) => withHeard(first ? [] : all, heard, view.events));
  };
  const use = () => {
    recorded.current.clear();
    setPlaying(false);
    setPart(undefined);
    setUsed(used + 1);
  };
  const lay = (scenario: Schema["ScenarioView"]) => {
    setInstances([scenario.instance]);
    setMine(0);
    setUsed(used + (used % 2));
    setUntil(long(view.span, scenario.ends));
    setAt(scenario.ends);
  };
  const play = () => {
    if (!playing && at >= until) setAt(0);
    setPlaying(!playing);
  };
  const step = () => {
    setPlaying(false);
    setAt(nextChange(courses, at, until));
  };
  const onKeyDown = (e: KeyboardEvent<HTMLElement>) => {
    const fine = until / (e.shiftKey ? 20 : 200);
    const before = own.happens.findLastIndex((h) => h.at <= at);
    if (e.key === "ArrowRight") setAt(Math.min(until, at + fine));
    else if (e.key === "ArrowLeft") setAt(Math.max(0, at - fine));
    else if (e.key === "ArrowDown") setMine(Math.min(instances.length - 1, mine + 1));
    else if (e.key === "ArrowUp") setMine(Math.max(0, mine - 1));
    else if (e.key === "Home") setAt(0);
    else if (e.key === "End") setAt(until);
    else if (e.key === "Enter") drop(mine, at);
    else if ((e.key === "Delete" || e.key === "Backspace") && before >= 0) lift(mine, before);
    else if (e.key === " ") play();
    else if (e.key === ".") step();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const shown: ShownCase[] = courses.map((c, i) => ({
    key: using ? `used ${used} ${i}` : `${i} ${activeAt(c, at).join(" ")}`,
    live: using,
    theme: bench.theme,
    attributes: bench.themes.find((t) => t.name === bench.theme)?.attributes,
    props: givenAt(c, using ? 0 : at),
    states: activeAt(c, at),
    values: keptAt(c, at),
    x: 16 + i * 260,
    y: 12,
    width: 228,
    paths: c.paths,
  }));
  const moment = Math.round(at);
  return (
    <section className={classes.time} aria-label="Time line">
      <header className={classes.timeHead}>
        <h2>Time line</h2>
        <Button size="compact-xs" onClick={play} disabled={using}>
          {playing ? "Stop" : "Play"} <kbd>Space</kbd>
        </Button>
        <Button size="compact-xs" onClick={step} disabled={using}>
          Step <kbd>.</kbd>
        </Button>
        <NativeSelect
          size="xs"
          aria-label="Speed"
          value={speed}
          onChange={(e) => setSpeed(Number(e.currentTarget.value))}
          data={speeds.map((s) => ({ value: String(s), label: `${s} ×` }))}
        />
        <NativeSelect
          size="xs"
          aria-label="How long"
          value={until}
          onChange={(e) => {
            setUntil(Number(e.currentTarget.value));
            setAt(0);
          }}
          data={[...new Set([view.span, until, 1_000, 5_000, 10_000, 30_000, 60_000, 600_000])]
            .sort((a, b) => a - b)
            .map((ms) => ({ value: String(ms), label: said(ms) }))}
        />
        {view.events.length > 0 && (
          <NativeSelect
            size="xs"
            aria-label="What happens"
            value={event}
            onChange={(e) => setEvent(Number(e.currentTarget.value))}
            data={view.events.map((e, i) => ({ value: String(i), label: e.words }))}
          />
        )}
        {chosen?.drag && (
          <input
            className={classes.share}
            aria-label="Where to, from 0 to 1"
            value={share}
            onChange={(e) => setShare(e.currentTarget.value)}
          />
        )}
        {chosen?.values && (
          <NativeSelect
            size="xs"
            aria-label="What it becomes"
            value={value}
            onChange={(e) => setValue(Number(e.currentTarget.value))}
            data={chosen.values.map((v, i) => ({ value: String(i), label: typeof v === "string" ? v : JSON.stringify(v) }))}
          />
        )}
        {chosen && (
          <Button size="compact-xs" onClick={() => drop(mine, at)} disabled={using}>
            Let it happen <kbd>Enter</kbd>
          </Button>
        )}
        <span className={classes.clock} role="status">
          {said(moment)}
        </span>
        <span className={classes.end}>
          <Button
            size="compact-xs"
            aria-pressed={using}
            onClick={use}
            title="They run by themselves below, in real time, and what is done to them is recorded: press them, tab to them"
          >
            {using ? "Back to the time line" : "Use and record"}
          </Button>
          <Button
            size="compact-xs"
            disabled={using || instances.length >= 8}
            onClick={() => setInstances((all) => [...all, { happens: [] }])}
          >
            One more
          </Button>
          <Button
            size="compact-xs"
            disabled={using || instances.length < 2}
            onClick={() => {
              setInstances((all) => all.slice(0, -1));
              setMine(Math.min(mine, instances.length - 2));
            }}
          >
            One less
          </Button>
        </span>
      </header>
      {run.error && <Failure error={run.error} />}
      <Courses
        view={view}
        instances={instances}
        courses={courses}
        at={at}
        until={until}
        mine={mine}
        event={chosen?.words ?? ""}
        onKeyDown={onKeyDown}
        onAt={(when, which) => {
          if (which !== undefined) setMine(which);
          setPlaying(false);
          setAt(when);
        }}
        onDrop={drop}
        onLift={lift}
        onChoose={onChoose}
      />
      <div className={classes.below}>
        <div className={classes.screens}>
          {courses.length > 0 && (
            <BuiltFrame
              src={src}
              title="What is on screen at this time"
              cases={shown}
              point={!using}
              onHeard={hear}
              onPointed={(p) => {
                const which = shown.findIndex((s) => s.key === p.case);
                if (which < 0) return;
                setMine(which);
                setPart(p.parts[0]);
              }}
              width={Math.max(320, 32 + courses.length * 260)}
              height={300}
            />
          )}
        </div>
        <Scenarios
          bench={bench}
          view={view}
          instance={own}
          place={mine + 1}
          at={moment}
          part={part}
          onPart={setPart}
          onToggle={(expect) => change(mine, (all) => toggled(all, moment, expect))}
          onLay={lay}
          onEdited={onEdited}
        />
      </div>
    </section>
  );
}
