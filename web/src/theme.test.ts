import Color from "colorjs.io";
import { describe, expect, it } from "vitest";

import { theme } from "./theme";
import sheet from "./theme.css?raw";

/** The colours that a block of the theme names; the dark one has those of the light one where it says nothing. */
function colours(selector: string): Record<string, string> {
  const block = sheet.slice(sheet.indexOf(`${selector} {`)).split("}")[0]!;
  return Object.fromEntries([...block.matchAll(/--kiln-([a-z-]+): (#[0-9a-f]{6}|oklch\([^)]*\));/g)].map((m) => [m[1]!, m[2]!]));
}
const light = colours(":root");
const themes = { light, dark: { ...light, ...colours(':root[data-mantine-color-scheme="dark"]') } };

const contrast = (a: string, b: string) => new Color(a).contrast(new Color(b), "WCAG21");

/** What is written on what, over all views. */
const written: [string, string[]][] = [
  ["ink", ["ground", "panel", "sunk", "brick-soft", "moved-soft"]],
  ["quiet", ["ground", "panel", "sunk"]],
  ["brick", ["ground", "panel", "sunk"]],
  ["agree", ["ground", "panel"]],
  ["moved", ["ground", "panel", "moved-soft"]],
  ["on-brick", ["brick"]],
  ["code-key", ["panel"]],
  ["code-text", ["panel"]],
  ["code-name", ["panel"]],
  ["mark", ["stage"]],
  ["mark-quiet", ["stage"]],
  ["mark-chosen", ["stage"]],
];
/** Marks and borders that tell something by themselves. */
const marks: [string, string[]][] = [
  ["mark-leader", ["stage"]],
  ["mark-mortar", ["stage"]],
  ["brick-bright", ["ground", "panel"]],
  ["agree-bar", ["panel"]],
  ["moved-bar", ["panel"]],
];

describe.each(Object.entries(themes))("the %s theme", (_, named) => {
  it.each(written.flatMap(([text, grounds]) => grounds.map((g) => [text, g] as const)))(
    "can be read: %s on %s (WCAG 2.2, 1.4.3)",
    (text, ground) => {
      expect(contrast(named[text]!, named[ground]!)).toBeGreaterThanOrEqual(4.5);
    },
  );

  it.each(marks.flatMap(([mark, grounds]) => grounds.map((g) => [mark, g] as const)))(
    "can be seen: %s on %s (WCAG 2.2, 1.4.11)",
    (mark, ground) => {
      expect(contrast(named[mark]!, named[ground]!)).toBeGreaterThanOrEqual(3);
    },
  );

  it("holds no blue and no purple", () => {
    for (const [name, value] of Object.entries(named)) {
      const [, chroma, hue] = new Color(value).to("oklch").coords;
      if ((chroma ?? 0) > 0.02) expect(hue! < 185 || hue! > 345, `${name} ${value}`).toBe(true);
    }
  });
});

describe("the component library's colours", () => {
  it("hold no blue either", () => {
    for (const value of Object.values(theme.colors ?? {}).flat()) {
      const [, chroma, hue] = new Color(value!).to("oklch").coords;
      if ((chroma ?? 0) > 0.02) expect(hue! < 185 || hue! > 345, value).toBe(true);
    }
  });
});
