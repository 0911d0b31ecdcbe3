import { Button } from "@mantine/core";
import { useRef, useState } from "react";

import { api, type Schema, useLayout, useWrite } from "../../api/client";
import { type Cut, CuttingList } from "../../lanes/CuttingList";
import { LayoutPicture } from "../../lanes/LayoutPicture";
import { EditValue } from "../../ledger/EditValue";
import { Failure, Query } from "../../ui/States";
import classes from "./LayoutFacet.module.css";

interface Props {
  bench: Schema["Bench"];
  shown: Schema["CaseView"];
  /** Of the container, px; undefined for as drawn. */
  width: number | undefined;
  part: string | undefined;
  onPart: (part: string) => void;
}

/** The contract's containers as a working drawing with its cutting list, edited in place. */
export function LayoutFacet({ bench, shown, width, part, onPart }: Props) {
  const layout = useLayout(bench.slug, bench.build, shown.key, width);
  return (
    <Query query={layout} what="the containers">
      {(view) => (
        <Facet
          bench={bench}
          view={view}
          part={view.parts.some((p) => p.id === part) ? part : "root"}
          onPart={onPart}
          label={`${shown.name}, as designed`}
        />
      )}
    </Query>
  );
}

interface FacetProps {
  bench: Schema["Bench"];
  view: Schema["LayoutView"];
  part: string | undefined;
  onPart: (part: string) => void;
  label: string;
}

function Facet({ bench, view, part, onPart, label }: FacetProps) {
  const [editing, setEditing] = useState<Schema["Fact"]>();
  const below = view.below || undefined;
  const [narrowOnly, setNarrowOnly] = useState(true);
  const chosen = view.parts.find((p) => p.id === part);
  // Choices made one after another by keys: each follows on the one before.
  const written = useRef(0);
  const write = useWrite(
    async ({ parts, column, value }: { parts: string[]; column: Cut; value: string }) => {
      const revision = Math.max(bench.revision, written.current);
      const values = valuesOf(column, value);
      const done = values
        ? await api.edit(bench.slug, revision, edits(view, parts, values))
        : await api.arrange(bench.slug, {
            revision,
            part: parts[0] ?? "",
            also: parts.slice(1),
            case: view.case,
            at: narrowOnly || below === undefined ? view.width : undefined,
            below: narrowOnly ? below : undefined,
            ...arrangement(column, value),
          });
      written.current = done.revision;
      return done;
    },
    undefined,
    bench.slug,
  );
  const take = useWrite((reading: { key: string; kind: string }) =>
    api.takeReading(bench.slug, { revision: bench.revision, key: reading.key, kind: reading.kind }),
  );
  const room = (strip: Schema["Strip"]) => {
    const property =
      strip.kind === "padding" ? (strip.side === "left" || strip.side === "right" ? "padding-inline" : "padding-block") : "gap";
    const said = chosen?.declared.find((s) => s.property === property);
    if (chosen && said) setEditing(factOf(view, chosen, said));
  };
  const failed = write.error ?? take.error;
  // What the list has a column for is not said again, nor what says nothing.
  const moved =
    chosen?.declared.filter(
      (s) => !["gap", "padding-block", "padding-inline"].includes(s.property) && !["none", "auto", "0px", "0"].includes(s.value),
    ) ?? [];
  return (
    <div className={classes.facet}>
      <section className={classes.picture} aria-label="Containers on the design">
        <LayoutPicture view={view} label={label} part={part} onPart={onPart} onStrip={room} />
      </section>
      <CuttingList
        view={view}
        part={part}
        onPart={onPart}
        onSet={(parts, column, value) => write.mutate({ parts, column, value })}
        tokens={bench.tokens.filter((t) => t.type === "dimension").map((t) => `{${t.path}}`)}
      >
        <div className={classes.notes}>
          {editing && (
            <EditValue
              slug={bench.slug}
              revision={bench.revision}
              fact={editing}
              theme={bench.theme}
              tokens={bench.tokens}
              close={() => setEditing(undefined)}
            />
          )}
          {failed && <Failure error={failed} />}
          {below !== undefined && (
            <p className={classes.hold} role="group" aria-label="Changes hold">
              Changes hold{" "}
              <button type="button" aria-pressed={narrowOnly} onClick={() => setNarrowOnly(true)}>
                below {below} px
              </button>{" "}
              <button type="button" aria-pressed={!narrowOnly} onClick={() => setNarrowOnly(false)}>
                at all widths
              </button>
            </p>
          )}
          {chosen && moved.length > 0 && (
            <p>
              <b>{chosen.name}</b> <span className="quiet">is kept in its place by</span>{" "}
              {moved.map((s) => (
                <button key={s.property} type="button" className={classes.said} onClick={() => setEditing(factOf(view, chosen, s))}>
                  <code>
                    {s.property} {s.expression.includes("{") ? s.expression : s.value}
                  </code>
                </button>
              ))}
            </p>
          )}
          {chosen && chosen.others.length > 0 && (
            <>
              <p>
                <b>{chosen.name}</b> <span className="quiet">could also be read as</span>
              </p>
              <ul className={classes.others} aria-label={`Other readings of ${chosen.name}`}>
                {chosen.others.map((o) => (
                  <li key={o.kind}>
                    {o.kind} <span className="quiet">{o.why}</span>
                    {o.open && (
                      <Button
                        size="compact-xs"
                        loading={take.isPending && take.variables.kind === o.kind}
                        onClick={() => take.mutate({ key: chosen.key ?? "", kind: o.kind })}
                      >
                        Take
                      </Button>
                    )}
                  </li>
                ))}
              </ul>
            </>
          )}
        </div>
      </CuttingList>
    </div>
  );
}

