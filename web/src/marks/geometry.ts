import type { Box } from "../../preview/messages";

/** Where a picture stands on its sheet: px of the sheet a px, and its origin there. */
export interface Place {
  scale: number;
  x: number;
  y: number;
}

export function placed(box: Box, { scale, x, y }: Place): Box {
  return { x: x + box.x * scale, y: y + box.y * scale, width: box.width * scale, height: box.height * scale };
}

/** The box around all of some. */
export function around(boxes: Box[]): Box {
  const x = Math.min(...boxes.map((b) => b.x));
  const y = Math.min(...boxes.map((b) => b.y));
  return { x, y, width: Math.max(...boxes.map((b) => b.x + b.width)) - x, height: Math.max(...boxes.map((b) => b.y + b.height)) - y };
}

/** Four corners, each of two short lines, so far outside of a box; shorter where the box is small. */
export function ticks(box: Box, long: number, off = 2): string {
  const [left, top, right, bottom] = [box.x - off, box.y - off, box.x + box.width + off, box.y + box.height + off];
  const across = Math.min(long, (right - left) / 3);
  const down = Math.min(long, (bottom - top) / 3);
  const corner = (x: number, y: number, dx: number, dy: number) => `M${n(x + dx)} ${n(y)}H${n(x)}V${n(y + dy)}`;
  return (
    corner(left, top, across, down) +
    corner(right, top, -across, down) +
    corner(left, bottom, across, -down) +
    corner(right, bottom, -across, -down)
  );
}

/**
 * Places for labels in a margin: as near to where they are wanted as they can be without touching, in
 * their order, from low to high. Undefined where they do not fit.
 */
export function spread(wanted: number[], gap: number, low: number, high: number): number[] | undefined {
  if (wanted.length > 0 && (wanted.length - 1) * gap > high - low) return undefined;
  const order = wanted.map((_, i) => i).sort((a, b) => wanted[a]! - wanted[b]! || a - b);
  const at: number[] = [];
  let least = low;
  order.forEach((i, k) => {
    at[i] = Math.max(least, Math.min(wanted[i]!, high - (order.length - 1 - k) * gap));
    least = at[i]! + gap;
  });
  return at;
}

/** On which side of a picture a part's number stands, so that its leader crosses no other part; none where it would. */
export function sideOf(part: Box, all: Box[]): "left" | "top" | undefined {
  const holds = (b: Box) =>
    b.x <= part.x && b.y <= part.y && b.x + b.width >= part.x + part.width && b.y + b.height >= part.y + part.height;
  const others = all.filter((b) => b !== part && b.width > 0 && b.height > 0 && !holds(b));
  const [x, y] = [part.x + part.width / 2, part.y + part.height / 2];
  if (!others.some((b) => b.x < part.x && b.y < y && b.y + b.height > y)) return "left";
  if (!others.some((b) => b.y < part.y && b.x < x && b.x + b.width > x)) return "top";
  return undefined;
}

/** A length between two places along a line, as it is written. */
export interface Span {
  from: number;
  to: number;
  px: number;
}

/**
 * What lies before a part, its own length, and what lies behind, along one axis of what is around it. What is too
 * short to be seen is left out.
 */
export function chain(part: Box, root: Box, axis: "x" | "y", place: Place): Span[] {
  const size = axis === "x" ? "width" : "height";
  const edges = [root[axis], part[axis], part[axis] + part[size], root[axis] + root[size]];
  const out: Span[] = [];
  for (let i = 0; i < 3; i++) {
    const px = edges[i + 1]! - edges[i]!;
    if (i === 1 || px * place.scale > 3)
      out.push({ from: place[axis] + edges[i]! * place.scale, to: place[axis] + edges[i + 1]! * place.scale, px });
  }
  return out;
}

/** How wide a number is written, and how high, px. */
const written = { wide: (px: number) => String(rounded(px)).length * 6.7, high: 12 };

/**
 * Where the number of each of a line's dimensions stands: along it, and off it. Across, over the line, or under it in
 * one of two rows where it is too wide; down, at the right, moved along as far as those beside it ask for.
 */
export function placesOf(spans: Span[], down: boolean): { along: number; off: number }[] {
  const middles = spans.map((s) => (s.from + s.to) / 2);
  if (down) {
    const room = written.high * spans.length;
    const at = spread(middles, written.high, Math.min(...middles) - room, Math.max(...middles) + room) ?? middles;
    return at.map((along) => ({ along, off: 7 }));
  }
  let under = 0;
  return spans.map((s, i) => {
    const fits = s.to - s.from >= written.wide(s.px) + 2;
    return { along: middles[i]!, off: fits ? -5 : 14 + written.high * (under++ % 2) };
  });
}

/** Hundredths are enough to read. */
export const rounded = (px: number) => Math.round(px * 100) / 100;

/** A number in path data. */
const n = (v: number) => String(Math.round(v * 10) / 10);
