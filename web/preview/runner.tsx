// Runs in the preview origin's sandbox: renders the cases it is told to,
// measures their parts and reports both to the application.
import "./fonts.css";
import "./runner.css";

import * as React from "react";
import * as jsxRuntime from "react/jsx-runtime";
import * as ReactDOM from "react-dom";
import { createRoot } from "react-dom/client";

import { access } from "./access";
import { compare, paint } from "./compare";
import { givenTo } from "./fiber";
import { given } from "./given";
import type { Failed, FromFrame, MeasuredCase, Show, ShownCase } from "./messages";

declare global {
  var cobrikModules: Record<string, unknown>;
  var cobrikRun: (component: React.ComponentType) => void;
  var cobrikFailed: (failure: Omit<Failed, "kind">) => void;
}

const origins = (document.querySelector<HTMLMetaElement>("meta[name=cobrik-app]")?.content ?? "").split(" ");

function post(message: FromFrame) {
  // Only the one that frames this page can take it; the others are ignored.
  for (const origin of origins) window.parent.postMessage(message, origin);
}

globalThis.cobrikModules = { react: React, "react/jsx-runtime": jsxRuntime, "react-dom": ReactDOM };
globalThis.cobrikFailed = (failure) => post({ kind: "failed", ...failure });

function report(error: unknown) {
  const stack = error instanceof Error ? error.stack : undefined;
  post({ kind: "failed", message: error instanceof Error ? `${error.name}: ${error.message}` : String(error), stack });
}

window.addEventListener("error", (event) => report(event.error ?? event.message));
window.addEventListener("unhandledrejection", (event) => report(event.reason));

class Guard extends React.Component<{ children: React.ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override componentDidCatch(error: unknown) {
    report(error);
  }

  override render() {
    return this.state.failed ? null : this.props.children;
  }
}

globalThis.cobrikRun = (component) => {
  const stage = document.createElement("div");
  document.body.append(stage);
  const root = createRoot(stage);
  let newest = 0;
  window.addEventListener("message", (event: MessageEvent<Show>) => {
    if (!origins.includes(event.origin) || event.data.kind !== "show") return;
    const mine = ++newest;
    const show = event.data;
    const text = show.text ?? 100;
    document.documentElement.style.fontSize = text === 100 ? "" : `${text}%`;
    ReactDOM.flushSync(() =>
      root.render(show.cases.map((one) => <Stand key={`${one.theme ?? ""} ${one.key}`} one={one} component={component} />)),
    );
    void settle(stage).then(() => {
      if (mine !== newest) return;
      post({ kind: "measured", cases: show.cases.flatMap((one, i) => measure(stage.children[i], one, show.measure, component)) });
      if (show.paint && show.cases.length > 0) {
        void paint(stage, show.paint, text).then((painted) => mine === newest && post({ kind: "painted", ...painted }));
      }
      if (show.against && stage.firstElementChild) {
        void compare(stage.firstElementChild, show.against).then((compared) => mine === newest && post({ kind: "compared", ...compared }));
      }
    });
  });
  post({ kind: "ready" });
};

function Stand({ one, component: Component }: { one: ShownCase; component: React.ComponentType }) {
  return (
    <div
      className="stand"
      {...one.attributes}
      style={{ left: one.x, top: one.y, width: one.width ?? "max-content", display: one.block ? "block" : undefined }}
    >
      <Guard key={JSON.stringify(one.props)}>
        <Component {...given(one.props)} {...shownIn(one.states)} />
      </Guard>
    </div>
  );
}

/** The attribute that the preview's own style sheet reads states from. */
function shownIn(states: string[] | undefined): Record<string, string> {
  return states && states.length > 0 ? { "data-states": states.join(" ") } : {};
}

/** Waits until the fonts that the layout asks for are there. */
async function settle(stage: HTMLElement) {
  stage.getBoundingClientRect();
  await document.fonts.ready;
}

function measure(stand: Element | undefined, one: ShownCase, properties: string[], component: unknown): MeasuredCase[] {
  const root = stand?.firstElementChild;
  if (!root) return [];
  const origin = root.getBoundingClientRect();
  const parts = Object.entries(one.paths).flatMap(([part, path]) => {
    let element: Element | undefined = root;
    for (const i of path) element = element?.children[i];
    if (!element) return [];
    const box = element.getBoundingClientRect();
    const computed = getComputedStyle(element);
    return [
      {
        part,
        box: { x: box.x - origin.x, y: box.y - origin.y, width: box.width, height: box.height },
        text: element.textContent ?? "",
        style: Object.fromEntries(properties.map((p) => [p, computed.getPropertyValue(p)])),
        access: access(element),
        given: givenTo(element, component),
      },
    ];
  });
  return [{ case: one.key, theme: one.theme, parts }];
}
