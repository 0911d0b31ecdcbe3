import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { describe, expect, it } from "vitest";

import { given } from "../preview/given";

const shown = (value: unknown) => render(<>{given({ body: value }).body as ReactNode}</>).container.innerHTML;

describe("what a preview is given", () => {
  it("is rich text as React renders it, items that follow each other in one list", () => {
    const item = (text: string) => ({ kind: "item", runs: [{ text }] });
    expect(
      shown({
        rich: [
          { kind: "heading", level: 3, runs: [{ text: "Rota" }] },
          { kind: "paragraph", runs: [{ text: "Bring " }, { text: "water", strong: true, link: "/water" }] },
          item("One"),
          item("Two"),
          { kind: "paragraph", runs: [{ text: "x", code: true, emphasis: true }] },
          item("Three"),
        ],
      }),
    ).toBe(
      '<h3>Rota</h3><p>Bring <a href="/water"><strong>water</strong></a></p><ul><li>One</li><li>Two</li></ul><p><em><code>x</code></em></p><ul><li>Three</li></ul>',
    );
  });

  it("is boxes where something stands for what a use puts into a slot", () => {
    expect(shown({ sample: ["One", "Two"] })).toBe('<div class="sample">One</div><div class="sample">Two</div>');
  });

  it("stands in a line where it has no blocks, and everything else is as it is", () => {
    expect(shown({ rich: [{ runs: [{ text: "In a " }, { text: "line", emphasis: true }] }] })).toBe("In a <em>line</em>");
    expect(shown({ rich: [] })).toBe("");
    const image = { src: "/a.png", alt: "", width: 2, height: 1 };
    expect(given({ image, strong: false, count: 0, links: [{ label: "Plots" }] })).toEqual({
      image,
      strong: false,
      count: 0,
      links: [{ label: "Plots" }],
    });
  });
});
