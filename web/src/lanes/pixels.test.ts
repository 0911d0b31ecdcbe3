import { describe, expect, it } from "vitest";

import type { Painted } from "../../preview/messages";
import { differingIn } from "./pixels";

/** A white picture of 12 by 8 px, two pixels a px, with black where px are named. */
function picture(black: [number, number][]): Painted {
  const [width, height, sharp] = [24, 16, 2];
  const data = new Uint8ClampedArray(4 * width * height).fill(255);
  for (const [x, y] of black) {
    for (const [i, j] of [
      [0, 0],
      [1, 0],
      [0, 1],
      [1, 1],
    ] as const) {
      data.set([0, 0, 0], 4 * ((y * sharp + j) * width + x * sharp + i));
    }
  }
  return { kind: "painted", sharp, width, height, data: data.buffer };
}

const areas = [
  { x: 0, y: 0, width: 6, height: 8 },
  { x: 6, y: 0, width: 6, height: 8 },
];

describe("what differs from the release", () => {
  it("is counted in px of the page, for each case by itself", () => {
    const changed = picture([
      [1, 1],
      [2, 1],
      [3, 1],
    ]);
    expect(differingIn(picture([]), changed, areas)).toEqual([3, 0]);
    expect(differingIn(changed, changed, areas)).toEqual([0, 0]);
  });

  it("is found where a part of the picture lies outside of it", () => {
    expect(differingIn(picture([[11, 7]]), picture([]), [{ x: 10, y: 6, width: 6, height: 6 }])).toEqual([1]);
    expect(differingIn(picture([]), picture([]), [{ x: 40, y: 0, width: 4, height: 4 }])).toEqual([0]);
  });
});
