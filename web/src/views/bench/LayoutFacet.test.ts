import { describe, expect, it } from "vitest";

import { valuesOf } from "./LayoutFacet";

describe("lengths typed into the cutting list", () => {
  it("are the values of their properties", () => {
    expect(valuesOf("gap", "12")).toEqual({ gap: "12px" });
    expect(valuesOf("gap", "{space.2}")).toEqual({ gap: "{space.2}" });
    expect(valuesOf("gap", "0")).toEqual({ gap: "0" });
    expect(valuesOf("gap", "calc(1rem + 2px)")).toEqual({ gap: "calc(1rem + 2px)" });
  });

  it("are for all sides, for block and inline, or for a start and an end of each", () => {
    const both = (block: string, inline: string) => ({ "padding-block": block, "padding-inline": inline });
    expect(valuesOf("padding", "8")).toEqual(both("8px", "8px"));
    expect(valuesOf("padding", "8 {space. 4}")).toEqual(both("8px", "{space. 4}"));
    expect(valuesOf("padding", "0 13 / 1rem")).toEqual(both("0 13px", "1rem"));
    expect(valuesOf("padding", "")).toEqual(both("0", "0"));
  });

  it("are none of what is chosen among words", () => {
    expect(valuesOf("across", "center")).toBeUndefined();
  });
});
