import type { Box } from "../../../preview/messages";

/** Where the pieces of a page begin in a frame, px, by their keys; how far it can be scrolled. */
export interface Tops {
  tops: Record<string, number>;
  most: number;
}

export function topsOf(parts: readonly { part: string; box: Box }[], height: number): Tops {
  const shown = parts.filter((p) => p.box.width > 0 && p.box.height > 0);
  const bottom = Math.max(0, ...shown.map((p) => p.box.y + p.box.height));
  return { tops: Object.fromEntries(shown.map((p) => [p.part, p.box.y])), most: Math.max(0, bottom - height) };
}

/**
 * The place in another frame of the same page that shows the same: between two pieces that both show it goes on evenly. Without a piece in
 * common, it is as far down by share.
 */
export function across(top: number, from: Tops, to: Tops): number {
  if (from.most <= 0) return 0;
  if (top >= from.most - 1) return to.most;
  const pairs: [number, number][] = [[0, 0]];
  for (const [key, a] of Object.entries(from.tops).sort(([, a], [, b]) => a - b)) {
    const b = to.tops[key];
    const [lastA, lastB] = pairs[pairs.length - 1]!;
    if (b === undefined || a <= lastA || b <= lastB || a >= from.most) continue;
    pairs.push([a, Math.min(b, to.most)]);
  }
  pairs.push([from.most, to.most]);
  const next = pairs.findIndex(([a]) => a > top);
  const [a1, b1] = pairs[next]!;
  const [a0, b0] = pairs[next - 1]!;
  return b0 + ((top - a0) / (a1 - a0)) * (b1 - b0);
}
