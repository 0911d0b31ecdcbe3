import { MantineProvider } from "@mantine/core";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";

import type { Trouble } from "./api/client";

type Answer = (body: never) => unknown;

let answers: Record<string, Answer> = {};
let asked: { operation: string; body: unknown }[] = [];

/** A server of the tests' own: it gives what it was told to, and remembers what it was asked. */
export const server = {
  /** Answers an operation, "POST /tokens/step", with what is made of its body; a Refusal fails. */
  answer(operation: string, make: Answer) {
    answers[operation] = make;
  },
  /** The bodies an operation was asked with. */
  asked: (operation: string) => asked.filter((a) => a.operation === operation).map((a) => a.body),
  reset() {
    answers = {};
    asked = [];
  },
  fetch: async (input: RequestInfo | URL, init?: RequestInit): Promise<Response> => {
    const request = new Request(input, init);
    const operation = `${request.method} ${new URL(request.url).pathname.replace(/^\/api\/projects\/[^/]+/, "")}`;
    const text = await request.text();
    const body: unknown = text ? JSON.parse(text) : undefined;
    asked.push({ operation, body });
    const made = answers[operation]?.(body as never) ?? new Refusal({ status: 404, message: `There is no answer to ${operation}.` });
    const refused = made instanceof Refusal;
    return Response.json(refused ? made.trouble : made, { status: refused ? made.trouble.status : 200 });
  },
};

export class Refusal {
  constructor(readonly trouble: Trouble) {}
}

/** Renders a view as the frame does. */
export function show(view: ReactNode) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const shown = render(
    <MantineProvider env="test">
      <QueryClientProvider client={queries}>
        <MemoryRouter>{view}</MemoryRouter>
      </QueryClientProvider>
    </MantineProvider>,
  );
  return { ...shown, queries };
}
