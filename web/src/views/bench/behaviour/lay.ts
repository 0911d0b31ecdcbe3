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
      // States inside of others have no courses of their own in the library: there the one that is written first comes first.
      ...(nested ? { "elk.layered.cycleBreaking.strategy": "MODEL_ORDER" } : { "elk.partitioning.activate": "true" }),
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

/** The brick that an arrow key leads to: up and down the nearest of the next course, to the sides the nearest beside. */
export function beside(bricks: Brick[], from: string, key: string): Brick | undefined {
  const at = bricks.find((b) => b.id === from);
  const way = { ArrowUp: [0, -1], ArrowDown: [0, 1], ArrowLeft: [-1, 0], ArrowRight: [1, 0] }[key];
  if (!at || !way) return undefined;
  const [right, down] = way as [number, number];
  const others = bricks
    .filter((b) => b !== at)
    .map((brick) => {
      const x = brick.x + brick.width / 2 - at.x - at.width / 2;
      const y = brick.y + brick.height / 2 - at.y - at.height / 2;
      return { brick, along: x * right + y * down, across: Math.abs(x * down) + Math.abs(y * right) };
    })
    .filter((o) => o.along > 1);
  const row =
    down === 0 ? others.filter((o) => o.across < 24) : others.filter((o) => o.along < Math.min(...others.map((p) => p.along)) + 24);
  const near = (o: { along: number; across: number }) => (down === 0 ? o.along + 3 * o.across : o.across);
  return (row.length > 0 ? row : others).toSorted((a, b) => near(a) - near(b))[0]?.brick;
}
