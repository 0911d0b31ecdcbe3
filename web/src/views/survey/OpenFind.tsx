import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { api, type Schema, useOpenFind, useWrite } from "../../api/client";
import { placed } from "../../marks/geometry";
import { Sheet, Ticks } from "../../marks/Marks";
import { count } from "../../ui/count";
import { Picture } from "../../ui/Picture";
import { Failure, Query } from "../../ui/States";
import { title } from "./FindList";
import classes from "./OpenFind.module.css";
import shared from "./Survey.module.css";

interface Props {
  survey: Schema["Survey"];
  find: Schema["SurveyFind"];
  back: () => void;
}

/** How many copies are drawn before one asks for the rest. */
const most = 40;

/** A find: its copies side by side, what differs marked in them, and the props that come of it. */
export function OpenFind({ survey: s, find: f, back }: Props) {
  const opened = useOpenFind(s.document, f.id);
  const number = s.finds.indexOf(f) + 1;
  return (
    <article className={classes.find} aria-label={f.name}>
      <header className={classes.head}>
        <button type="button" className={shared.plain} onClick={back}>
          All finds
        </button>
        <h2>
          <span className={classes.number}>{number}</span> {f.name}
        </h2>
        <p className="quiet">
          {title(f)}, likeness {f.likeness.toFixed(2)}
          {f.inFamilies.length > 0 && ` · in ${f.inFamilies.join(", ")}`}
        </p>
      </header>
      <MadeByHand document={s.document} find={f} back={back} />
      <Query query={opened} what="the copies">
        {(view) => (
          <>
            <Copies survey={s} find={f} view={view} number={number} />
            <Nearest survey={s} find={f} />
          </>
        )}
      </Query>
    </article>
  );
}

/** What people marked can be taken back. */
function MadeByHand({ document, find: f, back }: { document: string; find: Schema["SurveyFind"]; back: () => void }) {
  const made = f.members.filter((m) => m.made.length > 0 && !m.joined);
  const take = useWrite(async () => {
    for (const m of made) await api.markAsOne(document, m.made, false);
  }, back);
  if (made.length === 0) return null;
  return (
    <p className={classes.drafted}>
      Marked by hand.{" "}
      <button type="button" className={shared.plain} onClick={() => take.mutate(undefined)}>
        Take the mark back
      </button>
      {take.error && <Failure error={take.error} />}
    </p>
  );
}

/** The components it is like; where it is one of them, its copies are uses of that. */
function Nearest({ survey: s, find: f }: { survey: Schema["Survey"]; find: Schema["SurveyFind"] }) {
  const navigate = useNavigate();
  const take = useWrite((component: string) => api.takeAsUses({ document: s.document, find: f.id, component }));
  const draft = useWrite(
    (family: string) => api.draft({ document: s.document, family }),
    (made) => void navigate(`/bench/${made.slug}`),
  );
  const kinds: Record<string, string> = { start: "ready-made", family: "family", contract: "component" };
  return (
    <section className={classes.near} aria-label="Nearest components">
      <h3>Nearest</h3>
      {f.nearest.length === 0 && <p className="quiet">No component is like it.</p>}
      <ul>
        {f.nearest.map((n) => (
          <li key={`${n.kind} ${n.name}`}>
            <span className="mono">{n.likeness.toFixed(2)}</span> <strong>{n.name}</strong>{" "}
            <span className="quiet">
              {kinds[n.kind]} · {n.matches} the same
              {n.missing.length > 0 && ` · without ${n.missing.join(", ")}`}
              {n.extra.length > 0 && ` · ${n.extra.length} more here`}
            </span>{" "}
            {n.component && !f.component && f.draftable && (
              <button type="button" className={shared.plain} onClick={() => take.mutate(n.component)}>
                it is this
              </button>
            )}
            {n.kind === "family" && !n.component && (
              <button type="button" className={shared.plain} onClick={() => n.id && draft.mutate(n.id)}>
                draft the family
              </button>
            )}
          </li>
        ))}
      </ul>
      {(take.error ?? draft.error) && <Failure error={(take.error ?? draft.error)!} />}
    </section>
  );
}

