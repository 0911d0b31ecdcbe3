// Answers of two general-purpose colour libraries, for core/color's tests.
// Standard input: {"task", …}; standard output: JSON.
import Color from "colorjs.io";
import * as culori from "culori";
import { readFileSync } from "node:fs";

const ids = {
  srgb: ["srgb", "rgb"], "srgb-linear": ["srgb-linear", "lrgb"], hsl: ["hsl", "hsl"], hwb: ["hwb", "hwb"],
  lab: ["lab", "lab"], lch: ["lch", "lch"], oklab: ["oklab", "oklab"], oklch: ["oklch", "oklch"],
  "display-p3": ["p3", "p3"], "a98-rgb": ["a98rgb", "a98"], "prophoto-rgb": ["prophoto", "prophoto"],
  rec2020: ["rec2020", "rec2020"], "xyz-d65": ["xyz-d65", "xyz65"], "xyz-d50": ["xyz-d50", "xyz50"],
};
const channels = {
  rgb: "rgb", lrgb: "rgb", p3: "rgb", a98: "rgb", prophoto: "rgb", rec2020: "rgb", hsl: "hsl", hwb: "hwb",
  lab: "lab", lch: "lch", oklab: "lab", oklch: "lch", xyz65: "xyz", xyz50: "xyz",
};
const plain = (n) => (n === null || n === undefined || Number.isNaN(n) ? 0 : Number(n));
// culori counts saturation, lightness, whiteness and blackness to 1.
const scale = (mode, i) => ((mode === "hsl" || mode === "hwb") && i > 0 ? 100 : 1);
const toCulori = (space, v) => {
  const mode = ids[space][1];
  return Object.fromEntries([["mode", mode], ...[...channels[mode]].map((c, i) => [c, v[i] / scale(mode, i)])]);
};
const fromCulori = (c) => [...channels[c.mode]].map((k, i) => plain(c[k]) * scale(c.mode, i));

// culori's formula works on Lab relative to D65; CSS's Lab is relative to D50.
const lab50 = (text) => ({ ...culori.lab(text), mode: "lab65" });

const tasks = {
  convert: ({ colors, spaces }) =>
    colors.map(({ space, v }) =>
      spaces.map((to) => ({
        colorjs: new Color(ids[space][0], v).to(ids[to][0]).coords.map(plain),
        culori: fromCulori(culori.converter(ids[to][1])(toCulori(space, v))),
      })),
    ),
  map: ({ colors }) => colors.map(({ space, v }) => new Color(ids[space][0], v).to("srgb").toGamut({ space: "srgb", method: "css" }).coords.map(plain)),
  parse: ({ texts }) => texts.map((text) => new Color(text).to("srgb").coords.map(plain)),
  compare: ({ pairs }) =>
    pairs.map(([a, b]) => ({
      difference: new Color(a).deltaE(new Color(b), "2000"),
      culori: culori.differenceCiede2000()(lab50(a), lab50(b)),
      contrast: culori.wcagContrast(a, b),
    })),
  // Nanoseconds a colour, the best of seven rounds, from parsed colours.
  time: ({ colors, to }) => {
    const list = colors.map(({ space, v }) => toCulori(space, v));
    const convert = culori.converter(ids[to][1]);
    let best = Infinity;
    let sum = 0;
    for (let round = 0; round < 7; round++) {
      const start = process.hrtime.bigint();
      for (let i = 0; i < 20; i++) for (const c of list) sum += convert(c).l ?? convert(c).r;
      best = Math.min(best, Number(process.hrtime.bigint() - start) / (20 * list.length));
    }
    return { best, sum };
  },
};

const input = JSON.parse(readFileSync(0, "utf8"));
process.stdout.write(JSON.stringify(tasks[input.task](input)));
