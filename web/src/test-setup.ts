import { cleanup } from "@testing-library/react";
import { afterEach, vi } from "vitest";

import { server } from "./test-server";

// What jsdom has not, and components ask for.
window.matchMedia ??= vi.fn().mockReturnValue({ matches: false, addEventListener: vi.fn(), removeEventListener: vi.fn() });
const nothing = () => undefined;
globalThis.ResizeObserver ??= class {
  observe = nothing;
  unobserve = nothing;
  disconnect = nothing;
};
Element.prototype.scrollIntoView ??= nothing;
// Before the client takes hold of them: paths without a host, as a page asks for them.
globalThis.Request = class extends Request {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === "string" ? new URL(input, "http://cobrik.test") : input, init);
  }
};
globalThis.fetch = server.fetch;

afterEach(() => {
  cleanup();
  server.reset();
});
