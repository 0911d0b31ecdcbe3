import { Button, NativeSelect, TextInput } from "@mantine/core";
import { useRef, useState } from "react";

import { api, type Schema, useLayout, useWrite } from "../../api/client";
import { LayoutPicture } from "../../lanes/LayoutPicture";
import { EditValue } from "../../ledger/EditValue";
import { KindMark } from "../../ui/KindMark";
import { Failure, Query } from "../../ui/States";
import { Value } from "../../ui/Value";
import { ContainerTree } from "../../lanes/ContainerTree";
import classes from "./LayoutFacet.module.css";

interface Props {
  bench: Schema["Bench"];
  shown: Schema["CaseView"];
  /** Of the container, px; undefined for as drawn. */
  width: number | undefined;
  part: string | undefined;
  onPart: (part: string) => void;
}

/** The contract's containers beside the design: what holds what, and with how much room. */
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

function Facet({
  bench,
  view,
  part,
  onPart,
  label,
}: {
  bench: Schema["Bench"];
  view: Schema["LayoutView"];
  part: string | undefined;
  onPart: (part: string) => void;
  label: string;
}) {
  const [editing, setEditing] = useState<Schema["Fact"]>();
  const back = useRef<HTMLElement>(null);
  const chosen = view.parts.find((p) => p.id === part);
  const edit = (of: Schema["PartLayout"], property: string, at: HTMLElement) => {
    const said = of.declared.find((s) => s.property === property);
    if (!said) return;
    back.current = at;
    setEditing({
      part: of.id,
      name: of.name,
      property,
      facet: "space",
      contract: { value: said.value, expression: said.expression },
      verdict: "agree",
      whenKey: said.when || view.belowKey,
    });
  };
  return (
    <div className={classes.facet}>
      <ContainerTree view={view} part={part} onPart={onPart} />
      <section className={classes.picture} aria-label="Containers on the design">
        <LayoutPicture
          view={view}
          label={label}
          part={part}
          onPart={onPart}
          onStrip={(s, at) =>
            chosen &&
            edit(chosen, s.kind === "padding" ? (s.side === "left" || s.side === "right" ? "padding-inline" : "padding-block") : "gap", at)
          }
        />
      </section>
      {chosen && (
        <Inspector key={chosen.id} bench={bench} view={view} part={chosen} onEdit={(property, at) => edit(chosen, property, at)} />
      )}
      {editing && (
        <EditValue
          slug={bench.slug}
          revision={bench.revision}
          fact={editing}
          tokens={bench.tokens}
          close={() => {
            setEditing(undefined);
            back.current?.focus();
          }}
        />
      )}
    </div>
  );
}

interface Inspecting {
  bench: Schema["Bench"];
  view: Schema["LayoutView"];
  part: Schema["PartLayout"];
  onEdit: (property: string, at: HTMLElement) => void;
}

