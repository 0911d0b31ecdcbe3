import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { server, show } from "../../test-server";
import { Start } from "./Start";

const project = (change: object) => ({
  name: "Hollowbeck",
  design: "Furrow revision 2",
  sources: 6,
  survey: 0,
  tokens: 209,
  bench: 0,
  catalogue: 11,
  sync: 0,
  trial: 0,
  ...change,
});

async function told(change: object) {
  server.answer("GET /project", () => project(change));
  const { unmount } = show(<Start />);
  const links = [...(await screen.findByRole("list", { name: "Where things stand" })).querySelectorAll("a")];
  const next = screen.getAllByRole("link").at(-1)!;
  const out = {
    said: links.map((a) => a.lastChild!.textContent),
    to: links.map((a) => a.getAttribute("href")),
    waits: links.map((a) => a.parentElement!.dataset.waits === "true"),
    next: next.textContent,
  };
  unmount();
  return out;
}

describe("where things stand", () => {
  it("is told in sentences that agree with their numbers, each a way there", async () => {
    const one = await told({ survey: 1, bench: 1, sync: 1, sources: 1, catalogue: 1, tokens: 1, trial: 1 });
    expect(one.said).toEqual([
      "1 file is read: designs and tokens.",
      "1 family of the design has no component yet.",
      "1 token is known by name.",
      "1 draft is not released.",
      "1 component is released.",
      "1 move waits for a decision.",
      "1 page is on trial.",
    ]);
    expect(one.to).toEqual(["/sources", "/survey", "/tokens", "/bench", "/catalogue", "/sync", "/trial"]);
    expect(one.waits).toEqual([false, true, false, true, false, true, false]);
    const many = await told({ survey: 3, bench: 2, sync: 4 });
    expect(many.said[1]).toBe("3 families of the design have no component yet.");
    expect(many.said[5]).toBe("4 moves wait for a decision.");
  });

  it("says the one thing to do next", async () => {
    expect((await told({ sync: 4, bench: 2 })).next).toBe("Decide what moved");
    expect((await told({ bench: 2, survey: 1 })).next).toBe("To the bench");
    expect((await told({ survey: 1 })).next).toBe("Draft the next component");
    expect((await told({})).next).toBe("To the catalogue");
    const empty = await told({ sources: 0, tokens: 0, catalogue: 0, design: "" });
    expect(empty.next).toBe("To the sources");
    expect(empty.said[0]).toBe("No file has been read.");
  });
});
