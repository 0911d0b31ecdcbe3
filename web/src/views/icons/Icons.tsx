import { Button } from "@mantine/core";
import { type KeyboardEvent, useEffect, useEffectEvent, useRef, useState } from "react";
import { useSearchParams } from "react-router";

import { api, type Schema, useIcons, useWrite } from "../../api/client";
import { useCommands } from "../../frame/commands";
import over from "../../frame/DropAnywhere.module.css";
import { useFilesOver } from "../../frame/drop";
import { count } from "../../ui/count";
import { Drawing } from "../../ui/Drawing";
import inline from "../../ui/Inline.module.css";
import { Query } from "../../ui/States";
import classes from "./Icons.module.css";

interface Taken {
  file: string;
  taken?: Schema["TakenIcon"];
  refused?: string;
}

/** The icons of the library: SVG files dropped here are cleaned and kept, to be picked by components. */
export function Icons() {
  const icons = useIcons();
  const [taken, setTaken] = useState<Taken[]>([]);
  const input = useRef<HTMLInputElement>(null);
  const take = useWrite(async (files: File[]) => {
    const all: Taken[] = [];
    for (const file of files) {
      try {
        all.push({ file: file.name, taken: await api.takeIcon(file) });
      } catch (e) {
        all.push({ file: file.name, refused: e instanceof Error ? e.message : "It could not be read." });
      }
      setTaken([...all]);
    }
  });
  const over_ = useFilesOver((files) => take.mutate(files));
  useCommands([{ label: "Add icons", what: "SVG files, to the library", run: () => input.current?.click() }]);
  return (
    <div className={classes.icons}>
      {over_ && <div className={over.over}>Drop SVG files: they become icons of the library</div>}
      <input
        ref={input}
        type="file"
        hidden
        multiple
        accept=".svg,image/svg+xml"
        aria-label="SVG files"
        onChange={(e) => {
          const files = [...(e.currentTarget.files ?? [])];
          e.currentTarget.value = "";
          if (files.length > 0) take.mutate(files);
        }}
      />
      <Query query={icons} what="the icons">
        {(list) => (
          <>
            {taken.length > 0 && <Outcome taken={taken} busy={take.isPending} onClose={() => setTaken([])} />}
            <Table list={list} onAdd={() => input.current?.click()} />
          </>
        )}
      </Query>
    </div>
  );
}

