import { describe, expect, it } from "vitest";

import { depthOf, duplicate, endOf, insert, linesOf, move, nest, remove, retype, textOf, wordsOf, wrap } from "./outline";

const page = linesOf(`stack
  h1 "Plots"
  grid columns=3
    below 768 stack
    PlotCard
  p "End"
`);

const said = (lines: string[]) => lines.map((l) => `${depthOf(l)}${l.trim().split(" ")[0]}`).join(" ");

describe("rows of an outline", () => {
  it("ends where what stands in a row ends", () => {
    expect(endOf(page, 2)).toBe(5);
    expect(endOf(page, 0)).toBe(6);
    expect(endOf(page, 5)).toBe(6);
  });

  it("moves over the row beside it, with all that stands in either", () => {
    const up = move(page, 2, -1);
    expect(said(up.lines)).toBe("0stack 1grid 2below 2PlotCard 1h1 1p");
    expect(up.at).toBe(1);
    expect(move(up.lines, up.at, 1)).toEqual({ lines: page, at: 2 });
    expect(said(move(page, 1, 1).lines)).toBe("0stack 1grid 2below 2PlotCard 1h1 1p");
    expect(move(page, 1, 1).at).toBe(4);
  });

  it("does not leave the row it stands in by moving", () => {
    expect(move(page, 1, -1).lines).toEqual(page);
    expect(move(page, 5, 1).lines).toEqual(page);
    expect(move(page, 4, 1).lines).toEqual(page);
  });

  it("goes into the row above, and out of the one around, taking nothing of that along", () => {
    expect(said(nest(page, 2, 1).lines)).toBe("0stack 1h1 2grid 3below 3PlotCard 1p");
    expect(nest(page, 0, 1).lines).toEqual(page);
    const out = nest(page, 1, -1);
    expect(said(out.lines)).toBe("0stack 1grid 2below 2PlotCard 1p 0h1");
    expect(out.at).toBe(5);
    expect(nest(page, 0, -1).lines).toEqual(page);
  });

  it("begins a row as the first in a row that holds others, else below it", () => {
    expect(insert(page, 2).lines[3]).toBe("    ");
    expect(insert(page, 1).lines[2]).toBe("  ");
    expect(insert(page, 5)).toMatchObject({ at: 6 });
  });

  it("is duplicated, wrapped and removed with what stands in it", () => {
    expect(said(duplicate(page, 2).lines)).toBe("0stack 1h1 1grid 2below 2PlotCard 1grid 2below 2PlotCard 1p");
    expect(duplicate(page, 2).at).toBe(5);
    expect(said(wrap(page, 2).lines)).toBe("0stack 1h1 1stack 2grid 3below 3PlotCard 1p");
    expect(said(remove(page, 2).lines)).toBe("0stack 1h1 1p");
    expect(remove(["stack"], 0)).toEqual({ lines: [""], at: 0 });
    expect(remove(page, 5).at).toBe(4);
  });

  it("keeps its depth when it is typed anew", () => {
    expect(retype(page, 4, "  NoticeBoard tone=look ")[4]).toBe("    NoticeBoard tone=look");
  });

  it("is the same text again", () => expect(linesOf(textOf(page))).toEqual(page));
});

describe("a row in words", () => {
  it("sets heads, names, texts and fields apart, and loses nothing", () => {
    const row = '  PlotCard title="Plot {number} \\"a\\"" tone=ripe due {holder}';
    expect(wordsOf(row)).toEqual([
      { kind: "head", text: "PlotCard" },
      { kind: "plain", text: " " },
      { kind: "name", text: "title=" },
      { kind: "text", text: '"Plot {number} \\"a\\""' },
      { kind: "plain", text: " " },
      { kind: "name", text: "tone=" },
      { kind: "plain", text: "ripe" },
      { kind: "plain", text: " " },
      { kind: "plain", text: "due" },
      { kind: "plain", text: " " },
      { kind: "field", text: "{holder}" },
    ]);
    for (const odd of ['h1 "open', "a {open", 'x = "b"', "", '"', "-- a note = {b}", 'TopBar links=[{"label":"a b"}]'])
      expect(
        wordsOf(odd)
          .map((w) => w.text)
          .join(""),
      ).toBe(odd.trimStart());
  });
});
