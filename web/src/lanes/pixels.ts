import { differing } from "../../preview/differing";
import type { Painted } from "../../preview/messages";

/** A part of a picture, px. */
export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** How many of the page's px differ between two pictures of a frame, in each of some parts of it; 1 at least where any does. */
export function differingIn(a: Painted, b: Painted, areas: Area[]): number[] {
  return areas.map((area) => {
    const mask = differing(cut(a, area), cut(b, area));
    let count = 0;
    for (const one of mask) count += one;
    return Math.ceil(count / (a.sharp * a.sharp));
  });
}

/** A part of a picture, as large as it is asked for; what lies outside of the picture is empty. */
function cut(from: Painted, area: Area) {
  const [x, y] = [Math.round(area.x * from.sharp), Math.round(area.y * from.sharp)];
  const [width, height] = [Math.round(area.width * from.sharp), Math.round(area.height * from.sharp)];
  const data = new Uint8ClampedArray(4 * width * height);
  const source = new Uint8ClampedArray(from.data);
  const [left, right] = [Math.max(0, x), Math.min(from.width, x + width)];
  for (let row = Math.max(0, y); right > left && row < Math.min(from.height, y + height); row++) {
    data.set(source.subarray(4 * (row * from.width + left), 4 * (row * from.width + right)), 4 * ((row - y) * width + left - x));
  }
  return { data, width, height };
}