/** What became of the files, and what was changed of each. */
function Outcome({ taken, busy, onClose }: { taken: Taken[]; busy: boolean; onClose: () => void }) {
  return (
    <section className={classes.outcome} aria-label="What became of the files">
      <h2>
        {count(taken.length, "file")} {busy ? "so far …" : "read"}
        <Button onClick={onClose}>Put away</Button>
      </h2>
      <ul aria-live="polite">
        {taken.map((t, i) => (
          <li key={i}>
            <span className="mono">{t.file}</span>{" "}
            {t.refused !== undefined ? (
              <span className={classes.lost}>not taken: {t.refused}</span>
            ) : (
              t.taken && (
                <>
                  {t.taken.added ? (
                    <>
                      is <b>{t.taken.name}</b>
                      {t.taken.replaced && ", in the place of one that was drawn otherwise"}
                    </>
                  ) : (
                    <>
                      is here already, as <b>{t.taken.name}</b>
                    </>
                  )}
                  <Changed icon={t.taken} />
                </>
              )
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Changed({ icon }: { icon: { cleaned: string[]; lost: string[] } }) {
  return (
    <>
      {icon.cleaned.length > 0 && <span className="quiet"> · {icon.cleaned.join("; ")}</span>}
      {icon.lost.length > 0 && <span className={classes.lost}> · not as in the file: {icon.lost.join("; ")}</span>}
    </>
  );
}

/** Whether what is looked for is in an icon's name or words, each of its words by itself. */
export function meant(icon: Pick<Schema["IconView"], "name" | "words">, find: string) {
  const all = `${icon.name} ${icon.words}`.toLowerCase();
  return find
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
}

function Table({ list, onAdd }: { list: Schema["IconView"][]; onAdd: () => void }) {
  const [search, setSearch] = useSearchParams();
  const [find, setFind] = useState(search.get("find") ?? ""); // the address follows; it is too slow for who types fast
  const shown = list.filter((i) => meant(i, find)).sort((a, b) => Number(a.removed) - Number(b.removed));
  const [editing, setEditing] = useState<{ name: string; cell: "name" | "words" }>();
  const body = useRef<HTMLTableSectionElement>(null);
  const field = useRef<HTMLInputElement>(null);
  // The focus goes to what was edited, once it stands there.
  const back = useRef<string>(undefined);
  const focusBack = useEffectEvent(() => {
    if (back.current === undefined || editing) return;
    const row = [...(body.current?.querySelectorAll<HTMLElement>("[data-icon]") ?? [])].find((e) => e.dataset.icon === back.current);
    row?.focus();
    if (row) back.current = undefined;
  });
  useEffect(() => focusBack(), [list, editing]);
  const edit = useWrite(
    ({ icon, name, words }: { icon: Schema["IconView"]; name: string; words: string }) => api.editIcon(icon.name, name, words),
    (_, { name }) => {
      setEditing(undefined);
      back.current = name.trim();
    },
  );
  const remove = useWrite(
    (icon: Schema["IconView"]) => api.removeIcon(icon.name, icon.removed),
    (_, icon) => {
      back.current = icon.name;
    },
  );
  const keyed = (e: KeyboardEvent, icon: Schema["IconView"], at: number) => {
    const rows = [...(body.current?.querySelectorAll<HTMLElement>("[data-icon]") ?? [])];
    if (e.target !== rows[at]) return;
    if (e.key === "ArrowDown") rows[at + 1]?.focus();
    else if (e.key === "ArrowUp" && at === 0) field.current?.focus();
    else if (e.key === "ArrowUp") rows[at - 1]?.focus();
    else if (e.key === "Enter") setEditing({ name: icon.name, cell: "name" });
    else if (e.key === "w") setEditing({ name: icon.name, cell: "words" });
    else if (e.key === "Delete") remove.mutate(icon);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const there = list.filter((i) => !i.removed).length;
  return (
    <>
      <header className={classes.head}>
        <h1>Icons</h1>
        <input
          ref={field}
          type="search"
          aria-label="Find an icon"
          placeholder="Find an icon"
          className={inline.field}
          value={find}
          autoFocus
          onChange={(e) => {
            setFind(e.target.value);
            setSearch(e.target.value ? { find: e.target.value } : {}, { replace: true });
          }}
          onKeyDown={(e) => {
            if (e.key !== "ArrowDown") return;
            body.current?.querySelector<HTMLElement>("[data-icon]")?.focus();
            e.preventDefault();
          }}
        />
        <span className="quiet" role="status">
          {find ? `${shown.length} of ${count(list.length, "icon")}` : count(there, "icon")}
        </span>
        <span className={classes.tools}>
          <Button variant="filled" onClick={onAdd}>
            Add SVG files…
          </Button>
        </span>
      </header>
      {(edit.error ?? remove.error) && (
        <p role="alert" className={classes.lost}>
          {(edit.error ?? remove.error)?.message}
        </p>
      )}
      {list.length === 0 ? (
        <p className={classes.none}>
          No icon yet. Drop SVG files here: each is cleaned, told what was changed of it, and can be picked by any component — on its sheet
          as <code>icon leaf drop</code>, or as what an <code>svg</code> part shows.
        </p>
      ) : (
        <table className={`grid ${classes.table}`}>
          <thead>
            <tr>
              <th scope="col" colSpan={3}>
                At 16, 24, 48 px
              </th>
              <th scope="col">Icon</th>
              <th scope="col">Found by</th>
              <th scope="col">Shown in</th>
              <th scope="col">From</th>
            </tr>
          </thead>
          <tbody ref={body}>
            {shown.map((icon, at) => {
              const cell = (name: "name" | "words", text: string, label: string) =>
                editing?.name === icon.name && editing.cell === name ? (
                  <Typed
                    text={text}
                    label={label}
                    onKeep={(typed) => edit.mutate({ icon, name: icon.name, words: icon.words, [name]: typed })}
                    onLeave={() => {
                      edit.reset();
                      setEditing(undefined);
                      back.current = icon.name;
                    }}
                  />
                ) : (
                  <button type="button" tabIndex={-1} className={classes.cell} onClick={() => setEditing({ name: icon.name, cell: name })}>
                    {text || "–"}
                  </button>
                );
              return (
                <tr
                  key={icon.name}
                  data-icon={icon.name}
                  data-removed={icon.removed || undefined}
                  tabIndex={at === 0 ? 0 : -1}
                  aria-label={icon.name}
                  onKeyDown={(e) => keyed(e, icon, at)}
                >
                  {[16, 24, 48].map((size) => (
                    <td key={size} className={classes.drawn}>
                      <Drawing of={icon.drawing} size={size} />
                    </td>
                  ))}
                  <td className="mono">{cell("name", icon.name, `Name of ${icon.name}`)}</td>
                  <td>{cell("words", icon.words, `Words that find ${icon.name}`)}</td>
                  <td>
                    {icon.usedBy.join(", ") || <span className="quiet">nothing yet</span>}
                    {icon.otherwise.length > 0 && <span className={classes.lost}> · drawn otherwise in {icon.otherwise.join(", ")}</span>}
                  </td>
                  <td>
                    <span className="mono">{icon.file}</span>
                    <Changed icon={icon} />
                    {icon.removed && (
                      <span>
                        {" "}
                        · taken out{" "}
                        <button type="button" tabIndex={-1} className={classes.cell} onClick={() => remove.mutate(icon)}>
                          put back
                        </button>
                      </span>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      <p className={`quiet ${classes.keys}`}>
        <kbd>↑ ↓</kbd> the icon beside · <kbd>Enter</kbd> another name · <kbd>W</kbd> words to find it by · <kbd>Del</kbd> take it out, or
        put it back
      </p>
    </>
  );
}

function Typed({ text, label, onKeep, onLeave }: { text: string; label: string; onKeep: (typed: string) => void; onLeave: () => void }) {
  const [typed, setTyped] = useState(text);
  return (
    <input
      autoFocus
      aria-label={label}
      className={inline.field}
      value={typed}
      onFocus={(e) => e.currentTarget.select()}
      onChange={(e) => setTyped(e.target.value)}
      onKeyDown={(e) => {
        if (e.key === "Enter") onKeep(typed);
        else if (e.key === "Escape") onLeave();
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
      onBlur={onLeave}
    />
  );
}
