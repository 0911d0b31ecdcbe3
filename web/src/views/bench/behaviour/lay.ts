import type { ElkEdgeSection, ElkExtendedEdge, ElkNode } from "elkjs/lib/elk-api";

import type { Schema } from "../../../api/client";

export interface Brick {
  id: string;
  x: number;
  y: number;
  width: number;
  height: number;
  holds: boolean;
}

export interface Way {
  key: string;
  from: string;
  to: string;
  /** Of the line, SVG path data. */
  path: string;
  words: string;
  /** Where the words stand; nowhere for none. */
  at: { x: number; y: number } | undefined;
}

export interface Drawing {
  width: number;
  height: number;
  bricks: Brick[];
  ways: Way[];
}

/** Of a letter of the mono face at 11 px. */
const letter = 6.65;
/** What is said of a way beside its line, at most. */
const longest = 34;
const line = 15;

export const clipped = (words: string, most = longest) => (words.length > most ? `${words.slice(0, most - 1)}…` : words);

/** What is said beside a way, three lines at most. */
export function saidOn(words: string): string[] {
  const all = words.split(", ");
  const shown = all.length > 3 ? [...all.slice(0, 2), `and ${all.length - 2} more`] : all;
  return shown.map((w) => clipped(w));
}

/** What is said of a brick, a line each. */
export const saidOf = (s: Schema["BrickView"]) => (s.says.length > 2 ? [...s.says.slice(0, 1), `and ${s.says.length - 1} more`] : s.says);

/** A machine as the layout library takes it: states in states, laid in courses from where it begins. */
export function graph(states: Schema["BrickView"][], ways: Schema["WayView"][]): ElkNode {
  const inside = (id: string | undefined): ElkNode[] =>
    states
      .filter((s) => (s.in ?? undefined) === id)
      .map((s) => {
        const children = inside(s.id);
        const words = [s.id, ...saidOf(s).map((w) => clipped(w, 28))];
        const width = Math.max(110, 24 + Math.max(...words.map((w, i) => w.length * (i === 0 ? 8.4 : letter))));
        if (children.length === 0) return { id: s.id, width, height: 28 + saidOf(s).length * line + 6, layoutOptions: course(s) };
        return {
          id: s.id,
          children,
          layoutOptions: {
            ...course(s),
            "elk.padding": "[top=34,left=14,bottom=14,right=14]",
            "elk.nodeSize.constraints": "MINIMUM_SIZE",
            "elk.nodeSize.minimum": `(${width},40)`,
          },
        };
      });
  const nested = states.some((s) => s.in);
  return {
    id: "/",
    children: inside(undefined),
    edges: ways.map((w, i) => ({
      id: String(i),
      sources: [w.from],
      targets: [w.to],
      labels: [
        { text: w.words, width: Math.max(...saidOn(w.words).map((l) => l.length)) * letter + 8, height: saidOn(w.words).length * line },
      ],
    })),
    layoutOptions: {
      "elk.algorithm": "layered",
      "elk.direction": "DOWN",
      "elk.edgeRouting": "ORTHOGONAL",
      "elk.hierarchyHandling": "INCLUDE_CHILDREN",
      "elk.json.edgeCoords": "ROOT",
      "elk.json.shapeCoords": "ROOT",
      "elk.layered.spacing.nodeNodeBetweenLayers": "34",
      "elk.spacing.nodeNode": "28",
      "elk.spacing.edgeNode": "16",
      "elk.spacing.edgeLabel": "4",
      "elk.edgeLabels.inline": "false",
      "elk.layered.considerModelOrder.strategy": "NODES_AND_EDGES",
      ...(nested ? {} : { "elk.partitioning.activate": "true" }),
    },
  };
}

const course = (s: Schema["BrickView"]) => ({ "elk.partitioning.partition": String(s.course) });

/** What the layout library made of a machine, as it is drawn. */
export function drawn(laid: ElkNode, ways: Schema["WayView"][]): Drawing {
  const bricks: Brick[] = [];
  const walk = (n: ElkNode) => {
    for (const c of n.children ?? []) {
      bricks.push({ id: c.id, x: c.x ?? 0, y: c.y ?? 0, width: c.width ?? 0, height: c.height ?? 0, holds: (c.children ?? []).length > 0 });
      walk(c);
    }
  };
  walk(laid);
  const edges = laid.edges ?? [];
  return {
    width: laid.width ?? 0,
    height: laid.height ?? 0,
    bricks,
    ways: edges.map((e: ElkExtendedEdge) => {
      const way = ways[Number(e.id)]!;
      const label = e.labels?.[0];
      return {
        key: e.id,
        from: way.from,
        to: way.to,
        path: (e.sections ?? []).map(pathOf).join(" "),
        words: way.words,
        at: label && label.x !== undefined && label.y !== undefined ? { x: label.x, y: label.y } : undefined,
      };
    }),
  };
}

function pathOf(s: ElkEdgeSection): string {
  return [s.startPoint, ...(s.bendPoints ?? []), s.endPoint].map((p, i) => `${i === 0 ? "M" : "L"}${p.x} ${p.y}`).join(" ");
}

/** The brick that lies nearest in the direction of an arrow key. */
export function beside(bricks: Brick[], from: string, key: string): Brick | undefined {
  const at = bricks.find((b) => b.id === from);
  if (!at) return undefined;
  const way = { ArrowUp: [0, -1], ArrowDown: [0, 1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[key];
  if (!way) return undefined;
  const middle = (b: Brick) => ({ x: b.x + b.width / 2, y: b.y + b.height / 2 });
  const here = middle(at);
  let best: { brick: Brick; far: number } | undefined;
  for (const b of bricks) {
    const there = middle(b);
    const along = (there.x - here.x) * way[0]! + (there.y - here.y) * way[1]!;
    const across = Math.abs((there.x - here.x) * way[1]!) + Math.abs((there.y - here.y) * way[0]!);
    const far = along + 2 * across;
    if (b !== at && along > 1 && (!best || far < best.far)) best = { brick: b, far };
  }
  return best?.brick;
}
