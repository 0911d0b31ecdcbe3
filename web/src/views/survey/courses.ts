import { Graph, layout } from "@dagrejs/dagre";

import type { Schema } from "../../api/client";

type Piece = Pick<Schema["SurveyPiece"], "id" | "name" | "kind" | "level" | "of">;

/** A piece as a brick in the wall, in px of the wall. */
export interface Brick {
  id: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

const brick = { height: 44, mortar: 4, joint: 12, letter: 7.6, least: 88, widest: 760 };

/** How wide a brick is that a name stands on. */
const wide = (p: Piece) => Math.max(brick.least, Math.min(220, p.name.length * brick.letter + 28));

/** A course for each level, the foundation at the foot, pages on top. */
export const courseOf = (p: Piece, pieces: readonly Piece[]): number =>
  p.kind === "page" ? Math.max(0, ...pieces.filter((q) => q.kind !== "page").map((q) => q.level + 1)) : p.level;

/**
 * Lays pieces as bricks in courses: those of a level side by side, each as near over what it is made of as there is room. The order is
 * a layered drawing's, whose lines cross least.
 */
export function wall(pieces: readonly Piece[]): { bricks: Brick[]; width: number; height: number } {
  if (pieces.length === 0) return { bricks: [], width: 0, height: 0 };
  const g = new Graph();
  g.setGraph({ rankdir: "BT", ranker: "longest-path", nodesep: brick.mortar, ranksep: 20 });
  g.setDefaultEdgeLabel(() => ({}));
  const known = new Set(pieces.map((p) => p.id));
  for (const p of pieces) g.setNode(p.id, { width: wide(p), height: brick.height });
  for (const p of pieces) for (const id of p.of) if (known.has(id)) g.setEdge(id, p.id);
  layout(g);
  const levels: Piece[][] = [];
  for (const p of pieces) (levels[courseOf(p, pieces)] ??= []).push(p);
  const at = (p: Piece) => g.node(p.id).x ?? 0;
  const length = (course: Piece[]) => course.reduce((sum, p) => sum + wide(p) + brick.mortar, -brick.mortar);
  // A level that is too wide for one course takes several.
  const courses = levels.flatMap((level, n) => {
    const sorted = [...level].sort((a, b) => at(a) - at(b) || a.name.localeCompare(b.name));
    const each = Math.ceil(sorted.length / Math.ceil(length(sorted) / brick.widest));
    return Array.from({ length: Math.ceil(sorted.length / each) }, (_, i) => ({
      level: n,
      course: sorted.slice(i * each, (i + 1) * each),
    }));
  });
  const width = Math.max(...courses.map((c) => length(c.course))) + brick.least / 2;
  const bricks: Brick[] = [];
  let foot = 0;
  courses.forEach(({ level, course }, n) => {
    if (n > 0) foot += brick.height + (courses[n - 1]!.level === level ? brick.mortar : brick.joint);
    // Every other course is set off by half a brick, as masons do.
    let x = (width - length(course)) / 2 + (n % 2 === 1 ? brick.least / 4 : -brick.least / 4);
    for (const p of course) {
      bricks.push({ id: p.id, x, y: -foot, width: wide(p), height: brick.height });
      x += wide(p) + brick.mortar;
    }
  });
  for (const b of bricks) b.y += foot;
  return { bricks, width, height: foot + brick.height };
}

/** The nearest brick beside one, or in the course over or under it. */
export function beside(bricks: readonly Brick[], from: string, key: string): Brick | undefined {
  const b = bricks.find((o) => o.id === from);
  if (!b) return undefined;
  const middle = (o: Brick) => o.x + o.width / 2;
  const row = bricks.filter((o) => o.y === b.y);
  switch (key) {
    case "ArrowLeft":
    case "ArrowRight":
      return row[row.indexOf(b) + (key === "ArrowLeft" ? -1 : 1)];
    case "ArrowUp":
    case "ArrowDown": {
      const ahead = bricks.filter((o) => (key === "ArrowUp" ? o.y < b.y : o.y > b.y));
      const next = key === "ArrowUp" ? Math.max(...ahead.map((o) => o.y)) : Math.min(...ahead.map((o) => o.y));
      return ahead.filter((o) => o.y === next).sort((o, p) => Math.abs(middle(o) - middle(b)) - Math.abs(middle(p) - middle(b)))[0];
    }
  }
  return undefined;
}
