import { afterEach, expect, it } from "vitest";

import { answer } from "./data";

const scripts = () => [...document.head.querySelectorAll("script")];
afterEach(() => scripts().forEach((s) => s.remove()));

it("answers about several components, in whatever order their scripts come", async () => {
  globalThis.cobrikSite = { answers: {}, index: { names: [], slugs: [], fields: [], weights: [], words: {} } };
  const none = new URLSearchParams();
  const one = answer("GET /components/crop-tag", none, undefined);
  const other = answer("GET /components/plot-card", none, undefined);
  const again = answer("GET /components/crop-tag/about", none, undefined);
  expect(scripts().map((s) => s.getAttribute("src"))).toEqual(["data/crop-tag.js", "data/plot-card.js"]);
  globalThis.cobrikComponentData("plot-card", { "GET /components/plot-card": "the card" });
  globalThis.cobrikComponentData("crop-tag", { "GET /components/crop-tag": "the tag", "GET /components/crop-tag/about": "of it" });
  expect(await Promise.all([one, other, again])).toEqual(["the tag", "the card", "of it"]);
});
