import type { Schema } from "../../../api/client";

/** A brick with the row of the course it lies in, states that are active at once one above the other, and which of the bricks' looks it has. */
export type LaidBrick = Schema["Brick"] & { row: number; tone: number };

/** The states of a course that hold no others, those that are active at once in rows of their own. */
export function layCourse(course: Schema["Course"] | undefined, states: Schema["BrickView"][]): { bricks: LaidBrick[]; rows: number } {
  const leaves = states.filter((s) => !states.some((o) => o.in === s.id)).map((s) => s.id);
  const ends: number[] = [];
  const regions = new Map<string, number>();
  const bricks = (course?.bricks ?? [])
    .filter((b) => leaves.includes(b.state))
    .map((b) => {
      const of = outermost(b.state, states);
      const was = regions.get(of);
      let row = was !== undefined && (ends[was] ?? 0) <= b.from ? was : ends.findIndex((end) => end <= b.from);
      if (row < 0) row = ends.length;
      ends[row] = b.to;
      regions.set(of, row);
      return { ...b, row, tone: leaves.indexOf(b.state) % 5 };
    });
  return { bricks, rows: Math.max(1, ends.length) };
}

function outermost(state: string, states: Schema["BrickView"][]): string {
  const around = states.find((s) => s.id === state)?.in;
  return around === undefined || around === "" ? state : outermost(around, states);
}

/** The states that are active at a time; at the end those that lasted until then. */
export function activeAt(course: Schema["Course"] | undefined, at: number): string[] {
  const bricks = course?.bricks ?? [];
  const end = Math.max(...bricks.map((b) => b.to));
  return bricks.filter((b) => b.from <= at && (at < b.to || b.to === end)).map((b) => b.state);
}

/** What is kept at a time; nothing by one that keeps nothing. */
export const keptAt = (course: Schema["Course"] | undefined, at: number): Record<string, unknown> | undefined =>
  (course?.values ?? []).findLast((v) => v.at <= at)?.values;

/** The next time, after one, at which any instance's state changes. */
export function nextChange(courses: Schema["Course"][], at: number, until: number): number {
  const times = courses.flatMap((c) => [...c.bricks.map((b) => b.from), ...c.values.map((v) => v.at)]).filter((t) => t > at);
  return times.length > 0 ? Math.min(...times) : until;
}

/** Marks of a ruler: a step that gives ten to twenty of them, in ms. */
export function ruler(until: number): number[] {
  const step = [100, 200, 500, 1_000, 2_000, 5_000, 10_000, 30_000, 60_000, 300_000, 600_000].find((s) => until / s <= 16) ?? until / 10;
  return Array.from({ length: Math.floor(until / step) + 1 }, (_, i) => i * step);
}

/** A time as people say it. */
export const said = (ms: number) => (ms >= 60_000 ? `${Number((ms / 60_000).toFixed(2))} min` : `${Number((ms / 1000).toFixed(2))} s`);
