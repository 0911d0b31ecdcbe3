import { describe, expect, it } from "vitest";

import { across, topsOf } from "./scrolling";

const wide = { tops: { bar: 0, title: 96, first: 160, second: 452 }, most: 900 };
const narrow = { tops: { bar: 0, title: 96, first: 160, second: 1200, only: 1300 }, most: 2400 };

describe("the same place in another frame", () => {
  it("is where the same piece begins", () => {
    expect(across(452, wide, narrow)).toBe(1200);
    expect(across(1200, narrow, wide)).toBe(452);
  });

  it("goes on evenly between two pieces", () => expect(across(306, wide, narrow)).toBe(160 + 0.5 * (1200 - 160)));

  it("is the end at the end, and the top at the top", () => {
    expect(across(900, wide, narrow)).toBe(2400);
    expect(across(0, wide, narrow)).toBe(0);
    expect(across(10, { tops: {}, most: 0 }, narrow)).toBe(0);
  });

  it("never goes back while one goes on, whatever order the pieces have", () => {
    const other = { tops: { bar: 0, second: 100, title: 300, first: 700 }, most: 1500 };
    let last = -1;
    for (let top = 0; top <= wide.most; top += 7) {
      const there = across(top, wide, other);
      expect(there).toBeGreaterThanOrEqual(last);
      expect(there).toBeLessThanOrEqual(other.most);
      last = there;
    }
  });

  it("leaves out what is not shown", () => {
    const box = (y: number, height: number) => ({ x: 0, y, width: 10, height });
    expect(
      topsOf(
        [
          { part: "a", box: box(20, 80) },
          { part: "b", box: { x: 0, y: 0, width: 0, height: 0 } },
        ],
        60,
      ),
    ).toEqual({ tops: { a: 20 }, most: 40 });
  });
});
