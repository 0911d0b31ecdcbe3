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
import { listen } from "./hearing";
import type { Failed, FromFrame, Load, MeasuredCase, Scroll, Show, ShownCase } from "./messages";

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

  // What failed with other props may do with these.
  override componentDidUpdate(before: { children: React.ReactNode }) {
    if (this.state.failed && before.children !== this.props.children) this.setState({ failed: false });
  }

  override render() {
    return this.state.failed ? null : this.props.children;
  }
}

const stage = document.createElement("div");
const root = createRoot(stage);
let component: React.ComponentType | undefined;
let builds = 0;
let newest = 0;
/** The build that was asked for last, and the one that runs, by their pages' addresses; none for the page's own. */
let loading: string | undefined;
let running: string | undefined;
let waiting: Show | undefined;

globalThis.cobrikRun = (another) => {
  // A script that comes late must not pass for the build that was asked for meanwhile: its measurements would be kept as that one's.
  const of = (document.currentScript as HTMLScriptElement | null)?.dataset.component;
  if (of !== loading) return;
  running = of;
  component = another;
  builds++;
  if (!stage.isConnected) document.body.append(stage);
  post({ kind: "ready", src: running });
  if (waiting) show(waiting, component);
  waiting = undefined;
};

let shown: ShownCase[] = [];
let pointing = false;
const begins = listen(stage, () => (pointing ? shown : undefined), post);

// What was told is no news: whoever looks at the page scrolled it only where it is elsewhere.
let toldTop = 0;
window.addEventListener("scroll", () => {
  const top = window.scrollY;
  if (Math.abs(top - toldTop) < 1) return;
  toldTop = top;
  post({ kind: "scrolled", top, most: document.documentElement.scrollHeight - window.innerHeight });
});

function scroll({ top }: Scroll) {
  toldTop = Math.max(0, Math.min(top, document.documentElement.scrollHeight - window.innerHeight));
  window.scrollTo(0, toldTop);
}

window.addEventListener("message", (event: MessageEvent<Show | Load | Scroll>) => {
  if (!origins.includes(event.origin) && origins[0] !== "*") return; // pages opened from a folder have no origin
  if (event.data.kind === "load") void load(event.data);
  else if (event.data.kind === "scroll") scroll(event.data);
  else if (event.data.kind === "prepare") prepare(event.data.src);
  else if (event.data.kind === "show" && component) show(event.data, component);
});

/** The addresses of a build's style sheet and script; nothing for what is no build. */
function filesOf(src: string) {
  const page = new URL(src, window.location.href);
  if (page.origin !== new URL(window.location.href).origin || !page.pathname.startsWith("/c/")) return undefined;
  return { style: new URL(`component.css${page.search}`, page).href, script: new URL(`component.js${page.search}`, page).href };
}

/** Fetches a build that is asked for soon. */
function prepare(src: string) {
  for (const [as, href] of Object.entries(filesOf(src) ?? {})) {
    document.head.append(Object.assign(document.createElement("link"), { rel: "preload", as, href, crossOrigin: "anonymous" }));
  }
}

/** Runs another build in the place of the one that runs: its style sheet first, then its script, which says that it is ready. */
async function load({ src, show: first }: Load) {
  const files = filesOf(src);
  if (!files) return;
  loading = src;
  const before = document.querySelectorAll("[data-component], link[href^='component.css'], script[src^='component.js'], link[rel=preload]");
  const style = document.createElement("link");
  Object.assign(style, { rel: "stylesheet", crossOrigin: "anonymous", href: files.style });
  const script = document.createElement("script");
  Object.assign(script, { crossOrigin: "anonymous", src: files.script });
  style.dataset.component = script.dataset.component = src;
  prepare(src); // both come at once; the script runs once the style is there
  await new Promise((done) => {
    style.onload = style.onerror = done;
    document.head.append(style);
  });
  if (loading !== src) return style.remove(); // a later build is asked for meanwhile
  before.forEach((e) => e.remove());
  waiting = first;
  document.body.append(script);
}

function show(asked: Show, component: React.ComponentType) {
  const mine = ++newest;
  const of = running;
  shown = asked.cases;
  pointing = asked.point ?? false;
  stage.classList.toggle("pointing", pointing);
  document.body.classList.toggle("page", asked.page ?? false);
  const text = asked.text ?? 100;
  document.documentElement.style.fontSize = text === 100 ? "" : `${text}%`;
  ReactDOM.flushSync(() =>
    root.render(
      asked.cases.map((one) => (
        <Stand key={`${builds} ${one.theme ?? ""} ${one.key}`} one={one} page={asked.page ?? false} component={component} />
      )),
    ),
  );
  void settle(stage).then(() => {
    if (mine !== newest) return;
    post({ kind: "measured", of, cases: asked.cases.flatMap((one, i) => measure(stage.children[i], one, asked, component)) });
    if (asked.paint && asked.cases.length > 0) {
      void paint(stage, asked.paint, text).then((painted) => mine === newest && post({ kind: "painted", of, ...painted }));
    }
    // Frames share their time: what is only compared waits for what is measured.
    requestIdleCallback(() => void against(asked, mine, of), { timeout: 400 });
  });
}

/** Lays the first case over a drawing, unless something else is shown by then. */
async function against(asked: Show, mine: number, of: string | undefined) {
  const stand = stage.firstElementChild;
  if (!asked.against || !stand || mine !== newest) return;
  const compared = await compare(stand, asked.against);
  if (mine === newest) post({ kind: "compared", of, ...compared });
}

function Stand({ one, page, component: Component }: { one: ShownCase; page: boolean; component: React.ComponentType }) {
  const watched = one.live ? one.key : undefined;
  React.useEffect(() => {
    if (watched !== undefined) begins(watched);
  }, [watched]);
  return (
    <div
      className="stand"
      {...one.attributes}
      style={{ left: one.x, top: one.y, width: one.width ?? "max-content", display: one.block ? "block" : undefined }}
    >
      {/* A case with other props begins anew; a page goes on. */}
      <Guard key={page ? "page" : JSON.stringify([one.props, one.live ? undefined : [one.states, one.values]])}>
        <Component {...given(one.props)} {...shownIn(one)} />
      </Guard>
    </div>
  );
}

/** The attribute that the preview's own style sheet reads states from, and a behaviour the one it is held in: with none, it is as at first and its times stand still. */
function shownIn(one: ShownCase): Record<string, string> {
  if (one.live) return { "data-watched": one.key };
  const values: Record<string, string> = one.values ? { "data-values": JSON.stringify(one.values) } : {};
  return { "data-states": (one.states ?? []).join(" "), ...values };
}

/** Waits until the fonts that the layout asks for are there. */
async function settle(stage: HTMLElement) {
  stage.getBoundingClientRect();
  await document.fonts.ready;
}

function measure(stand: Element | undefined, one: ShownCase, asked: Show, component: unknown): MeasuredCase[] {
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
        text: (asked.seen ? (element as HTMLElement).innerText : element.textContent) ?? "",
        style: Object.fromEntries(asked.measure.map((p) => [p, computed.getPropertyValue(p)])),
        access: asked.page ? { role: "" } : access(element),
        given: asked.page ? undefined : givenTo(element, component),
      },
    ];
  });
  return [{ case: one.key, theme: one.theme, parts }];
}

post({ kind: "alive" });
