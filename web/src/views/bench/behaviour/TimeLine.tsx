import { Button, NativeSelect } from "@mantine/core";
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";

import type { ShownCase } from "../../../../preview/messages";
import { type Schema, useCourses } from "../../../api/client";
import { BuiltFrame } from "../../../lanes/BuiltFrame";
import { Failure } from "../../../ui/States";
import { count } from "../../../ui/count";
import { activeAt, keptAt, layCourse, nextChange, ruler, said } from "./bricks";
import classes from "./Behaviour.module.css";

interface Props {
  bench: Schema["Bench"];
  view: Schema["BehaviourView"];
  src: string;
  onChoose: (state: string) => void;
}

const speeds = [0.25, 0.5, 1, 2, 5, 10];

/** Several at first: one for each value it can begin with, three at most; else two. */
function beginning(view: Schema["BehaviourView"]): Schema["Instance"][] {
  const values = view.begins.slice(0, 3);
  if (values.length < 2) return [{ happens: [] }, { happens: [] }];
  return values.map((v) => ({ begins: { [v.prop]: v.value }, happens: [] }));
}

/** Several instances side by side in simulated time: a course each, a brick as long as its state lasts, and what is on screen at the time that is pointed at. */
export function TimeLine({ bench, view, src, onChoose }: Props) {
  const [instances, setInstances] = useState(() => beginning(view));
  const [at, setAt] = useState(0);
  const [until, setUntil] = useState(view.span);
  const [mine, setMine] = useState(0);
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState(1);
  const [used, setUsed] = useState(false);
  const [event, setEvent] = useState(0);
  const [share, setShare] = useState("0.5");
  const lines = useRef<HTMLDivElement>(null);
  const run = useCourses(bench.slug, bench.build, instances, until);
  const courses = run.data ?? [];
  const chosen = view.events[Math.min(event, view.events.length - 1)];

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

  const change = (which: number, to: (i: Schema["Instance"]) => Schema["Instance"]) =>
    setInstances((all) => all.map((one, i) => (i === which ? to(one) : one)));
  const drop = (which: number, when: number) => {
    if (!chosen) return;
    const value = chosen.drag ? Math.min(1, Math.max(0, Number(share) || 0)) : undefined;
    change(which, (i) => ({
      ...i,
      happens: [...i.happens, { at: Math.round(when), event: chosen.event, value }].sort((a, b) => a.at - b.at),
    }));
  };
  const lift = (which: number, index: number) => change(which, (i) => ({ ...i, happens: i.happens.filter((_, k) => k !== index) }));
  const play = () => {
    if (!playing && at >= until) setAt(0);
    setPlaying(!playing);
  };
  const step = () => {
    setPlaying(false);
    setAt(nextChange(courses, at, until));
  };
  const timeAt = (e: PointerEvent<HTMLElement>) => {
    const box = lines.current?.getBoundingClientRect();
    return box ? Math.min(until, Math.max(0, ((e.clientX - box.left) / box.width) * until)) : 0;
  };
  const onKeyDown = (e: KeyboardEvent<HTMLElement>) => {
    const fine = until / (e.shiftKey ? 20 : 200);
    const before = instances[mine]?.happens.findLastIndex((h) => h.at <= at) ?? -1;
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
  const percent = (ms: number) => `${(ms / until) * 100}%`;
  const shown: ShownCase[] = courses.map((c, i) => ({
    key: used ? `used ${i}` : `${i} ${activeAt(c, at).join(" ")}`,
    live: used,
    theme: bench.theme,
    attributes: bench.themes.find((t) => t.name === bench.theme)?.attributes,
    props: c.props,
    states: activeAt(c, at),
    values: keptAt(c, at),
    x: 16 + i * 260,
    y: 12,
    width: 228,
    paths: {},
  }));
  return (
    <section className={classes.time} aria-label="Time line">
      <header className={classes.timeHead}>
        <h2>Time line</h2>
        <Button size="compact-xs" onClick={play}>
          {playing ? "Stop" : "Play"} <kbd>Space</kbd>
        </Button>
        <Button size="compact-xs" onClick={step}>
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
          data={[...new Set([view.span, 1_000, 5_000, 10_000, 30_000, 60_000, 600_000])]
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
        {chosen && (
          <Button size="compact-xs" onClick={() => drop(mine, at)}>
            Let it happen <kbd>Enter</kbd>
          </Button>
        )}
        <span className={classes.clock} role="status">
          {said(at)}
        </span>
        <span className={classes.end}>
          <Button
            size="compact-xs"
            aria-pressed={used}
            onClick={() => setUsed(!used)}
            title="They run by themselves below, in real time: press them, tab to them"
          >
            {used ? "Back to the time line" : "Use them"}
          </Button>
          <Button size="compact-xs" disabled={instances.length >= 8} onClick={() => setInstances((all) => [...all, { happens: [] }])}>
            One more
          </Button>
          <Button size="compact-xs" disabled={instances.length < 2} onClick={() => setInstances((all) => all.slice(0, -1))}>
            One less
          </Button>
        </span>
      </header>
      {run.error && <Failure error={run.error} />}
      <div className={classes.courses}>
        <span />
        <div
          className={classes.ruler}
          role="slider"
          tabIndex={0}
          aria-label={`Time of ${count(instances.length, "instance")}. Arrows go through time and from one to another, Enter lets ${chosen?.words ?? "nothing"} happen, Delete takes the last back`}
          aria-valuemin={0}
          aria-valuemax={until}
          aria-valuenow={Math.round(at)}
          aria-valuetext={`${said(at)}: ${courses.map((c) => activeAt(c, at).at(-1) ?? "nothing").join(", ")}`}
          onKeyDown={onKeyDown}
          ref={lines}
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            setPlaying(false);
            setAt(timeAt(e));
          }}
          onPointerMove={(e) => {
            if (e.currentTarget.hasPointerCapture(e.pointerId)) setAt(timeAt(e));
          }}
        >
          {ruler(until).map((t) => (
            <span key={t} style={{ left: percent(t) }}>
              {said(t)}
            </span>
          ))}
          <i className={classes.needle} style={{ left: percent(at) }} />
        </div>
        {instances.map((one, i) => {
          const { bricks, rows } = layCourse(courses[i], view.states);
          return [
            <span key={`${i} name`} className={classes.instance} data-mine={i === mine || undefined} onPointerDown={() => setMine(i)}>
              {i + 1}
              {Object.entries(one.begins ?? {}).map(([prop, v]) => (
                <em key={prop}> {v === "true" ? prop : v === "false" ? `not ${prop}` : v}</em>
              ))}
            </span>,
            <div
              key={i}
              className={classes.course}
              data-mine={i === mine || undefined}
              style={{ height: rows * 26 + 8 }}
              onPointerDown={(e) => {
                setMine(i);
                setPlaying(false);
                setAt(timeAt(e));
              }}
              onDoubleClick={() => drop(i, at)}
            >
              {bricks.map((b) => (
                <span
                  key={`${b.state} ${b.from}`}
                  className={classes.lasts}
                  data-tone={b.tone}
                  style={{ left: percent(b.from), width: percent(b.to - b.from), top: b.row * 26 }}
                  title={`${b.state}, ${said(b.from)} to ${said(b.to)}`}
                  onPointerEnter={() => onChoose(b.state)}
                >
                  {b.state}
                </span>
              ))}
              {one.happens.map((h, k) => (
                <button
                  key={`${h.at} ${k}`}
                  type="button"
                  className={classes.happens}
                  style={{ left: percent(h.at) }}
                  aria-label={`Take back: ${view.events.find((e) => JSON.stringify(e.event) === JSON.stringify(h.event))?.words ?? "an event"} at ${said(h.at)}`}
                  title={`${view.events.find((e) => JSON.stringify(e.event) === JSON.stringify(h.event))?.words ?? "an event"} at ${said(h.at)}; a press takes it back`}
                  onPointerDown={(e) => e.stopPropagation()}
                  onClick={() => lift(i, k)}
                />
              ))}
              {(courses[i]?.told ?? []).map((t, k) => (
                <i
                  key={k}
                  className={classes.told}
                  data-wrong={t.error ? true : undefined}
                  style={{ left: percent(t.at) }}
                  title={t.error ? t.error : `${t.tell}(${t.with === undefined ? "" : JSON.stringify(t.with)}) is told at ${said(t.at)}`}
                />
              ))}
              <i className={classes.needle} style={{ left: percent(at) }} />
            </div>,
          ];
        })}
      </div>
      <div className={classes.screens}>
        {courses.length > 0 && (
          <BuiltFrame
            src={src}
            title="What is on screen at this time"
            cases={shown}
            width={Math.max(320, 32 + courses.length * 260)}
            height={300}
          />
        )}
      </div>
    </section>
  );
}
