import type { Heard, Pointed, ShownCase } from "./messages";

declare global {
  /** What emitted behaviours say of what they hear, in the preview alone. */
  var cobrikHears: ((of: string | undefined, event: string, value: number | undefined, followed: boolean) => void) | undefined;
}

/**
 * Tells what happens to cases that are watched, and what is pointed at while something is. It gives a function that says when a case began.
 * A focus that a behaviour moves itself happens to nobody.
 */
export function listen(stage: Element, pointed: () => ShownCase[] | undefined, tell: (said: Heard | Pointed) => void) {
  const began = new Map<string, number>();
  let moving = false;
  const focus = HTMLElement.prototype.focus;
  HTMLElement.prototype.focus = function (...options) {
    moving = true;
    try {
      focus.apply(this, options);
    } finally {
      moving = false;
    }
  };
  globalThis.cobrikHears = (of, event, value, followed) => {
    if (of === undefined || moving) return;
    const at = (window.event?.timeStamp ?? performance.now()) - (began.get(of) ?? 0);
    tell({ kind: "heard", case: of, event, value, followed, at: Math.max(0, Math.round(at)) });
  };
  for (const kind of ["click", "pointerdown", "mousedown", "keydown"]) {
    stage.addEventListener(
      kind,
      (event) => {
        const cases = pointed();
        if (!cases) return;
        event.preventDefault();
        event.stopPropagation();
        if (kind !== "click") return;
        cases.forEach((one, i) => {
          const parts = partsAt(stage.children[i]?.firstElementChild, one.paths, event.target as Element);
          if (parts.length > 0) tell({ kind: "pointed", case: one.key, parts });
        });
      },
      true,
    );
  }
  return (of: string) => began.set(of, performance.now());
}

/** The parts that an element is in, the innermost first. */
export function partsAt(root: Element | null | undefined, paths: Record<string, number[]>, target: Element): string[] {
  return Object.entries(paths)
    .filter(([, path]) => {
      let element: Element | null | undefined = root;
      for (const i of path) element = element?.children[i];
      return element?.contains(target);
    })
    .sort(([, a], [, b]) => b.length - a.length)
    .map(([part]) => part);
}
