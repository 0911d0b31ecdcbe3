import { describe, expect, it } from "vitest";
import Elk from "elkjs/lib/elk.bundled.js";

import type { Schema } from "../../../api/client";
import { activeAt, keptAt, layCourse, nextChange, ruler, said } from "./bricks";
import { beside, drawn, graph, saidOn } from "./lay";

const state = (id: string, course: number, inside?: string): Schema["BrickView"] => ({ id, course, in: inside, says: [], line: 1 });

/** Still, running below it, draining below that, and back. */
const lamp = [state("still", 0), state("running", 1), state("draining", 2)];
const ways = [
  { from: "still", to: "running", words: "press of lamp" },
  { from: "running", to: "draining", words: "after 9000 ms" },
  { from: "draining", to: "still", words: "after 4000 ms" },
];

describe("the drawing", () => {
  it("lays states in courses, and no brick on another", async () => {
    const { bricks, ways: lines } = drawn(await new Elk().layout(graph(lamp, ways)), ways);
    const at = Object.fromEntries(bricks.map((b) => [b.id, b]));
    expect(at["still"]!.y + at["still"]!.height).toBeLessThan(at["running"]!.y);
    expect(at["running"]!.y + at["running"]!.height).toBeLessThan(at["draining"]!.y);
    expect(lines).toHaveLength(3);
    for (const line of lines) expect(line.path).toMatch(/^M/);
  });

  it("puts states inside of the one around them", async () => {
    const nested = [state("shut", 0), state("open", 1), state("first", 1, "open"), state("second", 2, "open")];
    const leads = [
      { from: "shut", to: "open", words: "press" },
      { from: "first", to: "second", words: "key" },
    ];
    const { bricks } = drawn(await new Elk().layout(graph(nested, leads)), leads);
    const at = Object.fromEntries(bricks.map((b) => [b.id, b]));
    for (const inside of ["first", "second"]) {
      expect(at[inside]!.x).toBeGreaterThan(at["open"]!.x);
      expect(at[inside]!.y + at[inside]!.height).toBeLessThan(at["open"]!.y + at["open"]!.height);
    }
    expect(at["open"]!.holds).toBe(true);
  });

  it("is walked to the next course, and to the sides", () => {
    const brick = (id: string, x: number, y: number) => ({ id, x, y, width: 100, height: 30, holds: false });
    const bricks = [brick("a", 200, 0), brick("b", 50, 100), brick("c", 200, 200), brick("d", 350, 100)];
    expect(beside(bricks, "a", "ArrowDown")?.id).toBe("b");
    expect(beside(bricks, "b", "ArrowRight")?.id).toBe("d");
    expect(beside(bricks, "c", "ArrowUp")?.id).toMatch(/[bd]/);
    expect(beside(bricks, "a", "ArrowUp")).toBeUndefined();
    expect(beside(bricks, "a", "Enter")).toBeUndefined();
  });

  it("says three lines beside a way at most", () => {
    expect(saidOn("press, key Escape")).toEqual(["press", "key Escape"]);
    expect(saidOn("a, b, c, d")).toEqual(["a", "b", "and 2 more"]);
  });
});

describe("the time line", () => {
  const course = (...bricks: [string, number, number][]): Schema["Course"] => ({
    told: [],
    values: [],
    props: [],
    paths: {},
    says: [],
    missed: [],
    bricks: bricks.map(([s, from, to]) => ({ state: s, from, to, depth: 1 })),
  });

  it("lays what is active at once in rows of its own", () => {
    const states = [state("left", 0), state("l1", 0, "left"), state("l2", 1, "left"), state("right", 0), state("r1", 0, "right")];
    const { bricks, rows } = layCourse(course(["left", 0, 9], ["l1", 0, 4], ["right", 0, 9], ["r1", 0, 9], ["l2", 4, 9]), states);
    expect(rows).toBe(2);
    expect(bricks.map((b) => [b.state, b.row])).toEqual([
      ["l1", 0],
      ["r1", 1],
      ["l2", 0],
    ]);
  });

  it("knows what is active, and what comes next", () => {
    const one = course(["a", 0, 4], ["b", 4, 9]);
    expect(activeAt(one, 3.9)).toEqual(["a"]);
    expect(activeAt(one, 4)).toEqual(["b"]);
    expect(activeAt(one, 9)).toEqual(["b"]);
    expect(activeAt(undefined, 1)).toEqual([]);
    expect(nextChange([one, course(["c", 2, 9])], 0, 20)).toBe(2);
    expect(nextChange([one], 4, 20)).toBe(20);
    const counting = {
      ...one,
      values: [
        { at: 0, values: { n: 1 } },
        { at: 6, values: { n: 2 } },
      ],
    };
    expect(nextChange([counting], 4, 20)).toBe(6);
    expect([keptAt(counting, 5.9), keptAt(counting, 6), keptAt(one, 3)]).toEqual([{ n: 1 }, { n: 2 }, undefined]);
  });

  it("has a ruler of few marks, and says times shortly", () => {
    expect(ruler(10_000)).toEqual([0, 1000, 2000, 3000, 4000, 5000, 6000, 7000, 8000, 9000, 10_000]);
    for (const until of [1, 900, 20_000, 3_600_000, 86_400_000]) expect(ruler(until).length).toBeLessThanOrEqual(17);
    expect([said(0), said(1500), said(90_000)]).toEqual(["0 s", "1.5 s", "1.5 min"]);
  });
});
