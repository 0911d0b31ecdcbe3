import { beforeEach, describe, expect, it, vi } from "vitest";

import { listen, partsAt } from "./hearing";
import type { Heard, Pointed, ShownCase } from "./messages";

const paths = { root: [], head: [0], label: [0, 1], body: [1] };

function staged() {
  document.body.innerHTML = `<div id="stage"><div class="stand"><div><p><i></i><b id="label">Leeks</b></p><button id="body">Open</button></div></div></div>`;
  const stage = document.querySelector("#stage")!;
  const said: (Heard | Pointed)[] = [];
  return { stage, said, root: stage.firstElementChild!.firstElementChild!, find: (id: string) => document.querySelector<HTMLElement>(id)! };
}

describe("a part that is pointed at", () => {
  it("is the innermost, with those around it", () => {
    const { root, find } = staged();
    expect(partsAt(root, paths, find("#label"))).toEqual(["label", "head", "root"]);
    expect(partsAt(root, paths, find("i"))).toEqual(["head", "root"]);
    expect(partsAt(root, paths, document.body)).toEqual([]);
    expect(partsAt(undefined, paths, find("#label"))).toEqual([]);
  });

  it("is told, and hears nothing of it", () => {
    const { stage, said, find } = staged();
    const cases = [{ key: "one", props: {}, paths, x: 0, y: 0 }] satisfies ShownCase[];
    let pointing = true;
    listen(
      stage,
      () => (pointing ? cases : undefined),
      (s) => said.push(s),
    );
    const pressed = vi.fn();
    find("#body").addEventListener("click", pressed);
    find("#body").click();
    expect(said).toEqual([{ kind: "pointed", case: "one", parts: ["body", "root"] }]);
    expect(pressed).not.toHaveBeenCalled();
    pointing = false;
    find("#body").click();
    expect(pressed).toHaveBeenCalledTimes(1);
    expect(said).toHaveLength(1);
  });
});

describe("what a behaviour hears", () => {
  beforeEach(() => vi.spyOn(performance, "now").mockReturnValue(1000));

  it("is told with its time since the case began, and not where the focus was moved by the behaviour itself", () => {
    const { stage, said, find } = staged();
    const begins = listen(
      stage,
      () => undefined,
      (s) => said.push(s),
    );
    begins("used 1 0");
    vi.spyOn(performance, "now").mockReturnValue(1250.4);
    globalThis.cobrikHears?.("used 1 0", "press of lamp", undefined, true);
    globalThis.cobrikHears?.(undefined, "press of lamp", undefined, true);
    expect(said).toEqual([{ kind: "heard", case: "used 1 0", event: "press of lamp", value: undefined, followed: true, at: 250 }]);
    find("#body").addEventListener("focus", () => globalThis.cobrikHears?.("used 1 0", "focus-in of body", undefined, true));
    find("#body").focus();
    expect(document.activeElement).toBe(find("#body"));
    expect(said).toHaveLength(1);
  });
});
