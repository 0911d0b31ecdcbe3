import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import createClient from "openapi-fetch";
import { useEffect } from "react";

import type { components, paths } from "./schema";
import { ownName, ownWindow } from "./window";

export type Schema = components["schemas"];
export type Trouble = Schema["Trouble"];
export type Problem = Schema["Problem"];

/** The project whose page this is: the first part of its address. */
export const project = window.location.pathname.split("/")[1] ?? "";

/** Where the project's operations are. */
export const operations = `/api/projects/${project}`;

const client = createClient<paths>({ baseUrl: operations, headers: { "Cobrik-Window": ownWindow } });
client.use({
  onRequest({ request }) {
    // Who writes is who this window says it is.
    const name = ownName();
    if (name && request.method !== "GET") request.headers.set("Cobrik-Name", encodeURIComponent(name));
  },
});

/** An answer that is not a success. */
export class ApiError extends Error {
  constructor(readonly trouble: Trouble) {
    super(trouble.message);
  }
}

interface Answer<T> {
  data?: T;
  error?: Trouble;
  response: Response;
}

async function unwrap<T>(asked: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await asked.catch(() => {
    throw new ApiError({
      status: 0,
      message: "Cobrik's server does not answer. What you see is what was read last; it will be read again when the server is back.",
    });
  });
  if (data === undefined) {
    throw new ApiError(error?.message ? error : { status: response.status, message: `The server answered ${response.status}.` });
  }
  return data;
}

const params = (slug: string) => ({ params: { path: { slug } } });

/** Every reading operation, as the query that the views use. */
export const useProject = () => useQuery({ queryKey: ["project"], queryFn: () => unwrap(client.GET("/project")) });
export const useSources = () => useQuery({ queryKey: ["sources"], queryFn: () => unwrap(client.GET("/sources")) });
export const useSurveys = () => useQuery({ queryKey: ["survey"], queryFn: () => unwrap(client.GET("/survey")) });
/** The readings of long designs that are under way; asked again and again as long as there are some. */
export const useReadings = () =>
  useQuery({
    queryKey: ["survey", "readings"],
    queryFn: () => unwrap(client.GET("/survey/readings")),
    refetchInterval: (query) => (query.state.data?.length ? 400 : false),
  });
export const useTokens = () => useQuery({ queryKey: ["tokens"], queryFn: () => unwrap(client.GET("/tokens")) });
export const useToken = (path: string) =>
  useQuery({
    queryKey: ["tokens", "one", path],
    queryFn: () => unwrap(client.GET("/tokens/one", { params: { query: { path } } })),
    placeholderData: (last) => (last?.path === path ? last : undefined),
  });
export const useContrasts = () => useQuery({ queryKey: ["tokens", "contrasts"], queryFn: () => unwrap(client.GET("/tokens/contrasts")) });
export const useOffScale = () => useQuery({ queryKey: ["tokens", "scale"], queryFn: () => unwrap(client.GET("/tokens/scale")) });
export const useOutputs = () => useQuery({ queryKey: ["tokens", "outputs"], queryFn: () => unwrap(client.GET("/tokens/outputs")) });
/** What edits would change; asks nothing when there are none. */
export const useImpact = (revision: number, edits: Schema["TokenEdit"][]) =>
  useQuery({
    queryKey: ["tokens", "impact", revision, edits],
    queryFn: () => unwrap(client.POST("/tokens/preview", { body: { revision, edits } })),
    enabled: edits.length > 0,
    retry: false,
  });
export const useBuiltTokens = (revision: number, output: Schema["Output"], was: string, path: string) =>
  useQuery({
    queryKey: ["tokens", "built", revision, output, was, path],
    queryFn: () => unwrap(client.POST("/tokens/outputs/build", { body: { output, was, path } })),
    placeholderData: (last) => last,
    retry: false,
  });
export const useStarts = () => useQuery({ queryKey: ["tokens", "starts"], queryFn: () => unwrap(client.GET("/starts")) });
/** What has every word asked for, the best first; asks nothing without any. */
export const useSearch = (words: string) =>
  useQuery({
    queryKey: ["components", "search", words],
    queryFn: () => unwrap(client.GET("/catalogue", { params: { query: { words } } })),
    enabled: words.trim() !== "",
    placeholderData: (last) => (words.trim() === "" ? undefined : last),
  });
