import { render } from "@testing-library/react";
import { expect, it } from "vitest";

import { Glyph } from "./Glyph";

/** The heights of the three bars. */
function heights(verdict: string, measured = true) {
  const { container } = render(<Glyph verdict={verdict} measured={measured} />);
  return [...container.querySelectorAll("rect")].map((bar) => Number(bar.getAttribute("height")));
}

it("stands up the bar of the side that moved", () => {
  expect(heights("agree")).toEqual([6, 6, 6]);
  expect(heights("design moved")).toEqual([13, 6, 6]);
  expect(heights("contract moved")).toEqual([6, 13, 6]);
  expect(heights("code moved")).toEqual([6, 6, 13]);
  expect(new Set(heights("several moved")).size).toBe(3);
});

it("says its verdict to those who do not see it", () => {
  const { getByRole } = render(<Glyph verdict="contract moved" />);
  expect(getByRole("img", { name: "contract moved" })).toBeTruthy();
});

it("does not show a built side that nobody measured as level", () => {
  const built = (measured: boolean) => {
    const { container } = render(<Glyph verdict="agree" measured={measured} />);
    return container.querySelectorAll("rect")[2]?.getAttribute("class");
  };
  expect(built(false)).not.toBe(built(true));
});
