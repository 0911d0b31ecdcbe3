import { describe, expect, it } from "vitest";

import { around, chain, placed, placesOf, sideOf, spread, ticks } from "./geometry";

describe("marks on pictures", () => {
  it("stand just outside of what they mark, however small it is", () => {
    expect(ticks({ x: 10, y: 20, width: 60, height: 30 }, 8)).toBe("M16 18H8V26M64 18H72V26M16 52H8V44M64 52H72V44");
    // No longer than a third of a side: two corners never meet.
    expect(ticks({ x: 0, y: 0, width: 2, height: 100 }, 8)).toBe("M0 -2H-2V6M2 -2H4V6M0 102H-2V94M2 102H4V94");
  });

  it("have labels near to their parts that never touch", () => {
    expect(spread([10, 12, 100], 14, 0, 200)).toEqual([10, 24, 100]);
    expect(spread([100, 10, 12], 14, 0, 200)).toEqual([100, 10, 24]);
    // At the end of the margin they give way to the last one.
    expect(spread([190, 195, 199], 14, 0, 200)).toEqual([172, 186, 200]);
    expect(spread([-5], 14, 0, 200)).toEqual([0]);
    expect(spread([1, 2, 3], 14, 0, 27)).toBeUndefined();
    expect(spread([], 14, 0, 0)).toEqual([]);
    for (let round = 0; round < 200; round++) {
      const wanted = Array.from({ length: 1 + (round % 12) }, (_, i) => ((round * 37 + i * i * 53) % 260) - 20);
      const at = spread(wanted, 14, 0, 200)!;
      const sorted = [...at].sort((a, b) => a - b);
      expect(sorted[0]).toBeGreaterThanOrEqual(0);
      expect(sorted.at(-1)).toBeLessThanOrEqual(200);
      sorted.slice(1).forEach((v, i) => expect(v - sorted[i]!).toBeGreaterThanOrEqual(14));
    }
  });

  it("are tied to their parts past no other part", () => {
    const root = { x: 0, y: 0, width: 100, height: 40 };
    const icon = { x: 4, y: 10, width: 10, height: 10 };
    const label = { x: 20, y: 8, width: 40, height: 20 };
    const under = { x: 4, y: 30, width: 90, height: 8 };
    const behind = { x: 62, y: 12, width: 4, height: 4 };
    const cap = { x: 60, y: 2, width: 10, height: 4 };
    const all = [root, icon, label, under, behind, cap];
    expect(all.map((b) => sideOf(b, all))).toEqual(["left", "left", "top", "left", undefined, "left"]);
    // What holds a part is in nobody's way; nor is what is not to be seen.
    expect(sideOf(label, [root, label, { x: 10, y: 10, width: 0, height: 10 }])).toBe("left");
  });

  it("measure a part and its distance to the edges around it", () => {
    const root = { x: 0, y: 0, width: 100, height: 40 };
    const place = { scale: 2, x: 30, y: 10 };
    expect(chain({ x: 16, y: 0, width: 50, height: 40 }, root, "x", place)).toEqual([
      { from: 30, to: 62, px: 16 },
      { from: 62, to: 162, px: 50 },
      { from: 162, to: 230, px: 34 },
    ]);
    // What touches both edges has no distances; what sticks out has one side of them.
    expect(chain({ x: 16, y: 0, width: 50, height: 40 }, root, "y", place)).toEqual([{ from: 10, to: 90, px: 40 }]);
    expect(chain({ x: 90, y: 0, width: 20, height: 4 }, root, "x", place).map((s) => s.px)).toEqual([90, 20]);
    // A hairline is none.
    expect(chain({ x: 1, y: 0, width: 98, height: 40 }, root, "x", place).map((s) => s.px)).toEqual([98]);
    // Numbers over their lines; too wide ones under them, in two rows; down, clear of each other.
    const short = [
      { from: 0, to: 10, px: 24 },
      { from: 10, to: 20, px: 113.28 },
      { from: 20, to: 120, px: 400 },
    ];
    expect(placesOf(short, false)).toEqual([
      { along: 5, off: 14 },
      { along: 15, off: 26 },
      { along: 70, off: -5 },
    ]);
    expect(placesOf(short, true).map((p) => p.along)).toEqual([5, 17, 70]);
    expect(placed(root, place)).toEqual({ x: 30, y: 10, width: 200, height: 80 });
    expect(around([root, { x: -4, y: 10, width: 10, height: 50 }])).toEqual({ x: -4, y: 0, width: 104, height: 60 });
  });
});
