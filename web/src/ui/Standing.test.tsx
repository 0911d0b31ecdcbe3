import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schema } from "../api/client";
import { show } from "../test-server";
import { Standing } from "./Standing";

const entry = (more: Partial<Schema["Entry"]>) =>
  ({ waiting: 0, inCode: "", inCodeWait: 0, measured: true, differs: 0, facts: 10, ...more }) as Schema["Entry"];

describe("where a component stands", () => {
  it("is told with what waits first: the design, the code, what was measured", () => {
    for (const [more, said] of [
      [{ waiting: 2, inCodeWait: 1 }, "2 to decide"],
      [{ inCode: "moved", inCodeWait: 1, differs: 3 }, "1 to decide in the code"],
      [{ inCode: "in step" }, "level, in code"],
      [{ inCode: "missing" }, "level, not in code"],
      [{ inCode: "not read", measured: false }, "not measured, not read in code"],
      [{}, "level"],
    ] as const) {
      const { unmount } = show(<Standing entry={entry(more)} />);
      expect(
        screen.getByText((_, e) => e?.tagName === "SPAN" && e.textContent?.trim() === said),
        said,
      ).toBeTruthy();
      unmount();
    }
  });
});
