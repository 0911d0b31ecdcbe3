import type { Schema } from "../../api/client";
import type { Mark } from "./Stage";

export const tabs = [
  { key: "finds", label: "Finds" },
  { key: "families", label: "Families" },
  { key: "doubts", label: "Doubts" },
  { key: "widths", label: "Widths" },
  { key: "order", label: "Order" },
  { key: "layers", label: "Layers" },
] as const;

export type Shown = (typeof tabs)[number]["key"];

/** How many of a list there are; of doubts those that stand. */
export function standing(s: Schema["Survey"], shown: Shown): number | undefined {
  switch (shown) {
    case "finds":
      return s.finds.length;
    case "families":
      return s.families.length;
    case "doubts":
      return s.doubts.filter((d) => !d.outcome).length;
    case "widths":
      return s.widths.length;
    case "order":
      return s.order.filter((p) => p.kind !== "page" && p.state !== "released").length;
  }
  return undefined;
}

/** What is marked on a page, by the list that is shown beside it. Numbers are those of the list. */
export function marksOf(
  s: Schema["Survey"],
  shown: Shown,
  page: string,
  layers: Schema["DrawnLayer"][],
  open: Schema["SurveyFind"] | undefined,
): Mark[] {
  switch (shown) {
    case "finds":
    case "order":
      return s.finds.flatMap((f, i) =>
        open && open !== f
          ? []
          : f.members.flatMap((m, k) =>
              m.page === page ? [{ key: `${f.id} ${m.id}`, group: f.id, box: m.box, label: `${i + 1}.${k + 1}` }] : [],
            ),
      );
    case "families":
      return s.families.flatMap((f, i) =>
        f.uses.flatMap((u) => (u.page === page ? [{ key: u.layer, group: f.id, box: u.box, label: String(i + 1) }] : [])),
      );
    case "widths": {
      const at = new Map(layers.map((l) => [l.id, l.box]));
      const pieces = s.widths.flatMap((w, i) =>
        w.pieces.map((p, k) => ({ group: `${i}.${k}`, label: String(k + 1), layer: p.layers[page] })),
      );
      return pieces.flatMap((p) => {
        const box = p.layer === undefined ? undefined : at.get(p.layer);
        return box ? [{ key: p.group, group: p.group, box, label: p.label }] : [];
      });
    }
    case "doubts": {
      const at = new Map(layers.map((l) => [l.id, l.box]));
      return s.doubts.flatMap((d, i) =>
        d.outcome || d.page !== page
          ? []
          : d.layers.flatMap((l, k) => {
              const box = at.get(l);
              return box ? [{ key: `${d.id} ${l}`, group: d.id, box, label: k === 0 ? String(i + 1) : undefined }] : [];
            }),
      );
    }
  }
  return [];
}