function factOf(view: Schema["LayoutView"], part: Schema["PartLayout"], said: Schema["LayoutValue"]): Schema["Fact"] {
  return {
    part: part.id,
    name: part.name,
    property: said.property,
    facet: "space",
    contract: { value: said.value, expression: said.expression },
    verdict: "agree",
    whenKey: said.when || view.belowKey,
  };
}

const lengthsIn = (typed: string) =>
  (typed.match(/\{[^}]*\}|[^\s{}]+\([^)]*\)|[^\s]+/g) ?? []).map((v) => (/^-?[\d.]+$/.test(v) && v !== "0" ? `${v}px` : v));

/**
 * The properties that a cell of lengths is made of, numbers as px; undefined for a cell of words. Of padding one length is
 * for all sides, two are for block and inline; a stroke stands between these where one has a start and an end.
 */
export function valuesOf(column: Cut, typed: string): Record<string, string> | undefined {
  if (column === "gap") return { gap: lengthsIn(typed).join(" ") };
  if (column !== "padding") return undefined;
  const [before, after] = typed.split("/");
  if (after !== undefined) return { "padding-block": lengthsIn(before!).join(" "), "padding-inline": lengthsIn(after).join(" ") };
  const [block, inline = block] = lengthsIn(typed);
  return { "padding-block": block ?? "0", "padding-inline": inline ?? "0" };
}

function edits(view: Schema["LayoutView"], parts: string[], values: Record<string, string>): Schema["ValueEdit"][] {
  return parts.flatMap((id) => {
    const part = view.parts.find((p) => p.id === id);
    return Object.entries(values).map(([property, value]) => ({
      part: id,
      property,
      when: part?.declared.find((s) => s.property === property)?.when || view.belowKey,
      value,
    }));
  });
}

function arrangement(column: Cut, typed: string): Partial<Schema["Arrange"]> {
  switch (column) {
    case "lays": {
      const kind = ["wrapping row"].find((k) => typed.startsWith(k)) ?? typed.split(" ")[0];
      return { kind, columns: typed.slice(kind?.length).trim() };
    }
    case "across":
      return { align: typed };
    case "along":
      return { distribute: typed };
    case "width":
      return { width: typed };
    default:
      return { height: typed };
  }
}
