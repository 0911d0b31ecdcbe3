import type { Schema } from "../../api/client";

type Entry = Schema["Entry"];

/** A line of the list: a shelf, or a component. */
export type Line = { shelf: string; count: number } | { entry: Entry };

/** What the list can be held to. */
export const filters = {
  status: ["draft", "in review", "released", "deprecated"].map((value) => ({ value, label: value })),
  standing: [
    { value: "level", label: "level" },
    { value: "decide", label: "to decide" },
    { value: "differs", label: "built otherwise" },
    { value: "unmeasured", label: "not measured" },
    { value: "findings", label: "with findings" },
    { value: "unused", label: "not used" },
  ],
} as const;

const stands: Record<string, (e: Entry) => boolean> = {
  level: (e) => e.waiting === 0 && e.measured && e.differs === 0,
  decide: (e) => e.waiting > 0,
  differs: (e) => e.measured && e.differs > 0,
  unmeasured: (e) => !e.measured,
  findings: (e) => e.errors + e.warnings > 0,
  unused: (e) => e.uses + e.usedBy === 0,
};

/** The components that are shown: those found, the best first, or all. */
export function ordered(list: Entry[], hits: Schema["CatalogueHit"][] | undefined, status: string, standing: string): Entry[] {
  const bySlug = new Map(list.map((e) => [e.slug, e]));
  const found = hits ? hits.flatMap((h) => bySlug.get(h.slug) ?? []) : list;
  return found.filter((e) => (status === "" || e.status === status) && (stands[standing]?.(e) ?? true));
}

/** Components below the shelf they stand on, both by name; those on none come last. */
export function grouped(list: Entry[]): Line[] {
  const shelves = new Map<string, Entry[]>();
  for (const e of list) shelves.set(e.shelf, [...(shelves.get(e.shelf) ?? []), e]);
  const byName = [...shelves].sort(([a], [b]) => Number(a === "") - Number(b === "") || a.localeCompare(b));
  return byName.flatMap(([shelf, on]) => [
    { shelf: shelf || "On no shelf yet", count: on.length },
    ...on.sort((a, b) => a.name.localeCompare(b.name)).map((entry) => ({ entry })),
  ]);
}

/** Where the words that were asked for stand, but for those in its name. */
export function reasons(why: Schema["Reason"][] | undefined): string[] {
  return (why ?? []).flatMap((r) => {
    switch (r.field) {
      case "name":
        return [];
      case "synonym":
        return [`${r.word}: another word for ${r.said}`];
      case "text":
      case "purpose":
        return [`${r.field} “${r.said}”`];
      default:
        return [`${r.field} ${r.said}`];
    }
  });
}
