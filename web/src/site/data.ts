import type { Schema } from "../api/client";

type Answer = Record<string, unknown>;

declare global {
  /** What every page of the site is made of: answers by operation, and the words it is searched by. */
  var cobrikSite: { answers: Answer; index: Index };
  /** Takes the answers about a component, from its own script. */
  var cobrikComponentData: (slug: string, answers: Answer) => void;
}

/** The index that the catalogue is searched by: package catalogue writes it. */
export interface Index {
  names: string[];
  slugs: string[];
  fields: string[];
  weights: number[];
  words: Record<string, { c: number; f: number; s: string }[]>;
}

const loaded = new Map<string, Promise<Answer>>();
/** Who waits for the answers about a component: several may be asked for before the first is there. */
const waiting = new Map<string, (answers: Answer) => void>();
globalThis.cobrikComponentData = (slug, answers) => waiting.get(slug)?.(answers);

/** The answers about a component, from the script that holds them. */
function about(slug: string): Promise<Answer> {
  let known = loaded.get(slug);
  if (!known) {
    known = new Promise((resolve, reject) => {
      const script = document.createElement("script");
      waiting.set(slug, resolve);
      script.src = `data/${slug}.js`;
      script.onerror = () => reject(new Error(`data/${slug}.js is not there`));
      document.head.append(script);
    });
    loaded.set(slug, known);
  }
  return known;
}

const fit = (asked: string, word: string): number => {
  let best = 0;
  for (const a of [asked, singular(asked)]) {
    if (a === word) best = Math.max(best, 1);
    else if (word.startsWith(a)) best = Math.max(best, 0.8);
    else if (a.length >= 3 && word.includes(a)) best = Math.max(best, 0.4);
  }
  return best;
};

const singular = (word: string) => (word.length > 3 && word.endsWith("s") && !word.endsWith("ss") ? word.slice(0, -1) : word);

/** Finds as package catalogue does, in a page that has no server to ask; a test holds the one to the other. */
export function find(index: Index, text: string): Schema["CatalogueHit"][] {
  const asked = text.toLowerCase().split(/\s+/).filter(Boolean);
  let hits = index.names.map((_, component) => ({ component, score: 0, why: [] as Schema["Reason"][] }));
  const words = Object.keys(index.words).sort();
  for (const a of asked) {
    const best = new Map<number, { f: number; s: string; score: number }>();
    for (const word of words) {
      const fits = fit(a, word);
      if (fits === 0) continue;
      for (const p of index.words[word]!) {
        const score = fits * index.weights[p.f]!;
        if (score > (best.get(p.c)?.score ?? 0)) best.set(p.c, { ...p, score });
      }
    }
    hits = hits.filter((h) => best.has(h.component));
    for (const h of hits) {
      const p = best.get(h.component)!;
      h.score += p.score;
      h.why.push({ word: a, field: index.fields[p.f]! as Schema["Reason"]["field"], said: p.s });
    }
  }
  hits.sort((a, b) => b.score - a.score);
  return hits.map((h) => ({ slug: index.slugs[h.component]!, why: h.why }));
}

/** Where the parts stand for props as a use gives them: as in the case that has the same choices and flags. */
function places(bench: Schema["Bench"], props: Record<string, unknown>): Record<string, number[]> {
  const shape = (of: Record<string, unknown>) =>
    bench.props
      .filter((p) => ["flag", "choice", "icon"].includes(p.kind))
      .map((p) => `${p.name}=${JSON.stringify(of[p.name] ?? p.default)}`)
      .join();
  return bench.cases.find((c) => shape(c.props) === shape(props))?.paths ?? { root: [] };
}

/** Answers what the views ask, out of the site's own files. */
export async function answer(operation: string, query: URLSearchParams, body: unknown): Promise<unknown> {
  if (operation === "GET /catalogue") return find(globalThis.cobrikSite.index, query.get("words") ?? "");
  const known = globalThis.cobrikSite.answers[operation];
  if (known !== undefined) return known;
  const slug = /^\w+ \/components\/([^/]+)/.exec(operation)?.[1];
  if (!slug) return undefined;
  const answers = await about(decodeURIComponent(slug));
  const theme = query.get("theme");
  if (operation.endsWith("/places")) {
    const bench = answers[`GET /components/${slug}`] as Schema["Bench"];
    return places(bench, (body as { props: Record<string, unknown> }).props);
  }
  return answers[theme ? `${operation}?theme=${theme}` : operation] ?? answers[operation];
}