/** A component as the design draws it; asks nothing before it is in sight. */
export const useDrawn = (slug: string, build: string, ask: boolean) =>
  useQuery({
    queryKey: ["component", slug, "drawn", build],
    queryFn: () => unwrap(client.GET("/components/{slug}/drawn", params(slug))),
    enabled: ask,
  });
/** What components a drawing is like; asks nothing without one. */
export const useLike = (of: { document: string; layers: string[] } | { file: string; text: string } | undefined) =>
  useQuery({
    queryKey: ["components", "like", of],
    queryFn: () => unwrap(client.POST("/catalogue/like", { body: of! })),
    enabled: of !== undefined,
    retry: false,
  });
export const useTrials = () => useQuery({ queryKey: ["trial", "list"], queryFn: () => unwrap(client.GET("/trial")) });
export const useTrial = (slug: string) =>
  useQuery({ queryKey: ["trial", "page", slug], queryFn: () => unwrap(client.GET("/trial/pages/{slug}", params(slug))) });
/** A page as the design draws it; asks nothing without one. */
export const useTrialDrawn = (slug: string, page: string | undefined) =>
  useQuery({
    queryKey: ["trial", "drawn", slug, page],
    queryFn: () => unwrap(client.GET("/trial/pages/{slug}/drawn", { params: { path: { slug }, query: { page: page! } } })),
    enabled: page !== undefined,
  });
/** What another version of a component would do to a page; asks nothing without one. */
export const useTrialUpdate = (slug: string, revision: number, of: { component: string; version: string } | undefined) =>
  useQuery({
    queryKey: ["trial", "update", slug, revision, of],
    queryFn: () => unwrap(client.GET("/trial/pages/{slug}/update", { params: { path: { slug }, query: of! } })),
    enabled: of !== undefined,
  });
export const useTrialFiles = (slug: string, build: string) =>
  useQuery({ queryKey: ["trial", "files", slug, build], queryFn: () => unwrap(client.GET("/trial/pages/{slug}/files", params(slug))) });
/** What a page is at the width of a drawing, held to it; asks nothing before it was measured. */
export const useTrialCompared = (slug: string, body: { build: string; page: string; built: Schema["Built"][] } | undefined) =>
  useQuery({
    queryKey: ["trial", "compared", slug, body],
    queryFn: () => unwrap(client.POST("/trial/pages/{slug}/compare", { ...params(slug), body: body! })),
    enabled: body !== undefined,
    placeholderData: (last) => last,
    retry: false,
  });
export const useContent = () => useQuery({ queryKey: ["trial", "content"], queryFn: () => unwrap(client.GET("/content")) });
export const useRecords = (name: string, from: number) =>
  useQuery({
    queryKey: ["trial", "content", "records", name, from],
    queryFn: () => unwrap(client.GET("/content/records", { params: { query: { name, from } } })),
    placeholderData: (last) => (last?.name === name ? last : undefined),
  });
export const useEntries = () => useQuery({ queryKey: ["components"], queryFn: () => unwrap(client.GET("/components")) });
export const useFound = (words: string) =>
  useQuery({
    queryKey: ["find", words],
    queryFn: () => unwrap(client.GET("/find", { params: { query: { words } } })),
    enabled: words.trim() !== "",
    placeholderData: (last) => (words.trim() === "" ? undefined : last),
    gcTime: 60_000,
  });
/** What hangs on a source, by what it is: a design document's id, or a token file's name. */
export const useRests = (of: { document: string } | { file: string }) =>
  useQuery({
    queryKey: ["sources", "rests", of],
    queryFn: () =>
      "document" in of
        ? unwrap(client.GET("/sources/{id}/rests", { params: { path: { id: of.document } } }))
        : unwrap(client.GET("/tokens/files/rests", { params: { query: { name: of.file } } })),
  });
/** What differs between two revisions of a design document, or of the token files when none is named. */
export const useCompared = (document: string | undefined, before: number, after: number) =>
  useQuery({
    queryKey: ["sources", "compared", document, before, after],
    queryFn: () =>
      document
        ? unwrap(client.GET("/sources/{id}/compare", { params: { path: { id: document }, query: { before, after } } }))
        : unwrap(client.GET("/tokens/compare", { params: { query: { before, after } } })),
    placeholderData: (last) => last,
    retry: false,
  });
