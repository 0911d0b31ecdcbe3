import { expect, it } from "vitest";

import { agreement, count } from "./count";

it("makes count and noun agree", () => {
  expect([0, 1, 2].map((n) => count(n, "value"))).toEqual(["0 values", "1 value", "2 values"]);
  expect([1, 2].map((n) => count(n, "family without a component", "families without a component"))).toEqual([
    "1 family without a component",
    "2 families without a component",
  ]);
});

it("says how facts stand", () => {
  expect([agreement(0, 22), agreement(0, 1), agreement(1, 22), agreement(3, 2200)]).toEqual([
    "22 facts agree",
    "1 fact agrees",
    "1 of 22 facts differs",
    "3 of 2,200 facts differ",
  ]);
});