function Copies({
  survey: s,
  find: f,
  view,
  number,
}: {
  survey: Schema["Survey"];
  find: Schema["SurveyFind"];
  view: Schema["OpenFind"];
  number: number;
}) {
  const navigate = useNavigate();
  const [name, setName] = useState(f.name);
  // Copies that are uses of a component already are left out of another.
  const [left, setLeft] = useState(() => f.members.filter((m) => m.component && !f.component).map((m) => m.id));
  const [renamed, setRenamed] = useState<Record<string, string>>({});
  const [dropped, setDropped] = useState<string[]>([]);
  const [kinds, setKinds] = useState<Record<string, string>>({});
  const [merged, setMerged] = useState<Record<string, string>>({});
  const [all, setAll] = useState(false);
  const [pointed, setPointed] = useState<string>();
  const draft = useWrite(
    () => api.draftFind({ document: s.document, find: f.id, name: name.trim(), left, renamed, dropped, kinds, merged }),
    (made) => {
      if (made.notes.length === 0) void navigate(`/bench/${made.slug}`);
    },
  );
  const leave = useWrite((layers: string[]) => api.addCopy(s.document, "", layers));
  const toggle = (list: string[], one: string) => (list.includes(one) ? list.filter((o) => o !== one) : [...list, one]);
  // Rows are drawn below each other, so that what they say can be read.
  const rows = view.copies.every((c) => c.width > 4 * c.height && c.width > 240);
  /** What is dropped is no prop that others are one with. */
  const drop = (name: string) => {
    setDropped(toggle(dropped, name));
    setMerged(Object.fromEntries(Object.entries(merged).filter(([of, to]) => of !== name && to !== name)));
  };
  const largest = Math.max(1, ...view.copies.map((c) => Math.max(c.width, c.height * 1.4)));
  const scale = Math.min(1, (rows ? 300 : 132) / largest);
  const shown = view.props.filter((p) => !dropped.includes(p.name));
  const copies = all ? view.copies : view.copies.slice(0, most);
  /** What a prop may become one with: none that is dropped, or one with another itself. */
  const hosts = (p: Schema["FindProp"]) =>
    Object.values(merged).includes(p.name) ? [] : p.merges.filter((m) => !dropped.includes(m) && !merged[m]);
  return (
    <>
      <ul className={classes.copies} data-rows={rows || undefined} aria-label="Copies, side by side">
        {copies.map((c, i) => (
          <li key={c.id} data-left={left.includes(c.id) || undefined}>
            <div className={classes.copy}>
              <Picture svg={c.picture} label={`Copy ${number}.${i + 1}`} width={c.width} height={c.height} scale={scale} open />
              <Sheet width={c.width * scale} height={c.height * scale}>
                {shown.map((p) => {
                  const box = p.boxes[i];
                  return box && box.width > 0 && p.name === pointed ? (
                    <Ticks key={p.name} box={placed(box, { scale, x: 0, y: 0 })} chosen />
                  ) : null;
                })}
              </Sheet>
            </div>
            <label>
              <input type="checkbox" checked={!left.includes(c.id)} onChange={() => setLeft(toggle(left, c.id))} />{" "}
              <span className="mono">
                {number}.{i + 1}
              </span>
              {f.members[i]?.component && !f.component && <span className="quiet"> {f.members[i]?.component}</span>}
              {(f.members[i]?.changes ?? 0) > 0 && <span className="quiet"> {f.members[i]?.likeness.toFixed(2)}</span>}
            </label>
            {f.members[i]?.joined && (
              <button
                type="button"
                className={shared.plain}
                title="It was added by hand"
                onClick={() => leave.mutate(f.members[i]!.made.length > 0 ? f.members[i]!.made : [c.id])}
              >
                take off
              </button>
            )}
          </li>
        ))}
      </ul>
      {copies.length < view.copies.length && (
        <p className={classes.rest}>
          <button type="button" className={shared.plain} onClick={() => setAll(true)}>
            {count(view.copies.length - copies.length, "more copy", "more copies")}
          </button>
        </p>
      )}
      {view.copies.length < f.members.length && copies.length === view.copies.length && (
        <p className="quiet">{count(f.members.length - view.copies.length, "copy is", "copies are")} not drawn here; all become uses.</p>
      )}
      {leave.error && <Failure error={leave.error} />}
      {view.props.length === 0 ? (
        <p className="quiet">All copies are alike: a component without props.</p>
      ) : (
        <div className={classes.table} tabIndex={0} role="region" aria-label="Props and what each copy says">
          <table className="grid">
            <thead>
              <tr>
                <th>Prop</th>
                <th>Kind</th>
                <th>
                  <span className="hidden-but-read">Merge or drop</span>
                </th>
                {copies.map((c, i) => (
                  <th key={c.id} className="mono">
                    {number}.{i + 1}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {view.props.map((p) => (
                <tr
                  key={p.name}
                  data-dropped={dropped.includes(p.name) || p.name in merged || undefined}
                  onPointerEnter={() => setPointed(p.name)}
                  onPointerLeave={() => setPointed(undefined)}
                >
                  <td>
                    <input
                      className={classes.name}
                      aria-label={`Name of ${p.name}`}
                      value={renamed[p.name] ?? p.name}
                      disabled={dropped.includes(p.name) || p.name in merged}
                      onFocus={() => setPointed(p.name)}
                      onChange={(e) => setRenamed({ ...renamed, [p.name]: e.currentTarget.value })}
                    />
                  </td>
                  <td title={p.explains.length > 0 ? `with it: ${p.explains.join(", ")}` : undefined}>
                    {p.kinds.length > 1 ? (
                      <select
                        className={classes.kind}
                        aria-label={`Kind of ${p.name}`}
                        value={kinds[p.name] ?? p.kind}
                        onChange={(e) => setKinds({ ...kinds, [p.name]: e.currentTarget.value })}
                      >
                        {p.kinds.map((k) => (
                          <option key={k}>{k}</option>
                        ))}
                      </select>
                    ) : (
                      p.kind
                    )}
                    {p.explains.length > 1 && <span className="quiet"> ×{p.explains.length}</span>}
                  </td>
                  <td className={classes.does}>
                    {hosts(p).length > 0 && !dropped.includes(p.name) && (
                      <select
                        className={classes.kind}
                        aria-label={`${p.name} is one with`}
                        value={merged[p.name] ?? ""}
                        onChange={(e) => {
                          const next = Object.fromEntries(Object.entries(merged).filter(([of]) => of !== p.name));
                          setMerged(e.currentTarget.value ? { ...next, [p.name]: e.currentTarget.value } : next);
                        }}
                      >
                        <option value="">on its own</option>
                        {hosts(p).map((m) => (
                          <option key={m} value={m}>
                            one with {renamed[m] ?? m}
                          </option>
                        ))}
                      </select>
                    )}
                    <button type="button" className={shared.plain} onClick={() => drop(p.name)}>
                      {dropped.includes(p.name) ? "keep" : "drop"}
                    </button>
                  </td>
                  {p.says.slice(0, copies.length).map((v, i) => (
                    <td key={i} className={classes.says} title={v} data-left={left.includes(view.copies[i]!.id) || undefined}>
                      {v || "–"}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {f.component ? (
        <p className={classes.drafted}>
          Its copies are uses of a component. <Link to={`/bench/${f.component}`}>On the bench</Link>
        </p>
      ) : f.draftable ? (
        <form
          className={classes.draft}
          onSubmit={(e) => {
            e.preventDefault();
            draft.mutate(undefined);
          }}
        >
          <TextInput size="xs" aria-label="Name of the component" value={name} onChange={(e) => setName(e.currentTarget.value)} />
          <Button type="submit" variant="filled" loading={draft.isPending} disabled={name.trim() === "" || left.length >= f.members.length}>
            Draft {name.trim() || "it"}
          </Button>
        </form>
      ) : (
        <p className="quiet">None of its copies is on a page: draft the family they are in, and make it a component of its own there.</p>
      )}
      {draft.error && <Failure error={draft.error} />}
      {draft.data && draft.data.notes.length > 0 && (
        <div className={classes.notes} role="status">
          <p>
            It is drafted. <Link to={`/bench/${draft.data.slug}`}>To the bench</Link>
          </p>
          <ul>
            {draft.data.notes.map((n) => (
              <li key={n}>{n}</li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
