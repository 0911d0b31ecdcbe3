import { Button } from "@mantine/core";
import { type PointerEvent, useRef } from "react";

import { api, type Schema, useWidths, useWrite } from "../api/client";
import { Failure } from "../ui/States";
import classes from "./WidthRail.module.css";

interface Props {
  slug: string;
  build: string;
  revision: number;
  shown: Schema["CaseView"];
  /** Of the container, px; undefined for as drawn. */
  width: number | undefined;
  /** Follows the hand; the width is kept when it lets go. */
  onWidth: (width: number | undefined, kept: boolean) => void;
  part: string | undefined;
  onPart: (part: string | undefined) => void;
}

const marks = [320, 480, 640, 800, 960, 1120, 1280, 1440];
const rem = 16;

/**
 * A ruler of the widths a container may have: dragged, it sets the width in
 * every lane. It shows where the contract switches its arrangement, the bands in
 * which the case is in trouble, and what would end them.
 */
export function WidthRail({ slug, build, revision, shown, width, onWidth, part, onPart }: Props) {
  const { data, error } = useWidths(slug, build, shown.key);
  const ruler = useRef<HTMLDivElement>(null);
  const arrange = useWrite((proposal: { at: number; part: string; kind: string }) =>
    api.arrange(slug, { revision, case: shown.key, part: proposal.part, kind: proposal.kind, below: proposal.at, at: proposal.at - 1 }),
  );
  const move = useWrite((to: { from: number; to: number }) => api.moveSwitch(slug, { revision, ...to }));
  if (error) return <Failure error={error} />;
  if (!data) return <div className={classes.rail} aria-busy />;
  const { from, to, proposals, points } = data;
  const now = width ?? Math.round(shown.width);
  const asDrawn = shown.picture === "" ? "as laid out" : "as drawn";
  const at = (px: number) => `${((Math.min(to, Math.max(from, px)) - from) / (to - from)) * 100}%`;
  const bands = data.bands.map((b) => ({ ...b, last: b.part.split(" › ").at(-1) ?? b.part }));
  const inRange = (px: number) => Math.round(Math.min(to, Math.max(from, px)));
  // Where something changes: what Page Up and Page Down go to.
  const stops = [...new Set([from, to, ...points.flatMap((p) => [p.at - 1, p.at]), ...bands.flatMap((b) => [b.from, b.to, b.to + 1])])]
    .map(inRange)
    .sort((a, b) => a - b);

  const follow = (e: PointerEvent, kept: boolean) => {
    const box = ruler.current?.getBoundingClientRect();
    if (box) onWidth(inRange(from + ((e.clientX - box.left) / box.width) * (to - from)), kept);
  };
  const key = (e: React.KeyboardEvent) => {
    const step = e.shiftKey ? 16 : 1;
    const next: Record<string, number | undefined> = {
      ArrowRight: now + step,
      ArrowUp: now + step,
      ArrowLeft: now - step,
      ArrowDown: now - step,
      Home: from,
      End: to,
      PageUp: stops.find((s) => s > now) ?? to,
      PageDown: stops.findLast((s) => s < now) ?? from,
    };
    const px = next[e.key];
    if (e.key === "Escape" && width !== undefined) onWidth(undefined, true);
    else if (px !== undefined) onWidth(inRange(px), true);
    else return;
    e.preventDefault();
  };
  const failed = arrange.error ?? move.error;
  return (
    <section className={classes.rail} aria-label="Widths">
      <h2 className={classes.head}>
        Widths
        <span className="mono">
          {now} px <span className="quiet">{now / rem} rem</span>
        </span>
        {width === undefined ? (
          <span className="quiet">{asDrawn}</span>
        ) : (
          <button type="button" className={classes.back} onClick={() => onWidth(undefined, true)}>
            back to drawn
          </button>
        )}
      </h2>
      <div
        ref={ruler}
        className={classes.ruler}
        role="slider"
        tabIndex={0}
        aria-label="Width of the container, px"
        aria-valuemin={from}
        aria-valuemax={to}
        aria-valuenow={inRange(now)}
        aria-valuetext={`${now} px${width === undefined ? `, ${asDrawn}` : ""}`}
        onKeyDown={key}
        onPointerDown={(e) => {
          if (e.button !== 0) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          follow(e, false);
        }}
        onPointerMove={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && follow(e, false)}
        onPointerUp={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && follow(e, true)}
      >
        {marks.map((m) => (
          <span key={m} className={classes.mark} style={{ left: at(m) }}>
            {m} <span className="quiet">{m / rem} rem</span>
          </span>
        ))}
        {bands.map((b) => (
          <span
            key={`${b.part} ${b.kind} ${b.from}`}
            className={classes.band}
            data-lit={b.node === part || undefined}
            style={{ left: at(b.from), width: `calc(${at(b.to)} - ${at(b.from)} + 2px)` }}
            onPointerEnter={() => onPart(b.node)}
            onPointerLeave={() => onPart(undefined)}
          />
        ))}
        {proposals.map((o) => (
          <span key={`${o.of} ${o.at}`} className={classes.proposal} style={{ left: at(o.at) }} />
        ))}
        {points.map((p) => (
          <span key={p.at} className={classes.point} style={{ left: at(p.at) }}>
            {p.at}
          </span>
        ))}
        <span className={classes.hand} data-chosen={width !== undefined || undefined} style={{ left: at(now) }} />
      </div>
      {failed && <Failure error={failed} />}
      {bands.length === 0 && points.length === 0 ? (
        <p className={classes.calm}>Nothing breaks at any of these widths.</p>
      ) : (
        <ul className={classes.list} aria-label="Switch points and trouble">
          {points.map((p) => (
            <li key={`point ${p.at}`}>
              <span className="mono">below {p.at} px</span> <b>{p.parts.join(", ")}</b> laid out otherwise
              <Button size="compact-xs" variant="subtle" onClick={() => move.mutate({ from: p.at, to: 0 })}>
                Remove
              </Button>
              {width !== undefined && width !== p.at && (
                <Button size="compact-xs" variant="subtle" onClick={() => move.mutate({ from: p.at, to: width })}>
                  Move to {width} px
                </Button>
              )}
            </li>
          ))}
          {bands.map((b) => {
            const proposal = proposals.find((o) => o.at === b.to + 1 && o.of === b.node);
            return (
              <li
                key={`${b.part} ${b.kind} ${b.from}`}
                tabIndex={0}
                onPointerEnter={() => onPart(b.node)}
                onPointerLeave={() => onPart(undefined)}
                onFocus={() => onPart(b.node)}
                onBlur={() => onPart(undefined)}
              >
                <span className="mono">{b.from === b.to ? `${b.from} px` : `${b.from} to ${b.to} px`}</span> <b>{b.last}</b> {b.kind}:{" "}
                {b.reason}
                {proposal?.kinds.map((kind) => (
                  <Button
                    key={kind}
                    size="compact-xs"
                    variant="subtle"
                    onClick={() => arrange.mutate({ at: proposal.at, part: proposal.part, kind })}
                  >
                    {proposal.name}: {kind} below {proposal.at} px
                  </Button>
                ))}
              </li>
            );
          })}
        </ul>
      )}
    </section>
  );
}
