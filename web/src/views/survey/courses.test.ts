import { describe, expect, it } from "vitest";

import { beside, wall } from "./courses";

const piece = (id: string, level: number, of: string[] = [], kind: "family" | "page" = "family") => ({ id, name: id, kind, level, of });
const pieces = [
  piece("tag", 0),
  piece("icon", 0),
  piece("button", 0),
  piece("card", 1, ["tag", "icon"]),
  piece("form", 1, ["button"]),
  piece("home", 0, [], "page"),
];

describe("the wall", () => {
  const { bricks, width, height } = wall(pieces);
  const at = (id: string) => bricks.find((b) => b.id === id)!;

  it("lays a course for each level, the foundation at the foot and pages on top", () => {
    expect(at("tag").y).toBe(at("button").y);
    expect(at("card").y).toBeLessThan(at("tag").y);
    expect(at("home").y).toBeLessThan(at("card").y);
    expect(bricks).toHaveLength(pieces.length);
  });

  it("lays no brick over another, and none outside of the wall", () => {
    for (const a of bricks) {
      expect(a.x).toBeGreaterThanOrEqual(0);
      expect(a.x + a.width).toBeLessThanOrEqual(width);
      expect(a.y + a.height).toBeLessThanOrEqual(height);
      for (const b of bricks) if (a !== b && a.y === b.y) expect(a.x + a.width <= b.x || b.x + b.width <= a.x).toBe(true);
    }
  });

  it("keeps what belongs together on one side", () => {
    expect(at("card").x < at("form").x).toBe((at("tag").x + at("icon").x) / 2 < at("button").x);
  });

  it("gives a wide level several courses, closer to each other than to the next level", () => {
    const many = [...Array.from({ length: 12 }, (_, i) => piece(`part-number-${i}`, 0)), piece("all", 1, ["part-number-0"])];
    const laid = wall(many);
    const rows = [...new Set(laid.bricks.map((b) => b.y))].sort((a, b) => a - b);
    expect(rows.length).toBe(4);
    expect(rows[1]! - rows[0]!).toBeGreaterThan(rows[2]! - rows[1]!);
    expect(laid.width).toBeLessThan(900);
  });

  it("is walked by arrows", () => {
    const row = bricks.filter((b) => b.y === at("tag").y);
    expect(beside(bricks, row[0]!.id, "ArrowRight")?.id).toBe(row[1]!.id);
    expect(beside(bricks, row[0]!.id, "ArrowLeft")).toBeUndefined();
    expect(beside(bricks, "button", "ArrowUp")?.y).toBe(at("card").y);
    expect(beside(bricks, "home", "ArrowUp")).toBeUndefined();
    expect(beside(bricks, "home", "ArrowDown")?.y).toBe(at("card").y);
  });

  it("is nothing of nothing", () => {
    expect(wall([])).toEqual({ bricks: [], width: 0, height: 0 });
  });
});