export const usePrimitives = () => useQuery({ queryKey: ["tokens", "primitives"], queryFn: () => unwrap(client.GET("/primitives")) });
export const useIcons = () => useQuery({ queryKey: ["icons"], queryFn: () => unwrap(client.GET("/icons")) });
export const useTarget = () => useQuery({ queryKey: ["target"], queryFn: () => unwrap(client.GET("/target")) });
export const useCode = () => useQuery({ queryKey: ["target", "code"], queryFn: () => unwrap(client.GET("/code")) });
/** What a contract of a component that people wrote would say. */
export const useAdoptPlan = (body: Schema["AdoptRequest"]) =>
  useQuery({
    queryKey: ["target", "adopt", body],
    queryFn: () => unwrap(client.POST("/code/adopt/plan", { body })),
    placeholderData: (last) => last,
    retry: false,
  });
/** What a branch would hold. */
export const useWritePlan = (body: Schema["WriteRequest"], ask: boolean) =>
  useQuery({
    queryKey: ["target", "plan", body],
    queryFn: () => unwrap(client.POST("/code/plan", { body })),
    placeholderData: (last) => last,
    enabled: ask,
  });
export const useSync = () => useQuery({ queryKey: ["sync"], queryFn: () => unwrap(client.GET("/sync")) });
/** All that moved, by its causes, and who is to win. */
export const useDrift = () => useQuery({ queryKey: ["drift", "causes"], queryFn: () => unwrap(client.GET("/drift")) });
/** What a decision of several components would do; asks nothing without a choice. */
export const usePressPlan = (body: Schema["PressRequest"]) =>
  useQuery({
    queryKey: ["drift", "plan", body],
    queryFn: () => unwrap(client.POST("/drift/plan", { body })),
    enabled: body.choices.length > 0,
    retry: false,
  });
/** What a decision of a component's code would do; asks nothing where none is made. */
export const useCodeOutcome = (slug: string, body: Schema["CodeDecision"], ask: boolean) =>
  useQuery({
    queryKey: ["drift", "code", slug, body],
    queryFn: () => unwrap(client.POST("/code/components/{slug}/plan", { ...params(slug), body })),
    enabled: ask,
    retry: false,
  });
/** What moves a winner of a facet would decide; asks nothing without one. */
export const usePrecedenceReach = (body: Schema["Precedence"]) =>
  useQuery({
    queryKey: ["drift", "reach", body],
    queryFn: () => unwrap(client.POST("/drift/precedences/reach", { body })),
    enabled: body.wins !== "",
  });
/** What was decided, that has every word asked for. */
export const useDecisions = (words: string) =>
  useQuery({
    queryKey: ["drift", "decisions", words],
    queryFn: () => unwrap(client.GET("/decisions", { params: { query: { words } } })),
    placeholderData: (last) => last,
  });
/** How far all agree, from a time to another; from the beginning, and until now, without one. */
export const useDriftReport = (from: string | undefined, to: string | undefined) =>
  useQuery({
    queryKey: ["drift", "report", from, to],
    queryFn: () => unwrap(client.GET("/drift/report", { params: { query: { from, to } } })),
    placeholderData: (last) => last,
    retry: false,
  });
/** How each side of a move came to say what it says; asks nothing before it is looked at. */
export const useMoveHistory = (slug: string, lane: "design" | "code", key: string, ask: boolean) =>
  useQuery({
    queryKey: ["drift", "history", slug, lane, key],
    queryFn: () => unwrap(client.GET("/components/{slug}/history", { params: { path: { slug }, query: { lane, key } } })),
    enabled: ask,
  });
export const useWatches = () => useQuery({ queryKey: ["watches"], queryFn: () => unwrap(client.GET("/watches")) });
export const useBench = (slug: string, theme?: string) =>
  useQuery({
    queryKey: ["component", slug, "bench", theme ?? ""],
    queryFn: () => unwrap(client.GET("/components/{slug}", { params: { path: { slug }, query: { theme } } })),
    placeholderData: (last) => (last?.slug === slug ? last : undefined),
  });
export const useLedger = (slug: string, build: string | undefined, theme: string, ask = true) =>
  useQuery({
    queryKey: ["component", slug, "ledger", build, theme],
    queryFn: () => unwrap(client.GET("/components/{slug}/ledger", { params: { path: { slug }, query: { theme } } })),
    enabled: ask && build !== undefined,
    placeholderData: (last) => last,
  });
export const useWidths = (slug: string, build: string, key: string) =>
  useQuery({
    queryKey: ["component", slug, "widths", build, key],
    queryFn: () => unwrap(client.GET("/components/{slug}/widths", { params: { path: { slug }, query: { case: key } } })),
    placeholderData: (last) => last,
  });
