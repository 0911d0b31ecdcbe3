import { describe, expect, it } from "vitest";

import type { Heard } from "../../../../preview/messages";
import type { Schema } from "../../../api/client";
import { givenAt, long, put, saidOf, toggled, withHeard } from "./moments";

const press = { kind: "press", part: "lamp" } as const;
const drag = { kind: "dragged", part: "handle" } as const;
const pointer = { kind: "pointer-in", part: "lamp" } as const;
const events: Schema["EventView"][] = [
  { event: press, words: "press of lamp" },
  { event: drag, words: "dragged of handle", drag: true },
  { event: pointer, words: "pointer-in of lamp" },
];
const heard = (event: string, at: number, more: Partial<Heard> = {}): Heard => ({
  kind: "heard",
  case: "used 0",
  event,
  at,
  followed: true,
  ...more,
});

describe("what happens to an instance", () => {
  it("stands in the order of time, of one time in the order it came", () => {
    const list = put(put([{ at: 5, event: press }], { at: 2, event: drag }), { at: 5, event: drag });
    expect(list.map((h) => [h.at, h.event?.kind])).toEqual([
      [2, "dragged"],
      [5, "press"],
      [5, "dragged"],
    ]);
  });

  it("is what was heard: a drag once, what nobody meant only where something followed", () => {
    let list: Schema["Happens"][] = [];
    for (const h of [
      heard("press of lamp", 10, { followed: false }),
      heard("pointer-in of lamp", 20, { followed: false }),
      heard("pointer-in of lamp", 30),
      heard("dragged of handle", 40, { value: 0.1 }),
      heard("dragged of handle", 50, { value: 0.4 }),
      heard("time of running", 60),
    ])
      list = withHeard(list, h, events);
    expect(list).toEqual([
      { at: 10, event: press, value: undefined },
      { at: 30, event: pointer, value: undefined },
      { at: 50, event: drag, value: 0.4 },
    ]);
  });

  it("is expected, or no longer", () => {
    const reads = { part: "note", is: "text", value: "Running" };
    const on = toggled([{ at: 3, event: press }], 3, reads);
    expect(on).toEqual([
      { at: 3, event: press },
      { at: 3, expect: reads },
    ]);
    expect(toggled(on, 4, reads)).toHaveLength(3);
    expect(toggled(on, 3, { ...reads, value: "Still" })).toHaveLength(3);
    expect(toggled(on, 3, { ...reads })).toEqual([{ at: 3, event: press }]);
  });

  it("has a name", () => {
    expect(saidOf({ at: 1, event: press }, "", events)).toBe("press of lamp");
    expect(saidOf({ at: 1, event: drag, value: 0.5 }, "", events)).toBe("dragged of handle: 0.5");
    expect(saidOf({ at: 1, expect: { is: "hidden", part: "note" } }, "note is hidden", events)).toBe("note is hidden");
    expect(saidOf({ at: 1, event: { kind: "key" } }, "", events)).toBe("an event");
  });

  it("fits on the time line, and is given what it was given last", () => {
    expect([long(10_000, 9_999), long(10_000, 10_000), long(10_000, 31_000)]).toEqual([10_000, 13_000, 39_000]);
    const course = {
      props: [
        { at: 0, props: { on: false } },
        { at: 700, props: { on: true } },
      ],
    } as unknown as Schema["Course"];
    expect([givenAt(course, 699), givenAt(course, 700)]).toEqual([{ on: false }, { on: true }]);
  });
});
