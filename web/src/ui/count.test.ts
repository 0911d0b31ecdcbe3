import { expect, it } from "vitest";

import { count } from "./count";

it("makes count and noun agree", () => {
  expect([0, 1, 2].map((n) => count(n, "value"))).toEqual(["0 values", "1 value", "2 values"]);
  expect([1, 2].map((n) => count(n, "family without a component", "families without a component"))).toEqual([
    "1 family without a component",
    "2 families without a component",
  ]);
});
