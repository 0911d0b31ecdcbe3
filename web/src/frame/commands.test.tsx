import { render } from "@testing-library/react";
import { expect, it } from "vitest";

import { commandsOfViews, useCommands } from "./commands";

function View({ label, run }: { label: string; run: () => void }) {
  useCommands([{ label, what: "Of a view", run }]);
  return null;
}

it("offers what a view can do now, for as long as it is shown", () => {
  const done: string[] = [];
  const { rerender, unmount } = render(<View label="Undo" run={() => done.push("first")} />);
  expect(commandsOfViews().map((c) => c.label)).toEqual(["Undo"]);
  rerender(<View label="Redo" run={() => done.push("second")} />);
  expect(commandsOfViews().map((c) => c.label)).toEqual(["Redo"]);
  commandsOfViews()[0]!.run();
  expect(done, "what was so before is done").toEqual(["second"]);
  unmount();
  expect(commandsOfViews()).toEqual([]);
});