/** A case under what people and data do to it; asks nothing unless that is looked at. */
export const useStress = (slug: string, build: string, key: string | undefined) =>
  useQuery({
    queryKey: ["component", slug, "stress", build, key],
    queryFn: () => unwrap(client.GET("/components/{slug}/stress", { params: { path: { slug }, query: { case: key } } })),
    enabled: key !== undefined,
    placeholderData: (last) => (key === undefined ? undefined : last),
  });
/** Every case in what is pinned; asks nothing unless that is looked at. */
export const useBoard = (slug: string, build: string, look: Schema["Look"] | undefined) =>
  useQuery({
    queryKey: ["component", slug, "board", build, look],
    queryFn: () => unwrap(client.GET("/components/{slug}/board", { params: { path: { slug }, query: look } })),
    enabled: look !== undefined,
    placeholderData: (last) => (look === undefined ? undefined : last),
  });
/** A case in a container of a width; asks nothing for a case as drawn. */
export const useCaseAt = (slug: string, build: string, key: string, theme: string, width: number | undefined) =>
  useQuery({
    queryKey: ["component", slug, "case", build, key, theme, width],
    queryFn: () => unwrap(client.GET("/components/{slug}/case", { params: { path: { slug }, query: { case: key, theme, width } } })),
    enabled: width !== undefined,
    placeholderData: (last) => (last?.key === key ? last : undefined),
    gcTime: 60_000,
  });
/** Where each part of a component stands that is given some props. */
export const usePlaces = (slug: string, build: string, props: Record<string, unknown>) =>
  useQuery({
    queryKey: ["component", slug, "places", build, props],
    queryFn: () => unwrap(client.POST("/components/{slug}/places", { params: { path: { slug } }, body: { props } })),
    placeholderData: (last) => last,
    gcTime: 60_000,
  });
export const useLayout = (slug: string, build: string, key: string, width: number | undefined) =>
  useQuery({
    queryKey: ["component", slug, "layout", build, key, width],
    queryFn: () => unwrap(client.GET("/components/{slug}/layout", { params: { path: { slug }, query: { case: key, width } } })),
    placeholderData: (last) => last,
    gcTime: 60_000,
  });
/** How a layer that was drawn without flow would be read. */
export const useContainers = (document: string, layer: string[]) =>
  useQuery({
    queryKey: ["survey", "containers", document, layer],
    queryFn: () => unwrap(client.GET("/survey/containers", { params: { query: { document, layer } } })),
    retry: false,
  });
const surveyPage = (document: string, page: string) => ({
  queryKey: ["survey", "page", document, page],
  queryFn: () => unwrap(client.GET("/survey/page", { params: { query: { document, page } } })),
});
/** A page's picture and layers; those of its neighbours are asked for ahead. */
export function useSurveyPage(document: string, page: string, neighbours: string[]) {
  const queries = useQueryClient();
  const query = useQuery(surveyPage(document, page));
  useEffect(() => {
    if (query.data) for (const next of neighbours) void queries.prefetchQuery({ ...surveyPage(document, next), staleTime: Infinity });
  }, [queries, document, query.data, neighbours]);
  return query;
}
export const useOpenFind = (document: string, find: string) =>
  useQuery({
    queryKey: ["survey", "find", document, find],
    queryFn: () => unwrap(client.GET("/survey/find", { params: { query: { document, find } } })),
    retry: false,
  });
export const questionsAddress = (document: string, markdown: boolean) =>
  `${operations}/survey/questions?document=${encodeURIComponent(document)}&markdown=${markdown}`;
export const useFiles = (slug: string) =>
  useQuery({ queryKey: ["component", slug, "files"], queryFn: () => unwrap(client.GET("/components/{slug}/files", params(slug))) });
export const useReleases = (slug: string) =>
  useQuery({
    queryKey: ["component", slug, "releases"],
    queryFn: () => unwrap(client.GET("/components/{slug}/releases", params(slug))),
  });
export const useLibrary = () => useQuery({ queryKey: ["components", "library"], queryFn: () => unwrap(client.GET("/library")) });
/** Where a version of the library is downloaded, as a zip or as npm installs it. */
export const libraryAddress = (version: string, kind: "zip" | "tgz") => `${operations}/library/${encodeURIComponent(version)}.${kind}`;
export const useAbout = (slug: string, build: string) =>
  useQuery({
    queryKey: ["component", slug, "about", build],
    queryFn: () => unwrap(client.GET("/components/{slug}/about", params(slug))),
    placeholderData: (last) => last,
  });
