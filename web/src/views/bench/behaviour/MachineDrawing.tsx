import { useElementSize } from "@mantine/hooks";
import { type KeyboardEvent, useEffect, useState } from "react";

import type { Schema } from "../../../api/client";
import { Loading } from "../../../ui/States";
import classes from "./Behaviour.module.css";
import type { Asked } from "./BrickTools";
import { beside, clipped, type Drawing, drawn, graph, saidOf, saidOn } from "./lay";

interface Props {
  view: Schema["BehaviourView"];
  chosen: string | undefined;
  onChoose: (state: string) => void;
  /** Leads to the state's sentences. */
  onOpen: (state: string) => void;
  onAsk: (what: Asked) => void;
}

const keys: Record<string, Asked> = { r: "rename", a: "add", l: "lead", Delete: "remove" };

/** The machine: states as bricks in courses by their distance from the first one, what leads from one to another as thin lines. */
export function MachineDrawing({ view, chosen, onChoose, onOpen, onAsk }: Props) {
  const [laid, setLaid] = useState<{ of: string; drawing: Drawing }>();
  const [failed, setFailed] = useState<string>();
  const { ref: pane, width: wide, height: high } = useElementSize();
  const of = JSON.stringify([view.states, view.ways]);
  useEffect(() => {
    let current = true;
    const [states, ways] = JSON.parse(of) as [Schema["BrickView"][], Schema["WayView"][]];
    void import("elkjs/lib/elk.bundled.js")
      .then(({ default: Elk }) => new Elk().layout(graph(states, ways)))
      .then((made) => current && setLaid({ of, drawing: drawn(made, ways) }))
      .catch((e: unknown) => current && setFailed(String(e)));
    return () => {
      current = false;
    };
  }, [of]);
  // As large as there is room for, and no smaller than it can be read.
  const scale = laid ? Math.min(1, Math.max(0.75, (wide - 8) / laid.drawing.width), Math.max(0.75, (high - 8) / laid.drawing.height)) : 1;
  if (failed) return <p className={classes.quiet}>The drawing cannot be laid out: {failed}</p>;
  if (!laid) return <Loading what="the drawing" />;
  const { drawing } = laid;
  const known = new Map(view.states.map((s) => [s.id, s]));
  const lit = drawing.bricks.some((b) => b.id === chosen) ? chosen : undefined;
  const first = lit ?? drawing.bricks[0]?.id;
  const onKeyDown = (e: KeyboardEvent<HTMLElement>) => {
    const from = (e.target as HTMLElement).dataset["brick"];
    if (from === undefined) return;
    const to = beside(drawing.bricks, from, e.key);
    if (to) e.currentTarget.querySelector<HTMLElement>(`[data-brick="${CSS.escape(to.id)}"]`)?.focus();
    else if (e.key === "Enter") onOpen(from);
    else if (keys[e.key] && !e.ctrlKey && !e.metaKey && !e.altKey) onAsk(keys[e.key]!);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div
      ref={pane}
      className={classes.drawing}
      role="group"
      aria-label="The machine. Arrows walk it, Enter leads to the sentences, R renames a state, A adds one after it, L leads to another, Delete takes it away"
      onKeyDown={onKeyDown}
    >
      {view.anywhere.length > 0 && (
        <ul className={classes.anywhere} aria-label="From every state">
          {view.anywhere.map((w) => (
            <li key={w}>{w}</li>
          ))}
        </ul>
      )}
      <div style={{ width: drawing.width * scale, height: drawing.height * scale }}>
        <div className={classes.laid} style={{ width: drawing.width, height: drawing.height, transform: `scale(${scale})` }}>
          {drawing.bricks.map((b) => {
            const s = known.get(b.id);
            return (
              <button
                key={b.id}
                type="button"
                className={classes.brick}
                data-brick={b.id}
                data-holds={b.holds || undefined}
                data-begins={s?.begins || undefined}
                data-lit={b.id === lit || undefined}
                tabIndex={b.id === first ? 0 : -1}
                style={{ left: b.x, top: b.y, width: b.width, height: b.height }}
                title={s?.says.join("\n")}
                onFocus={() => onChoose(b.id)}
                onClick={() => onChoose(b.id)}
                onDoubleClick={() => onOpen(b.id)}
              >
                <strong>
                  {b.id}
                  {s?.kind && <span className={classes.kind}> {s.kind}</span>}
                </strong>
                {s && saidOf(s).map((w) => <span key={w}>{clipped(w, 28)}</span>)}
              </button>
            );
          })}
          <svg width={drawing.width} height={drawing.height} aria-hidden="true">
            <defs>
              <marker
                id="way-end"
                viewBox="0 0 8 8"
                refX="8"
                refY="4"
                markerWidth="8"
                markerHeight="8"
                orient="auto-start-reverse"
                markerUnits="userSpaceOnUse"
              >
                <path d="M0.5 0.5L8 4L0.5 7.5" fill="none" stroke="context-stroke" />
              </marker>
            </defs>
            {drawing.ways.map((w) => (
              <g key={w.key} data-lit={w.from === lit || undefined}>
                <path d={w.path} markerEnd="url(#way-end)" />
                {w.at && (
                  <text>
                    <title>{w.words}</title>
                    {saidOn(w.words).map((one, i) => (
                      <tspan key={one} x={w.at!.x + 4} y={w.at!.y + 11 + i * 15}>
                        {one}
                      </tspan>
                    ))}
                  </text>
                )}
              </g>
            ))}
          </svg>
        </div>
      </div>
    </div>
  );
}
