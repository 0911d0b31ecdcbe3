import type { KeyboardEvent, PointerEvent } from "react";
import { useRef } from "react";

import type { Schema } from "../../../api/client";
import { count } from "../../../ui/count";
import { activeAt, layCourse, ruler, said } from "./bricks";
import classes from "./Behaviour.module.css";
import { saidOf } from "./moments";

interface Props {
  view: Schema["BehaviourView"];
  instances: Schema["Instance"][];
  courses: Schema["Course"][];
  at: number;
  until: number;
  /** The instance that is worked on. */
  mine: number;
  /** What happens next, in words. */
  event: string;
  onKeyDown: (e: KeyboardEvent<HTMLElement>) => void;
  onAt: (at: number, instance?: number) => void;
  onDrop: (instance: number, at: number) => void;
  onLift: (instance: number, index: number) => void;
  onChoose: (state: string) => void;
}

/** A course an instance: bricks as long as states last, with what happens to it, what is expected of it and what it tells. */
export function Courses({ view, instances, courses, at, until, mine, event, onKeyDown, onAt, onDrop, onLift, onChoose }: Props) {
  const lines = useRef<HTMLDivElement>(null);
  const percent = (ms: number) => `${(ms / until) * 100}%`;
  const timeAt = (e: PointerEvent<HTMLElement>) => {
    const box = lines.current?.getBoundingClientRect();
    return box ? Math.min(until, Math.max(0, ((e.clientX - box.left) / box.width) * until)) : 0;
  };
  return (
    <div className={classes.courses}>
      <span />
      <div
        className={classes.ruler}
        role="slider"
        tabIndex={0}
        aria-label={`Time of ${count(instances.length, "instance")}. Arrows go through time and from one to another, Enter lets ${event || "nothing"} happen, Delete takes the last back`}
        aria-valuemin={0}
        aria-valuemax={until}
        aria-valuenow={Math.round(at)}
        aria-valuetext={`${said(at)}: ${courses.map((c) => activeAt(c, at).at(-1) ?? "nothing").join(", ")}`}
        onKeyDown={onKeyDown}
        ref={lines}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          onAt(timeAt(e));
        }}
        onPointerMove={(e) => {
          if (e.currentTarget.hasPointerCapture(e.pointerId)) onAt(timeAt(e));
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
          <span
            key={`${i} name`}
            className={classes.instance}
            data-mine={i === mine || undefined}
            title={one.scenario}
            onPointerDown={() => onAt(at, i)}
          >
            {i + 1}
            {one.scenario !== undefined && <em> {one.scenario}</em>}
            {Object.entries(one.begins ?? {}).map(([prop, v]) => (
              <em key={prop}> {v === "true" ? prop : v === "false" ? `not ${prop}` : v}</em>
            ))}
          </span>,
          <div
            key={i}
            className={classes.course}
            data-mine={i === mine || undefined}
            style={{ height: rows * 26 + 8 }}
            onPointerDown={(e) => onAt(timeAt(e), i)}
            onDoubleClick={() => onDrop(i, at)}
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
            {one.happens.map((h, k) => {
              const beside = one.happens.slice(0, k).filter((o) => o.at === h.at).length;
              const missed = courses[i]?.missed[k];
              const words = `${saidOf(h, courses[i]?.says[k], view.events)} at ${said(h.at)}${missed ? `: ${missed}` : ""}`;
              return (
                <button
                  key={`${h.at} ${k}`}
                  type="button"
                  className={classes.happens}
                  data-expects={h.expect ? true : undefined}
                  data-missed={missed ? true : undefined}
                  style={{ left: `calc(${percent(h.at)} + ${beside * 9}px)` }}
                  aria-label={`Take back: ${words}`}
                  title={`${words}; a press takes it back`}
                  onPointerDown={(e) => e.stopPropagation()}
                  onClick={() => onLift(i, k)}
                />
              );
            })}
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
  );
}