export const useReview = (slug: string) =>
  useQuery({ queryKey: ["component", slug, "review"], queryFn: () => unwrap(client.GET("/components/{slug}/review", params(slug))) });
/** How code goes from one version to a later one; asks nothing without both. */
export const useUpgrade = (slug: string, from: string, to: string) =>
  useQuery({
    queryKey: ["component", slug, "upgrade", from, to],
    queryFn: () => unwrap(client.GET("/components/{slug}/upgrade", { params: { path: { slug }, query: { from, to } } })),
    enabled: from !== "" && to !== "",
    placeholderData: (last) => last,
  });
export const useReleasePlan = (slug: string, revision: number | undefined) =>
  useQuery({
    queryKey: ["component", slug, "plan", revision],
    queryFn: () => unwrap(client.GET("/components/{slug}/release", params(slug))),
    enabled: revision !== undefined,
  });
export const useSheet = (slug: string, build: string) =>
  useQuery({
    queryKey: ["component", slug, "sheet", build],
    queryFn: () => unwrap(client.GET("/components/{slug}/sheet", params(slug))),
    placeholderData: (last) => last,
  });
/** What an edit would do; asks nothing without one. */
export const useTried = (slug: string, build: string, edit: Schema["Edit"] | undefined, theme: string) =>
  useQuery({
    queryKey: ["component", slug, "tried", build, edit, theme],
    queryFn: () => api.tryEdit(slug, edit!, theme),
    enabled: edit !== undefined,
    retry: false,
    gcTime: 60_000,
  });
/** Where a declaration comes to bear, and what it wins over. */
export const useEffectOf = (slug: string, build: string, on: string | undefined) =>
  useQuery({
    queryKey: ["component", slug, "effect", build, on],
    queryFn: () => unwrap(client.GET("/components/{slug}/sheet/effect", { params: { path: { slug }, query: { on } } })),
    enabled: on !== undefined,
    retry: false,
    gcTime: 60_000,
  });
/** What lengths become over the options of a choice. */
export const useScale = (slug: string, build: string, prop: string | undefined) =>
  useQuery({
    queryKey: ["component", slug, "scale", build, prop],
    queryFn: () => unwrap(client.GET("/components/{slug}/sheet/scale", { params: { path: { slug }, query: { prop } } })),
    enabled: prop !== undefined,
    placeholderData: (last) => last,
  });
export const useChecks = (slug: string, build: string) =>
  useQuery({
    queryKey: ["component", slug, "checks", build],
    queryFn: () => unwrap(client.GET("/components/{slug}/checks", params(slug))),
    placeholderData: (last) => last,
  });
export const useBehaviour = (slug: string, build: string) =>
  useQuery({
    queryKey: ["component", slug, "behaviour", build],
    queryFn: () => unwrap(client.GET("/components/{slug}/behaviour", params(slug))),
    placeholderData: (last) => last,
  });
/** What other words would do; asks nothing without any. */
export const useTriedBehaviour = (slug: string, build: string, text: string | undefined) =>
  useQuery({
    queryKey: ["component", slug, "behaviour", build, text],
    queryFn: () => unwrap(client.POST("/components/{slug}/behaviour/try", { ...params(slug), body: { text: text! } })),
    enabled: text !== undefined,
    placeholderData: (last) => (text === undefined ? undefined : last),
    retry: false,
  });
/** What instances go through, each by what happens to it. */
export const useCourses = (slug: string, build: string, instances: Schema["Instance"][], until: number) =>
  useQuery({
    queryKey: ["component", slug, "behaviour", build, instances, until],
    queryFn: () => unwrap(client.POST("/components/{slug}/behaviour/run", { ...params(slug), body: { instances, until } })),
    placeholderData: (last) => last,
  });
/** What can be expected of a part of an instance at a time. */
export const useSeen = (slug: string, build: string, instance: Schema["Instance"], at: number, part: string) =>
  useQuery({
    queryKey: ["component", slug, "behaviour", build, "seen", instance, at, part],
    queryFn: () => unwrap(client.POST("/components/{slug}/behaviour/seen", { ...params(slug), body: { instance, at, part } })),
    placeholderData: (last) => last,
    retry: false,
  });
