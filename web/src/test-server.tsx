import { MantineProvider } from "@mantine/core";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";

import type { Trouble } from "./api/client";

type Answer = (body: never, query: URLSearchParams) => unknown;

let answers: Record<string, Answer> = {};
let asked: { operation: string; body: unknown; query: URLSearchParams }[] = [];

/** A server of the tests' own: it gives what it was told to, and remembers what it was asked. */
export const server = {
  /** Answers an operation, "POST /tokens/step", with what is made of its body and query; a Refusal fails. */
  answer(operation: string, make: Answer) {
    answers[operation] = make;
  },
  /** The bodies an operation was asked with. */
  asked: (operation: string) => asked.filter((a) => a.operation === operation).map((a) => a.body),
  /** A parameter of the queries an operation was asked with. */
  queried: (operation: string, name: string) => asked.filter((a) => a.operation === operation).map((a) => a.query.get(name)),
  reset() {
    answers = {};
    asked = [];
  },
  fetch: async (input: RequestInfo | URL, init?: RequestInit): Promise<Response> => {
    const request = new Request(input, init);
    const { pathname, searchParams: query } = new URL(request.url);
    const operation = `${request.method} ${pathname.replace(/^\/api\/projects\/[^/]+/, "")}`;
    const text = await request.text();
    const json = request.headers.get("Content-Type")?.includes("json");
    const body: unknown = json && text ? JSON.parse(text) : undefined;
    asked.push({ operation, body, query });
    const made = answers[operation]?.(body as never, query) ?? new Refusal({ status: 404, message: `There is no answer to ${operation}.` });
    const refused = made instanceof Refusal;
    return Response.json(refused ? made.trouble : made, { status: refused ? made.trouble.status : 200 });
  },
};

export class Refusal {
  constructor(readonly trouble: Trouble) {}
}

/** Renders a view as the frame does, at an address. */
export function show(view: ReactNode, address = "/") {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const shown = render(
    <MantineProvider env="test">
      <QueryClientProvider client={queries}>
        <MemoryRouter initialEntries={[address]}>{view}</MemoryRouter>
      </QueryClientProvider>
    </MantineProvider>,
  );
  return { ...shown, queries };
}
