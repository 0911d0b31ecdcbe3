import { answer } from "./data";

// The views ask as they ask a server; the site's own files answer.
globalThis.fetch = async (input, init) => {
  const request = new Request(input, init);
  const url = new URL(request.url);
  const path = url.pathname.replace(/^.*\/api\/projects\/[^/]*/, "");
  const text = request.method === "GET" ? "" : await request.text();
  const found = await answer(`${request.method} ${path}`, url.searchParams, text ? JSON.parse(text) : undefined);
  if (found === undefined) return Response.json({ status: 404, message: "This catalogue does not hold that." }, { status: 404 });
  return Response.json(found);
};