/** How what is typed could go on. */
export const useCompletions = (slug: string, build: string, ask: Schema["Ask"] | undefined) =>
  useQuery({
    queryKey: ["component", slug, "complete", build, ask],
    queryFn: () => unwrap(client.POST("/components/{slug}/sheet/complete", { ...params(slug), body: ask! })),
    enabled: ask !== undefined,
    placeholderData: (last) => (ask ? last : undefined),
    retry: false,
    gcTime: 60_000,
  });
export const useValuesOf = (slug: string, part: string, property: string) =>
  useQuery({
    queryKey: ["component", slug, "values", part, property],
    queryFn: () => unwrap(client.GET("/components/{slug}/values", { params: { path: { slug }, query: { part, property } } })),
  });
export const useOutcome = (slug: string, decision: Schema["Decision"]) =>
  useQuery({
    queryKey: ["component", slug, "outcome", decision],
    queryFn: () => unwrap(client.POST("/components/{slug}/decide/preview", { ...params(slug), body: decision })),
    retry: false,
  });

export const api = {
  addTrial: (name: string) => unwrap(client.POST("/trial", { body: { name } })),
  takeTrials: (document: string, pages?: string[]) => unwrap(client.POST("/trial/take", { body: { document, pages } })),
  editTrial: (slug: string, revision: number, outline: string, step?: string) =>
    unwrap(client.POST("/trial/pages/{slug}", { ...params(slug), body: { revision, outline, step } })),
  pinTrial: (slug: string, revision: number, component: string, version: string) =>
    unwrap(client.POST("/trial/pages/{slug}/pin", { ...params(slug), body: { revision, component, version } })),
  undoTrial: (slug: string, revision: number) => unwrap(client.POST("/trial/pages/{slug}/undo", { ...params(slug), body: { revision } })),
  redoTrial: (slug: string, revision: number) => unwrap(client.POST("/trial/pages/{slug}/redo", { ...params(slug), body: { revision } })),
  lookTrial: (slug: string, widths: number[]) => unwrap(client.POST("/trial/pages/{slug}/widths", { ...params(slug), body: { widths } })),
  removeTrial: (slug: string) => unwrap(client.POST("/trial/pages/{slug}/remove", params(slug))),
  completeTrial: (slug: string, outline: string, line: number, typed: string) =>
    unwrap(client.POST("/trial/pages/{slug}/complete", { ...params(slug), body: { outline, line, typed } })),
  putContent: (file: File) =>
    unwrap(
      client.POST("/content", {
        params: { query: { file: file.name } },
        body: file as unknown as string,
        bodySerializer: (body) => body,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    ),
  removeContent: (name: string) => unwrap(client.POST("/content/remove", { body: { name } })),
  fetchContent: (name: string) => unwrap(client.POST("/content/fetch", { body: { name } })),
  drop: (file: File) =>
    unwrap(
      client.POST("/sources", {
        params: { query: { file: file.name } },
        body: file as unknown as string,
        bodySerializer: (body) => body,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    ),
  takeIcon: (file: File) =>
    unwrap(
      client.POST("/icons", {
        params: { query: { file: file.name } },
        body: file as unknown as string,
        bodySerializer: (body) => body,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    ),
  editIcon: (of: string, name: string, words: string) =>
    unwrap(client.POST("/icons/{name}", { params: { path: { name: of } }, body: { name, words } })),
  removeIcon: (name: string, back: boolean) =>
    unwrap(
      back
        ? client.POST("/icons/{name}/restore", { params: { path: { name } } })
        : client.POST("/icons/{name}/remove", { params: { path: { name } } }),
    ),
  replaceDocument: (id: string, file: File) =>
    unwrap(
      client.POST("/sources/{id}/replace", {
        params: { path: { id }, query: { file: file.name } },
        body: file as unknown as string,
        bodySerializer: (body) => body,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    ),
  callDocument: (id: string, name: string) => unwrap(client.POST("/sources/{id}/name", { params: { path: { id } }, body: { name } })),
  removeDocument: (id: string) => unwrap(client.POST("/sources/{id}/remove", { params: { path: { id } } })),
  restoreDocument: (id: string) => unwrap(client.POST("/sources/{id}/restore", { params: { path: { id } } })),
  renameTokenFile: (revision: number, name: string, to: string) =>
    unwrap(client.POST("/tokens/files/rename", { body: { revision, name, to } })),
  removeTokenFile: (revision: number, name: string) => unwrap(client.POST("/tokens/files/remove", { body: { revision, name } })),
  fetch: () => unwrap(client.POST("/host/fetch")),
  publishNext: (id: string) => unwrap(client.POST("/host/{id}/publish", { params: { path: { id } } })),
  draftFind: (body: Schema["FindDraft"]) => unwrap(client.POST("/survey/find", { body })),
  takeAsUses: (body: { document: string; find: string; component: string; left?: string[] }) =>
    unwrap(client.POST("/survey/uses", { body })),
  markAsOne: (document: string, layers: string[], one: boolean) =>
    unwrap(client.POST("/survey/marked", { body: { document, layers, one } })),
  /** Makes layers a copy of a find; of none takes that back. */
  addCopy: (document: string, find: string, layers: string[]) => unwrap(client.POST("/survey/copy", { body: { document, find, layers } })),
  draftLevel: (document: string, level: number) => unwrap(client.POST("/survey/level", { body: { document, level } })),
  sayOfDoubt: (body: { document: string; doubt: string; outcome: "" | "aside" | "asked"; reason?: string }) =>
    unwrap(client.POST("/survey/doubt", { body })),
  stopReading: (document: string, revision: number, stop: boolean) =>
    unwrap(client.POST("/survey/reading", { body: { document, revision, stop } })),
  switchRule: (rule: string, off: boolean) => unwrap(client.POST("/survey/rule", { body: { rule, off } })),
  plan: (name: string, wanted: boolean) => unwrap(client.POST("/survey/plan", { body: { name, wanted } })),
  draft: (body: { document: string; family?: string; layers?: string[]; name?: string }) => unwrap(client.POST("/components", { body })),
  begin: (name: string, start: string) => unwrap(client.POST("/starts", { body: { name, start } })),
  arrange: (slug: string, body: Schema["Arrange"]) => unwrap(client.POST("/components/{slug}/arrange", { ...params(slug), body })),
  takeReading: (slug: string, body: { revision: number; key: string; kind: string }) =>
    unwrap(client.POST("/components/{slug}/reading", { ...params(slug), body })),
  moveSwitch: (slug: string, body: { revision: number; from: number; to: number }) =>
    unwrap(client.POST("/components/{slug}/switch", { ...params(slug), body })),
  edit: (slug: string, revision: number, edits: Schema["ValueEdit"][]) =>
    unwrap(client.POST("/components/{slug}/edit", { ...params(slug), body: { revision, edits } })),
  amend: (slug: string, revision: number, edit: Schema["Edit"]) =>
    unwrap(client.POST("/components/{slug}/sheet", { ...params(slug), body: { revision, edit } })),
  behave: (slug: string, revision: number, text: string) =>
    unwrap(client.POST("/components/{slug}/behaviour", { ...params(slug), body: { revision, text } })),
  redraw: (slug: string, revision: number, redraw: Schema["Redraw"]) =>
    unwrap(client.POST("/components/{slug}/behaviour/redraw", { ...params(slug), body: { revision, redraw } })),
  adopt: (slug: string, body: Schema["AdoptedBody"]) =>
    unwrap(client.POST("/components/{slug}/behaviour/stock", { ...params(slug), body })),
  keepScenario: (slug: string, revision: number, name: string, instance: Schema["Instance"]) =>
    unwrap(client.POST("/components/{slug}/scenarios", { ...params(slug), body: { revision, name, instance } })),
  placeholder: (slug: string) => unwrap(client.POST("/components/{slug}/placeholder", params(slug))),
  dropScenario: (slug: string, revision: number, name: string) =>
    unwrap(client.POST("/components/{slug}/scenarios/drop", { ...params(slug), body: { revision, name } })),
  saveCase: (slug: string, of: string, name: string, look: Schema["Look"]) =>
    unwrap(client.POST("/components/{slug}/cases", { ...params(slug), body: { case: of, name, look } })),
  tryEdit: (slug: string, edit: Schema["Edit"], theme?: string) =>
    unwrap(client.POST("/components/{slug}/sheet/try", { params: { path: { slug }, query: { theme } }, body: edit })),
  here: (body: Schema["Here"]) => unwrap(client.POST("/here", { body, keepalive: true })),
  setAside: (slug: string, keys: string[], reason: string) =>
    unwrap(client.POST("/components/{slug}/checks", { ...params(slug), body: { keys, reason } })),
  step: (slug: string, revision: number, redo: boolean) =>
    unwrap(client.POST("/components/{slug}/step", { ...params(slug), body: { revision, redo } })),
  measured: (slug: string, build: string, theme: string, cases: Schema["Measurement"][]) =>
    unwrap(client.POST("/components/{slug}/ledger", { ...params(slug), body: { build, theme, cases } })),
  trace: (slug: string, build: string, stack: string) =>
    unwrap(client.POST("/components/{slug}/trace", { ...params(slug), body: { build, stack } })),
  releaseLibrary: (version: string, note: string) => unwrap(client.POST("/library", { body: { version, note } })),
  askReview: (slug: string, note: string) => unwrap(client.POST("/components/{slug}/review", { ...params(slug), body: { note } })),
  endReview: (slug: string) => unwrap(client.POST("/components/{slug}/review/end", params(slug))),
  approve: (slug: string, revision: number) =>
    unwrap(client.POST("/components/{slug}/review/approve", { ...params(slug), body: { revision } })),
  comment: (slug: string, body: Schema["NewComment"]) => unwrap(client.POST("/components/{slug}/comments", { ...params(slug), body })),
  resolveComment: (slug: string, id: number, resolved: boolean) =>
    unwrap(client.POST("/components/{slug}/comments/resolve", { ...params(slug), body: { id, resolved } })),
  askApproval: (on: boolean) => unwrap(client.POST("/approval", { body: { on } })),
  release: (slug: string, body: { revision: number; shelf: string; note: string }) =>
    unwrap(client.POST("/components/{slug}/release", { ...params(slug), body })),
  editTokens: (revision: number, edits: Schema["TokenEdit"][]) => unwrap(client.POST("/tokens", { body: { revision, edits } })),
  stepTokens: (revision: number, redo: boolean) => unwrap(client.POST("/tokens/step", { body: { revision, redo } })),
  bindRaw: (body: { scale: string; value: string; token: string }) => unwrap(client.POST("/tokens/scale", { body })),
  saveOutput: (revision: number, was: string, output: Schema["Output"]) =>
    unwrap(client.POST("/tokens/outputs", { body: { revision, was, output } })),
  removeOutput: (revision: number, file: string) => unwrap(client.POST("/tokens/outputs/remove", { body: { revision, file } })),
  restoreOutputs: (revision: number) => unwrap(client.POST("/tokens/outputs/restore", { body: { revision } })),
  setTarget: (body: Schema["TargetEdit"]) => unwrap(client.POST("/target", { body })),
  readTarget: () => unwrap(client.POST("/target/read")),
  decideCode: (slug: string, body: Schema["CodeDecision"]) => unwrap(client.POST("/code/components/{slug}", { ...params(slug), body })),
  adoptCode: (body: Schema["AdoptRequest"]) => unwrap(client.POST("/code/adopt", { body })),
  decideCodeTokens: (body: Schema["TokenDecisionRequest"]) => unwrap(client.POST("/code/tokens", { body })),
  writeCode: (body: Schema["WriteRequest"]) => unwrap(client.POST("/code/write", { body })),
  press: (body: Schema["PressRequest"]) => unwrap(client.POST("/drift/decide", { body })),
  setPrecedence: (body: Schema["Precedence"]) => unwrap(client.POST("/drift/precedences", { body })),
  takeBack: (id: number) => unwrap(client.POST("/decisions/{id}/undo", { params: { path: { id } } })),
  setWatch: (subject: "design" | "code", every: number) => unwrap(client.POST("/watches", { body: { subject, every } })),
  decide: (slug: string, body: Schema["Decision"]) => unwrap(client.POST("/components/{slug}/decide", { ...params(slug), body })),
};

/**
 * A write; when it ends, all that is shown is read again. Writes of one queue
 * wait for each other.
 */
/** Whether a query is of one build of a component: after an edit of that there is another build, and another query. */
const ofBuild = ([kind, , what]: readonly unknown[]) =>
  kind === "component" &&
  ["ledger", "widths", "stress", "board", "case", "layout", "sheet", "checks", "effect", "scale", "complete", "behaviour"].includes(
    String(what),
  );

export function useWrite<I, T>(write: (input: I) => Promise<T>, after?: (result: T, input: I) => void, queue?: string) {
  const queries = useQueryClient();
  return useMutation<T, Error, I>({
    mutationFn: write,
    scope: queue === undefined ? undefined : { id: queue },
    onSuccess: after,
    onSettled: () => queries.invalidateQueries(queue === undefined ? undefined : { predicate: (q) => !ofBuild(q.queryKey) }),
  });
}
