import { type KeyboardEvent, type PointerEvent, useMemo } from "react";
import { useNavigate } from "react-router";

import type { Schema } from "../../api/client";
import { beside, wall } from "./courses";
import stage from "./Stage.module.css";
import { useSheet } from "./useSheet";
import classes from "./Wall.module.css";
import { Zoom } from "./Zoom";

interface Props {
  survey: Schema["Survey"];
  lit: string | undefined;
  onLit: (group: string | undefined) => void;
}

/** What is made of what, as a wall: components as bricks in courses, each resting on what it is made of, the foundation at the foot. */
export function Wall({ survey: s, lit, onLit }: Props) {
  const navigate = useNavigate();
  const laid = useMemo(() => wall(s.order), [s.order]);
  const { ref, place, moving, larger, smaller, reset, onKeyDown, onPointerDown, dragged, pressed } = useSheet("wall", laid);
  const pieces = useMemo(() => new Map(s.order.map((p) => [p.id, p])), [s.order]);
  const rests = useMemo(() => (lit ? reached(pieces, lit, (p) => p.of) : new Set<string>()), [pieces, lit]);
  const carries = useMemo(() => {
    const up = new Map<string, string[]>();
    for (const p of s.order) for (const id of p.of) up.set(id, [...(up.get(id) ?? []), p.id]);
    return lit ? reached(pieces, lit, (p) => up.get(p.id) ?? []) : new Set<string>();
  }, [s.order, pieces, lit]);
  const onKey = (e: KeyboardEvent) => {
    const from = (e.target as HTMLElement).dataset["brick"];
    const to = from === undefined ? undefined : beside(laid.bricks, from, e.key);
    if (!to) return;
    e.preventDefault();
    [...e.currentTarget.querySelectorAll<HTMLElement>("[data-brick]")].find((b) => b.dataset["brick"] === to.id)?.focus();
  };
  return (
    <div
      ref={ref}
      className={stage.stage}
      role="region"
      aria-label="The wall: what is made of what. Arrows walk it, plus and minus enlarge it, 0 fits it"
      onKeyDown={(e) => {
        onKey(e);
        onKeyDown(e);
      }}
      onPointerDown={onPointerDown}
      onPointerMove={(e: PointerEvent<HTMLElement>) => void dragged(e)}
      onPointerUp={() => void pressed()}
    >
      <div
        className={classes.wall}
        data-moving={moving || undefined}
        style={{
          width: laid.width,
          height: laid.height,
          transform: `translate(${place.x}px, ${place.y}px) scale(${place.scale})`,
        }}
      >
        {laid.bricks.map((b) => {
          const p = pieces.get(b.id)!;
          return (
            <button
              key={b.id}
              type="button"
              className={classes.brick}
              data-brick={b.id}
              data-state={p.state}
              data-kind={p.kind}
              data-lit={b.id === lit || undefined}
              data-under={rests.has(b.id) || undefined}
              data-over={carries.has(b.id) || undefined}
              style={{ left: b.x, top: b.y, width: b.width, height: b.height }}
              title={p.of.length > 0 ? `made of ${p.of.map((id) => pieces.get(id)?.name).join(", ")}` : undefined}
              onPointerEnter={() => onLit(b.id)}
              onPointerLeave={() => onLit(undefined)}
              onFocus={() => onLit(b.id)}
              onBlur={() => onLit(undefined)}
              onClick={() => p.component && void navigate(`/bench/${p.component}`)}
            >
              {p.name}
              <span>{p.kind === "page" ? "page" : p.state === "ready" ? "can be built" : p.state}</span>
            </button>
          );
        })}
      </div>
      <Zoom scale={place.scale} smaller={smaller} reset={reset} larger={larger} />
    </div>
  );
}

/** All that is reached from a piece, itself left out. */
function reached(pieces: Map<string, Schema["SurveyPiece"]>, from: string, next: (p: Schema["SurveyPiece"]) => string[]): Set<string> {
  const out = new Set<string>();
  const todo = [from];
  for (let id = todo.pop(); id !== undefined; id = todo.pop()) {
    const p = pieces.get(id);
    if (p)
      for (const n of next(p))
        if (!out.has(n) && n !== from) {
          out.add(n);
          todo.push(n);
        }
  }
  return out;
}
