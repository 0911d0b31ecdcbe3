import { type ReactNode, useId } from "react";

import type { Box } from "../../preview/messages";
import { chain, type Place, placed, placesOf, rounded, sideOf, type Span, spread, ticks } from "./geometry";
import classes from "./Marks.module.css";

/** The margins that a picture's numbers and dimensions stand in, px of the sheet. */
export const margin = { left: 40, top: 34, right: 54, bottom: 34 };

/** How a picture of a size fits a sheet with its margins: the largest scale of some that look sharp. */
export function fitted(width: number, height: number, sheet: { width: number; height: number }): Place {
  const room = { width: sheet.width - margin.left - margin.right, height: sheet.height - margin.top - margin.bottom };
  const fit = Math.min(room.width / width, room.height / height);
  const scale = fit >= 1 ? Math.min(6, Math.floor(fit * 4) / 4) : Math.max(0.05, Math.floor(fit * 20) / 20);
  return { scale, x: margin.left + (room.width - width * scale) / 2, y: margin.top + (room.height - height * scale) / 2 };
}

/** A sheet of marks over a picture; what stands under it hears the pointer. */
export function Sheet({ width, height, children }: { width: number; height: number; children: ReactNode }) {
  return (
    <svg className={classes.sheet} width={width} height={height} aria-hidden="true">
      {children}
    </svg>
  );
}

interface TicksProps {
  box: Box;
  chosen?: boolean;
  dashed?: boolean;
  /** On a picture of any colours: paper is left around them. */
  haloed?: boolean;
}

/** Corner ticks just outside of a part; longer and in brick for the chosen one. */
export function Ticks({ box, chosen = false, dashed = false, haloed = false }: TicksProps) {
  const d = ticks(box, chosen ? 12 : 7, chosen ? 3 : 2);
  return (
    <>
      {haloed && <path className={classes.halo} d={d} />}
      <path className={classes.line} data-mark="ticks" data-chosen={chosen || undefined} data-dashed={dashed || undefined} d={d} />
    </>
  );
}

export interface Numbered {
  key: string;
  number: number;
  box: Box;
}

/** How far apart numbers in a margin stand at least, px: down, and across. */
const lines = { left: 13, top: 20 };

/**
 * The numbers of parts in the margins at the left and over a picture, each tied to its part by a leader that
 * crosses no other. Where not all of a margin fit, the chosen one's stands alone.
 */
export function Numbers({
  parts: all,
  root,
  chosen,
  sheet,
}: {
  parts: Numbered[];
  /** The whole picture, beside which they stand. */
  root: Box;
  chosen: string | undefined;
  sheet: { width: number; height: number };
}) {
  const parts = all.filter((p) => p.box.width > 0 && p.box.height > 0);
  const boxes = parts.map((p) => p.box);
  const top = root.y - 14;
  const left = Math.max(margin.left, root.x - 8);
  const sides = parts.map((p) => sideOf(p.box, boxes) ?? (p.key === chosen ? "left" : undefined));
  return (["left", "top"] as const).flatMap((side) => {
    const mine = parts.filter((_, i) => sides[i] === side);
    const middle = (p: Numbered) => (side === "left" ? p.box.y + p.box.height / 2 : p.box.x + p.box.width / 2);
    const places = (list: Numbered[]) =>
      spread(
        list.map(middle),
        lines[side],
        side === "left" ? 8 : margin.left,
        (side === "left" ? sheet.height : sheet.width - margin.right) - 8,
      );
    const shown = places(mine) ? mine : mine.filter((p) => p.key === chosen);
    const at = places(shown) ?? [];
    return shown.map((p, i) => {
      const label = at[i]!;
      const path =
        side === "left"
          ? `M${left - 16} ${label}H${left - 8}L${left} ${middle(p)}H${Math.max(left, p.box.x - 2)}`
          : `M${label} ${top - 4}V${top}L${middle(p)} ${top + 8}V${p.box.y - 2}`;
      return (
        <g key={p.key} data-chosen={p.key === chosen || undefined}>
          <path className={classes.leader} d={path} />
          <text
            className={classes.number}
            {...(side === "left" ? { x: left - 19, y: label + 4, textAnchor: "end" } : { x: label, y: top - 8, textAnchor: "middle" })}
          >
            {p.number}
          </text>
        </g>
      );
    });
  });
}

/**
 * Dimensions along one line: each a thin line between two short oblique strokes, its number over it, or at its right. A
 * number that is too long for its line stands on the other side; those beside each other keep clear.
 */
export function Dimensions({ spans, at, down = false }: { spans: Span[]; at: number; down?: boolean }) {
  const labels = placesOf(spans, down);
  const point = (along: number, across: number) => (down ? `${at + across} ${along}` : `${along} ${at + across}`);
  const stroke = (along: number) => `M${point(along - 3, 3)}L${point(along + 3, -3)}`;
  return spans.map((s, i) => {
    const { along, off } = labels[i]!;
    return (
      <g key={s.from} data-mark="dimension">
        <path className={classes.thin} d={`M${point(s.from, 0)}L${point(s.to, 0)}${stroke(s.from)}${stroke(s.to)}`} />
        <text className={classes.size} {...(down ? { x: at + off, y: along + 4 } : { x: along, y: at + off, textAnchor: "middle" })}>
          {rounded(s.px)}
        </text>
      </g>
    );
  });
}

/** Where dimensions stand, px under a picture and at its right. */
const beside = { under: 20, right: 12 };

/** A part with its dimensions, and its distances to the edges of what it stands in: across at the foot, down at the right. */
export function Measured({ box, root, place }: { box: Box; root: Box; place: Place }) {
  const edge = placed(root, place);
  return (
    <>
      <Dimensions spans={chain(box, root, "x", place)} at={edge.y + edge.height + beside.under} />
      <Dimensions spans={chain(box, root, "y", place)} at={edge.x + edge.width + beside.right} down />
    </>
  );
}

/** The whole's size: its width under it, its height at its right. */
export function Size({ root, place }: { root: Box; place: Place }) {
  return <Measured box={root} root={root} place={place} />;
}

/** Room as mortar: gaps and paddings told apart by their grain. */
export function Mortar({
  rooms,
  onPick,
}: {
  rooms: { key: string; kind: string; box: Box; lit: boolean; title: string }[];
  onPick?: (key: string, at: SVGElement) => void;
}) {
  const id = useId();
  return (
    <>
      <defs>
        <pattern id={`${id}-gap`} width="5" height="5" patternUnits="userSpaceOnUse">
          <rect x="1" y="1" width="1.5" height="1.5" />
        </pattern>
        <pattern id={`${id}-padding`} width="8" height="8" patternUnits="userSpaceOnUse">
          <rect x="1" y="2" width="3" height="1" />
          <rect x="5" y="6" width="3" height="1" />
        </pattern>
        <pattern id={`${id}-room`} width="10" height="10" patternUnits="userSpaceOnUse">
          <rect x="4" y="4" width="1" height="1" />
        </pattern>
        <pattern id={`${id}-overlap`} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="1.5" height="6" />
        </pattern>
      </defs>
      {rooms.map((r) => (
        <rect
          key={r.key}
          className={classes.mortar}
          data-kind={r.kind}
          data-lit={r.lit || undefined}
          x={r.box.x}
          y={r.box.y}
          width={r.box.width}
          height={r.box.height}
          fill={`url(#${id}-${r.kind})`}
          onClick={(e) => onPick?.(r.key, e.currentTarget)}
        >
          <title>{r.title}</title>
        </rect>
      ))}
    </>
  );
}
