import { describe, expect, it } from "vitest";

import { affected } from "./affected";

describe("what is asked again after a change", () => {
  it("is one component's own queries, the lists, and nothing of other components", () => {
    const keys = affected("component crop-tag");
    expect(keys).toContainEqual(["component", "crop-tag"]);
    expect(keys).toContainEqual(["sync"]);
    expect(keys).not.toContainEqual(["component"]);
    expect(keys).not.toContainEqual(["sources"]);
  });
  it("is only what counts facts when something was measured", () => {
    expect(affected("measured")).toEqual([["project"], ["components"]]);
  });
  it("is every component after tokens or the design moved", () => {
    expect(affected("tokens")).toContainEqual(["component"]);
    expect(affected("sources")).toContainEqual(["component"]);
    expect(affected("sources")).toContainEqual(["survey"]);
    expect(affected("tokens")).not.toContainEqual(["survey"]);
  });
  it("is everything when the change is not known", () => {
    expect(affected("weather")).toBeUndefined();
    expect(affected("component")).toBeUndefined();
    expect(affected("")).toBeUndefined();
  });
});
