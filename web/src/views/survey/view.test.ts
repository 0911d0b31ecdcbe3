import { describe, expect, it } from "vitest";

import { apart, fit, panned, showing, smallestAt, zoomed } from "./view";

const stage = { width: 800, height: 600 };

describe("the page on its stage", () => {
  it("is as wide as there is room, no larger than drawn, and its head is to be seen", () => {
    expect(fit({ width: 1440, height: 784 }, stage).scale).toBeCloseTo(744 / 1440);
    expect(fit({ width: 200, height: 100 }, stage)).toEqual({ scale: 1, x: 300, y: 250 });
    expect(fit({ width: 390, height: 5000 }, stage).y).toBe(28);
  });

  it("keeps the point under the pointer when it is enlarged", () => {
    const before = { scale: 0.5, x: 20, y: 30 };
    const after = zoomed(before, 2, { x: 200, y: 100 });
    expect(after.scale).toBe(1);
    expect((200 - after.x) / after.scale).toBeCloseTo((200 - before.x) / before.scale);
    expect((100 - after.y) / after.scale).toBeCloseTo((100 - before.y) / before.scale);
    expect(zoomed(before, 1000, { x: 0, y: 0 }).scale).toBe(16);
    expect(zoomed(before, 0.0001, { x: 0, y: 0 }).scale).toBe(0.02);
  });

  it("is never moved out of sight", () => {
    const page = { width: 400, height: 300 };
    const place = { scale: 1, x: 0, y: 0 };
    expect(panned(place, 5000, -5000, page, stage)).toEqual({ scale: 1, x: 720, y: -220 });
    expect(panned(place, 12, 7, page, stage)).toEqual({ scale: 1, x: 12, y: 7 });
  });

  it("moves to what was picked in a list, and stays where that is seen already", () => {
    const place = { scale: 1, x: 0, y: 0 };
    expect(showing(place, { x: 100, y: 100, width: 50, height: 50 }, stage)).toEqual(place);
    const right = showing(place, { x: 900, y: 100, width: 50, height: 50 }, stage);
    expect(right.x + 950).toBe(760);
    expect(right.y).toBe(0);
    const large = showing(place, { x: 0, y: 0, width: 1440, height: 100 }, stage);
    expect(large.scale).toBeCloseTo(0.5);
    expect(large.x).toBeCloseTo(40);
  });

  it("points at the smallest thing", () => {
    const list = [
      { key: "card", box: { x: 0, y: 0, width: 200, height: 100 } },
      { key: "tag", box: { x: 10, y: 10, width: 50, height: 20 } },
    ];
    expect(smallestAt(list, 20, 20)?.key).toBe("tag");
    expect(smallestAt(list, 150, 90)?.key).toBe("card");
    expect(smallestAt(list, 250, 90)).toBeUndefined();
  });

  it("leaves out numbers that would stand on others, but for those asked for", () => {
    const at = (x: number, y: number) => ({ x, y, width: 40, height: 20 });
    const marks = [
      { key: "a", group: "1", label: "1.1", at: at(0, 0) },
      { key: "b", group: "1", label: "1.2", at: at(10, 6) },
      { key: "c", group: "1", label: "1.3", at: at(60, 6) },
      { key: "d", group: "2", at: at(200, 6) },
    ];
    expect([...apart(marks, () => false).keys()]).toEqual(["a", "c"]);
    expect([...apart(marks, (m) => m.key === "b").keys()]).toEqual(["b", "c"]);
  });

  it("puts the numbers of close rows beside them, and of what has room over it", () => {
    const row = (i: number, x: number, gap: number) => ({
      key: `${x} ${i}`,
      group: String(x),
      label: `1.${i}`,
      at: { x, y: 100 + i * (20 + gap), width: 200, height: 20 },
    });
    const close = [row(0, 100, 4), row(1, 100, 4), row(2, 100, 4)];
    for (const { x, y } of apart(close, () => false).values()) {
      expect(x + 25).toBeLessThanOrEqual(100);
      expect((y - 100) % 24).toBeCloseTo(13);
    }
    for (const { x } of apart([row(0, 100, 30), row(1, 100, 30)], () => false).values()) expect(x).toBe(112);
    // Where there is no room beside them either, they stay over them.
    for (const { x } of apart([row(0, 4, 4), row(1, 4, 4)], () => false).values()) expect(x).toBe(16);
    const neighbour = { key: "n", group: "n", at: { x: 60, y: 90, width: 36, height: 90 } };
    for (const { x } of apart([...close, neighbour], () => false).values()) expect(x).toBe(112);
    // What they lie in is no hindrance.
    const around = { key: "list", group: "list", at: { x: 50, y: 80, width: 300, height: 200 } };
    for (const { x } of apart([...close, around], () => false).values()) expect(x).toBeLessThan(100);
  });
});
