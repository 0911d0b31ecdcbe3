import type { Box } from "../../../preview/messages";
import type { Place } from "../../marks/geometry";

/** How far a picture may be enlarged, and made small. */
const scales = { least: 0.02, most: 16 };

/** A page as large as its stage allows, with room for marks around it; no larger than drawn. */
export function fit(page: { width: number; height: number }, stage: { width: number; height: number }): Place {
  const room = 28;
  const scale = Math.min(1, Math.max(scales.least, (stage.width - 2 * room) / page.width));
  const high = page.height * scale;
  return { scale, x: (stage.width - page.width * scale) / 2, y: Math.max(room, (stage.height - high) / 2) };
}

/** Larger or smaller by a factor, with the point of the stage that is given staying where it is. */
export function zoomed(place: Place, by: number, at: { x: number; y: number }): Place {
  const scale = Math.min(scales.most, Math.max(scales.least, place.scale * by));
  const k = scale / place.scale;
  return { scale, x: at.x - (at.x - place.x) * k, y: at.y - (at.y - place.y) * k };
}

/** Moved so that some of the page stays to be seen. */
export function panned(
  place: Place,
  dx: number,
  dy: number,
  page: { width: number; height: number },
  stage: { width: number; height: number },
): Place {
  const kept = 80;
  const within = (at: number, size: number, room: number) => Math.min(room - kept, Math.max(kept - size, at));
  return {
    ...place,
    x: within(place.x + dx, page.width * place.scale, stage.width),
    y: within(place.y + dy, page.height * place.scale, stage.height),
  };
}

/** Moved, and made smaller where it must be, so that a box is to be seen whole. */
export function showing(place: Place, box: Box, stage: { width: number; height: number }): Place {
  const room = 40;
  const most = Math.min((stage.width - 2 * room) / Math.max(1, box.width), (stage.height - 2 * room) / Math.max(1, box.height));
  const scale = Math.max(scales.least, Math.min(place.scale, most));
  const to = (at: number, size: number, now: number, whole: number) => {
    const from = now + at * scale;
    if (from < room) return room - at * scale;
    if (from + size * scale > whole - room) return whole - room - (at + size) * scale;
    return now;
  };
  const middle = scale === place.scale ? place : zoomed(place, scale / place.scale, { x: stage.width / 2, y: stage.height / 2 });
  return { scale, x: to(box.x, box.width, middle.x, stage.width), y: to(box.y, box.height, middle.y, stage.height) };
}

/** The smallest of some boxes that a point lies in. */
export function smallestAt<T extends { box: Box }>(list: T[], x: number, y: number): T | undefined {
  let best: T | undefined;
  for (const one of list) {
    const b = one.box;
    const inside = x >= b.x && y >= b.y && x <= b.x + b.width && y <= b.y + b.height;
    if (inside && (!best || b.width * b.height < best.box.width * best.box.height)) best = one;
  }
  return best;
}

interface Labelled {
  key: string;
  group: string;
  at: Box;
  label?: string;
}

const line = 13;
const letter = 7;
const wide = (m: Labelled) => (m.label?.length ?? 0) * letter + 4;

/** Up to how many marks it is looked where their numbers lie over others. */
const mostLooked = 400;

/** The groups whose numbers stand beside their marks: rows that follow each other so closely that a number over one would lie in the next. */
function beside(marks: Labelled[]): Set<string> {
  const out = new Set<string>();
  if (marks.length > mostLooked) return out;
  const over = (x: number, y: number, width: number, of: Labelled) =>
    marks.some(
      (o) =>
        o !== of &&
        x < o.at.x + o.at.width &&
        o.at.x < x + width &&
        y - line + 2 < o.at.y + o.at.height &&
        o.at.y < y &&
        !within(of.at, o.at),
    );
  const room = new Map<string, boolean>();
  for (const m of marks) {
    if (!m.label) continue;
    if (over(m.at.x + 12, m.at.y - 4, wide(m), m)) out.add(m.group);
    const left = m.at.x - 8 - wide(m);
    room.set(m.group, (room.get(m.group) ?? true) && left >= 0 && !over(left, m.at.y + line, wide(m), m));
  }
  for (const group of out) if (!room.get(group)) out.delete(group);
  return out;
}

const within = (inner: Box, outer: Box) =>
  inner.x >= outer.x &&
  inner.y >= outer.y &&
  inner.x + inner.width <= outer.x + outer.width &&
  inner.y + inner.height <= outer.y + outer.height;

/** Where the numbers of marks stand that can be read: none on another, and those asked for come first. */
export function apart<T extends Labelled>(marks: T[], first: (m: T) => boolean): Map<string, { x: number; y: number }> {
  const taken = new Map<string, { x: number; y: number; width: number }[]>();
  const out = new Map<string, { x: number; y: number }>();
  const left = beside(marks);
  const cells = (y: number) => [Math.floor(y / line) - 1, Math.floor(y / line), Math.floor(y / line) + 1].map(String);
  for (const m of [...marks.filter(first), ...marks.filter((m) => !first(m))]) {
    if (!m.label || out.has(m.key)) continue;
    const width = wide(m);
    const own = left.has(m.group) ? { x: m.at.x - 8 - width, y: m.at.y + line, width } : { x: m.at.x + 12, y: m.at.y - 4, width };
    const hit = cells(own.y).some((c) =>
      taken.get(c)?.some((o) => Math.abs(o.y - own.y) < line && own.x < o.x + o.width && o.x < own.x + own.width),
    );
    if (hit) continue;
    out.set(m.key, { x: own.x, y: own.y });
    const cell = String(Math.floor(own.y / line));
    taken.set(cell, [...(taken.get(cell) ?? []), own]);
  }
  return out;
}