/** What one part does with its room, each of it to be changed. */
function Inspector({ bench, view, part, onEdit }: Inspecting) {
  const below = view.below || undefined;
  const [narrowOnly, setNarrowOnly] = useState(true);
  // Choices made one after another by keys: each follows on the one before.
  const written = useRef(0);
  const arrange = useWrite(
    async (change: Partial<Schema["Arrange"]>) => {
      const revision = Math.max(bench.revision, written.current);
      const at = narrowOnly || below === undefined ? view.width : undefined;
      const done = await api.arrange(bench.slug, {
        revision,
        part: part.id,
        case: view.case,
        at,
        below: narrowOnly ? below : undefined,
        ...change,
      });
      written.current = done.revision;
      return done;
    },
    undefined,
    bench.slug,
  );
  const take = useWrite((kind: string) => api.takeReading(bench.slug, { revision: bench.revision, key: part.key ?? "", kind }));
  const container = part.kind !== "leaf";
  const failed = arrange.error ?? take.error;
  return (
    <section className={classes.inspector} aria-label={`Layout of ${part.name}`}>
      <h2>
        <KindMark kind={part.kind ?? "leaf"} size={14} /> {part.name}
      </h2>
      <p className={classes.size}>
        <span className="mono">
          {round(part.box.width)} × {round(part.box.height)} px
        </span>
        {part.residual !== undefined && <Off residual={part.residual} />}
      </p>
      {failed && <Failure error={failed} />}
      {below !== undefined && (
        <Choice
          label="Changes hold"
          value={narrowOnly ? `below ${below} px` : "at all widths"}
          options={[`below ${below} px`, "at all widths"]}
          onChange={(v) => setNarrowOnly(v !== "at all widths")}
        />
      )}
      {container && (
        <>
          <Choice label="Lays out as" value={part.kind ?? ""} options={view.kinds} onChange={(kind) => arrange.mutate({ kind })} />
          {part.kind === "split" && (
            <Choice
              label="First column"
              value={part.columns ?? ""}
              options={view.columns}
              onChange={(columns) => arrange.mutate({ columns })}
            />
          )}
          {part.kind === "grid" && (
            <Columns key={part.columns} value={part.columns ?? ""} onChange={(columns) => arrange.mutate({ columns })} />
          )}
          {part.align && (
            <Choice
              label="Align across"
              value={part.align}
              options={["stretch", "start", "center", "end", "baseline"]}
              onChange={(align) => arrange.mutate({ align })}
            />
          )}
          {part.distribute && (
            <Choice
              label="Distribute along"
              value={part.distribute}
              options={["start", "center", "end", "space-between"]}
              onChange={(distribute) => arrange.mutate({ distribute })}
            />
          )}
        </>
      )}
      {part.declared.map((s) => (
        <button key={s.property} type="button" className={classes.said} onClick={(e) => onEdit(s.property, e.currentTarget)}>
          <span>{words[s.property] ?? s.property}</span>
          <Value value={s.value} expression={s.expression.includes("{") ? s.expression : undefined} />
          {s.label && <span className="quiet">{s.label}</span>}
        </button>
      ))}
      <Choice label="Width" value={part.width ?? ""} options={part.sizings} onChange={(width) => arrange.mutate({ width })} />
      <Choice label="Height" value={part.height ?? ""} options={part.sizings} onChange={(height) => arrange.mutate({ height })} />
      {part.others.length > 0 && (
        <div className={classes.others}>
          <h3>Could be read as</h3>
          <ul>
            {part.others.map((o) => (
              <li key={o.kind}>
                <b>{o.kind}</b>
                {o.open && (
                  <Button size="compact-xs" loading={take.isPending && take.variables === o.kind} onClick={() => take.mutate(o.kind)}>
                    Take
                  </Button>
                )}
                <span className="quiet">{o.why}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

const words: Record<string, string> = {
  gap: "Gap",
  "padding-block": "Padding, block",
  "padding-inline": "Padding, inline",
  "max-width": "Maximum width",
};

/** How far a part is drawn from where its contract puts it. */
function Off({ residual }: { residual: number }) {
  const level = residual <= 0.5;
  return <span className={level ? classes.level : classes.off}>{level ? "as drawn" : `${round(residual)} px off the drawing`}</span>;
}

function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: string[];
  onChange: (value: string) => void;
}) {
  const known = options.includes(value) ? options : [value, ...options];
  return (
    <label className={classes.choice}>
      <span>{label}</span>
      <NativeSelect size="xs" value={value} data={known} onChange={(e) => onChange(e.currentTarget.value)} />
    </label>
  );
}

/** How many columns a grid has, or which: a number or a track list. */
function Columns({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  const [typed, setTyped] = useState(value);
  return (
    <form
      className={classes.choice}
      onSubmit={(e) => {
        e.preventDefault();
        onChange(typed.trim());
      }}
    >
      <label htmlFor="columns">Columns</label>
      <TextInput
        id="columns"
        size="xs"
        className="mono"
        value={typed}
        onChange={(e) => setTyped(e.currentTarget.value)}
        onBlur={() => typed.trim() !== value && onChange(typed.trim())}
      />
    </form>
  );
}

function round(n: number) {
  return Math.round(n * 100) / 100;
}
