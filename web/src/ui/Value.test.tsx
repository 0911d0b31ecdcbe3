import { render } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { Value } from "./Value";

const swatch = (value: string) => render(<Value value={value} />).container.querySelector<HTMLElement>("span[aria-hidden] > span");
const bar = (value: string) => render(<Value value={value} />).container.querySelector<HTMLElement>("span[aria-hidden][style]");

describe("a value", () => {
  it("has a swatch when CSS writes it as a colour (CSS Color 4), and only then", () => {
    for (const color of ["#fff", "#99aa33", "#99aa3380", "rgb(1 2 3)", "oklch(0.5 0.1 120)", "color(display-p3 1 0 0)"])
      expect(swatch(color), color).not.toBeNull();
    for (const other of ["8px", "url(#fff)", "#", "#gg0000", "rgb", "linear-gradient(#fff, #000)", "Bed #12"])
      expect(swatch(other), other).toBeNull();
  });
  it("has a bar as long as a length, within bounds that fit a row", () => {
    expect(bar("8px")!.style.width).toBe("8px");
    expect(bar("0px")!.style.width).toBe("1px");
    expect(bar("4000px")!.style.width).toBe("24px");
    for (const other of ["8em", "auto", "8px 4px", "50%"]) expect(bar(other), other).toBeNull();
  });
  it("is said as it is written, and what it comes to once", () => {
    const shown = render(<Value value="8px" expression="{space.2}" />).container;
    expect(shown.textContent).toBe("{space.2}8px");
    expect(shown.querySelector("[title]")!.getAttribute("title")).toBe("{space.2} = 8px");
    expect(render(<Value value="8px" expression="8px" />).container.textContent).toBe("8px");
  });
});
