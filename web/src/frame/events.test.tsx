import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, render } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { ownWindow } from "../api/window";
import { useEvents } from "./events";

/** Stands for the browser's connection. */
class Source extends EventTarget {
  static open: Source[] = [];
  constructor(readonly url: string) {
    super();
    Source.open.push(this);
  }
  close() {
    Source.open = Source.open.filter((s) => s !== this);
  }
  say(subject: string) {
    this.dispatchEvent(new MessageEvent("message", { data: subject }));
  }
}

let looked: DocumentVisibilityState = "visible";
const look = (at: DocumentVisibilityState) => {
  looked = at;
  document.dispatchEvent(new Event("visibilitychange"));
};

function listening() {
  const queries = new QueryClient();
  const again = vi.spyOn(queries, "invalidateQueries").mockResolvedValue();
  const Window = () => {
    useEvents();
    return null;
  };
  const { unmount } = render(
    <QueryClientProvider client={queries}>
      <Window />
    </QueryClientProvider>,
  );
  return { again, unmount, keys: () => again.mock.calls.map(([filter]) => filter?.queryKey) };
}

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal("EventSource", Source);
  looked = "visible";
  vi.spyOn(document, "visibilityState", "get").mockImplementation(() => looked);
});
afterEach(() => {
  Source.open = [];
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe("a window that is looked at", () => {
  it("reads again what others changed and what it measured, not what it changed itself", () => {
    const { keys } = listening();
    Source.open[0]!.say(`component bed-card by ${ownWindow}`);
    vi.advanceTimersByTime(100);
    expect(keys()).toEqual([]);
    Source.open[0]!.say(`measured by ${ownWindow}`);
    Source.open[0]!.say("component crop-tag by another");
    vi.advanceTimersByTime(100);
    expect(keys()).toContainEqual(["components"]);
    expect(keys()).toContainEqual(["component", "crop-tag"]);
  });

  it("asks again, once, for what changes that come together have touched", () => {
    const { keys } = listening();
    Source.open[0]!.say("component bed-card");
    Source.open[0]!.say("component bed-card");
    expect(keys()).toEqual([]);
    act(() => vi.runAllTimers());
    expect(keys().filter((k) => k?.[1] === "bed-card")).toHaveLength(1);
    expect(keys()).not.toContain(undefined);
  });
  it("asks for everything when it cannot tell what changed", () => {
    const { keys } = listening();
    Source.open[0]!.say("component bed-card");
    Source.open[0]!.say("weather");
    act(() => vi.runAllTimers());
    expect(keys()).toEqual([undefined]);
  });
  it("reads what it missed once the connection stands", () => {
    const { keys } = listening();
    Source.open[0]!.dispatchEvent(new Event("open"));
    expect(keys()).toEqual([undefined]);
  });
});

describe("a window that nobody looks at", () => {
  it("holds no connection, and takes it up again", () => {
    const { unmount } = listening();
    expect(Source.open).toHaveLength(1);
    look("hidden");
    expect(Source.open).toHaveLength(0);
    look("visible");
    look("visible");
    expect(Source.open).toHaveLength(1);
    unmount();
    expect(Source.open).toHaveLength(0);
    look("visible");
    expect(Source.open).toHaveLength(0);
  });
});
