import { Button } from "@mantine/core";
import { useDeferredValue, useMemo, useState } from "react";
import { Link, useSearchParams } from "react-router";

import { type Schema, useEntries, usePrimitives, useProject, useSearch } from "../../api/client";
import over from "../../frame/DropAnywhere.module.css";
import { useFilesOver } from "../../frame/drop";
import { count } from "../../ui/count";
import { ListHead } from "../../ui/ListHead";
import { Empty, Query } from "../../ui/States";
import { isStatic } from "../../ui/static";
import { Library } from "./Library";
import { ByPicture, type Drawing } from "./ByPicture";
import classes from "./Catalogue.module.css";
import { EntryGrid } from "./EntryGrid";
import { filters, grouped, ordered } from "./entries";

/** All components: what each is for, where it stands, who uses it. Found by words, or by a picture. */
export function Catalogue() {
  const entries = useEntries();
  return (
    <Query query={entries} what="the catalogue">
      {(list) =>
        list.length === 0 ? (
          <div className={classes.view}>
            <Empty
              title="Nothing is in the catalogue yet"
              action={
                <Button component={Link} to="/bench" variant="filled">
                  To the bench
                </Button>
              }
            >
              A component is listed here once it is drafted, and stands on a shelf once it is released, for the team to find.
            </Empty>
            <Primitives shown={undefined} />
          </div>
        ) : (
          <List list={list} />
        )
      }
    </Query>
  );
}

function List({ list }: { list: Schema["Entry"][] }) {
  const project = useProject().data;
  const [search, setSearch] = useSearchParams();
  // The field is its own master: the address follows a little later than keys are struck.
  const [find, setText] = useState(search.get("find") ?? "");
  const [dropped, setDropped] = useState<Drawing>();
  const layers = search.get("like");
  const drawing = dropped ?? (layers ? layersOf(layers) : undefined);
  const put = (name: string, value: string) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        if (value) next.set(name, value);
        else next.delete(name);
        return next;
      },
      { replace: true },
    );
  const take = async (files: File[]) => {
    const file = files[0];
    if (file) setDropped({ file: file.name, text: await file.text() });
  };
  const isOver = useFilesOver((files) => isStatic || void take(files));
  const words = useDeferredValue(find);
  const searched = useSearch(words);
  const hits = words.trim() === "" ? undefined : searched.data;
  const status = search.get("status") ?? "";
  const standing = search.get("standing") ?? "";
  const shown = useMemo(() => ordered(list, hits, status, standing), [list, hits, status, standing]);
  const lines = useMemo(() => (hits ? shown.map((entry) => ({ entry })) : grouped(shown)), [shown, hits]);
  const why = useMemo(() => new Map(hits?.map((h) => [h.slug, h.why])), [hits]);
  return (
    <div className={classes.list}>
      {isOver && !isStatic && <div className={over.over}>Drop a drawing: the components that it is like are ranked</div>}
      <div className={classes.top}>
        <ListHead
          title="Catalogue"
          onDown={() => document.querySelector<HTMLElement>("[role=grid]")?.focus()}
          placeholder="Find by name, use, prop, option, token, text"
          find={find}
          setFind={(text) => {
            setText(text);
            put("find", text);
          }}
        >
          {shown.length === list.length ? count(list.length, "component") : `${shown.length} of ${count(list.length, "component")}`}
        </ListHead>
        <Filter label="Status" every="Every status" options={filters.status} value={status} onChange={(v) => put("status", v)} />
        {!isStatic && (
          <Filter
            label="Standing"
            every="However it stands"
            options={filters.standing}
            value={standing}
            onChange={(v) => put("standing", v)}
          />
        )}
        {!isStatic && <Library />}
        {!isStatic && (
          <ByPicture
            drawing={drawing}
            onTake={(file) => void take([file])}
            onClose={() => {
              setDropped(undefined);
              put("like", "");
            }}
            entries={list}
            preview={project?.preview}
          />
        )}
      </div>
      <EntryGrid
        lines={lines}
        why={why}
        preview={project?.preview}
        empty="No component has that. Take a word away, or look at every status."
      />
      <Primitives shown={hits && new Set(hits.map((h) => h.slug))} />
    </div>
  );
}

/** Layers of a design document as an address names them: furrow:layer,layer. */
function layersOf(text: string): Drawing | undefined {
  const at = text.indexOf(":");
  if (at < 0) return undefined;
  return { document: text.slice(0, at), layers: text.slice(at + 1).split(",") };
}

function Filter({
  label,
  every,
  options,
  value,
  onChange,
}: {
  label: string;
  every: string;
  options: readonly { value: string; label: string }[];
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <select aria-label={label} className={classes.filter} value={value} onChange={(e) => onChange(e.currentTarget.value)}>
      <option value="">{every}</option>
      {options.map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </select>
  );
}

/** What every page is laid out with; it comes with the tokens, and nobody releases it. */
function Primitives({ shown }: { shown: Set<string> | undefined }) {
  const primitives = (usePrimitives().data ?? []).filter((p) => !shown || shown.has(p.slug));
  if (primitives.length === 0) return null;
  return (
    <section className={classes.primitives} aria-label="Layout primitives">
      <h2>Layout primitives</h2>
      <ul>
        {primitives.map((p) => (
          <li key={p.slug}>
            <Link to={`/catalogue/${p.slug}`} title={`${p.purpose} ${p.props.join(", ")}`}>
              {p.name}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
