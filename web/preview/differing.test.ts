import { describe, expect, it } from "vitest";

import { differing } from "./differing";

/** A picture of letters: each a grey of its own. */
function picture(...rows: string[]) {
  const width = rows[0]!.length;
  const data = new Uint8ClampedArray(4 * width * rows.length);
  rows
    .join("")
    .split("")
    .forEach((c, i) =>
      data.set(
        c === "#" ? [0, 0, 0, 255] : c === "+" ? [120, 120, 120, 255] : c === "'" ? [230, 230, 230, 255] : [255, 255, 255, 255],
        4 * i,
      ),
    );
  return { data, width, height: rows.length };
}
const marked = (a: string[], b: string[]) => [...differing(picture(...a), picture(...b))].reduce((sum, one) => sum + one, 0);

describe("differing pixels", () => {
  it("are none in two pictures that look alike", () => {
    expect(marked(["..##..", "..##.."], ["..##..", "..##.."])).toBe(0);
    expect(marked(["......"], ["''''''"])).toBe(0);
  });

  it("are not the soft edges of what is laid a fraction of a pixel otherwise", () => {
    expect(marked(["..###+...", "..###+..."], ["..+###...", "..+###..."])).toBe(0);
    expect(marked(["..###....", "..###...."], ["...###...", "...###..."])).toBe(0);
  });

  it("are those that only one of them has, whichever it is", () => {
    const none = [".........", ".........", "........."];
    const dot = [".........", "....#....", "........."];
    expect(marked(dot, none)).toBe(1);
    expect(marked(none, dot)).toBe(1);
    // Two pixels wider is no soft edge.
    expect(marked(["..###....", "..###....", "..###...."], ["..#####..", "..#####..", "..#####.."])).toBe(6);
  });

  it("are told by any of the colours", () => {
    const red = { data: new Uint8ClampedArray([200, 0, 0, 255]), width: 1, height: 1 };
    const dark = { data: new Uint8ClampedArray([150, 0, 0, 255]), width: 1, height: 1 };
    expect([...differing(red, dark)]).toEqual([1]);
  });
});
