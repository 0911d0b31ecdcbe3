import { ActionIcon, Button, Checkbox, CopyButton, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { IconX } from "@tabler/icons-react";
import { useState } from "react";
import { Link } from "react-router";

import { api, type Schema, useImpact, useToken, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Failure, Query } from "../../ui/States";
import { TokenPicture } from "../../ui/TokenPicture";
import { ImpactView } from "./ImpactView";
import { ValueInput } from "./ValueInput";
import classes from "./TokenPanel.module.css";

interface Props {
  view: Schema["TokensView"];
  path: string;
  put: (changes: Record<string, string | undefined>) => void;
}

/** One token: its value in each theme, where that comes from, who rests on it, what it is written as; and all one can do to it. */
export function TokenPanel({ view, path, put }: Props) {
  const token = useToken(path);
  const row = view.rows.find((r) => r.path === path);
  return (
    <aside className={classes.panel} aria-label={`Token ${path}`}>
      <header className={classes.head}>
        <h2 className="mono">{path}</h2>
        <ActionIcon variant="subtle" color="gray" c="inherit" size={24} aria-label="Close" onClick={() => put({ token: undefined })}>
          <IconX size={14} />
        </ActionIcon>
      </header>
      <p className={classes.about}>
        <span className="quiet">{row?.type}</span>
        {row && (
          <CopyButton value={`var(${row.cssName})`}>
            {({ copied, copy }) => (
              <button type="button" className={`mono ${classes.copy}`} onClick={copy} title="Copy">
                {copied ? "copied" : `var(${row.cssName})`}
              </button>
            )}
          </CopyButton>
        )}
      </p>
      {row?.deprecated && <p className={classes.deprecated}>Deprecated: {row.deprecated}</p>}
      <Query query={token} what={path}>
        {(detail) => (
          <>
            <Values view={view} detail={detail} put={put} />
            <Where detail={detail} put={put} />
            <Written detail={detail} />
            <Change key={`change-${view.revision}`} view={view} detail={detail} row={row} put={put} />
          </>
        )}
      </Query>
    </aside>
  );
}

/** The value of each theme, to edit. What is typed shows what it would change, before it is saved. */
function Values({ view, detail, put }: { view: Schema["TokensView"]; detail: Schema["TokenDetail"]; put: Props["put"] }) {
  // What was typed, and the revision it was typed on: what others change meanwhile is a conflict, not overwritten.
  const [{ typed, read }, setEditing] = useState<{ typed: Record<number, string>; read: number }>({ typed: {}, read: view.revision });
  const setTyped = (next: Record<number, string>) =>
    setEditing({ typed: next, read: Object.keys(typed).length > 0 ? read : view.revision });
  const edits = detail.themes.flatMap((t, i) => {
    const text = typed[i]?.trim();
    if (!text || text === t.text) return [];
    return [{ kind: "set" as const, path: detail.path, file: fileFor(view, detail, i), type: detail.type, text }];
  });
  const [settled] = useDebouncedValue(edits, 200);
  const impact = useImpact(view.revision, settled);
  const waiting = JSON.stringify(settled) !== JSON.stringify(edits);
  const save = useWrite(
    () => api.editTokens(read, edits),
    () => setTyped({}),
  );
  return (
    <form
      className={classes.section}
      onSubmit={(e) => {
        e.preventDefault();
        if (edits.length > 0) save.mutate(undefined);
      }}
    >
      {detail.themes.map((t, i) => {
        const standard = detail.themes[0];
        const follows = i > 0 && typed[i] === undefined && t.text === standard?.text && t.file === standard.file;
        if (follows) {
          return (
            <div key={t.theme} className={classes.follows}>
              <strong>{t.theme}</strong>
              {t.value === standard?.value ? (
                <span className="quiet">as {standard.theme}</span>
              ) : (
                <span className={`mono ${classes.option}`}>
                  <TokenPicture type={detail.type} value={t.value} /> {t.value}
                </span>
              )}
              {view.themes[i]?.file && (
                <button type="button" className={classes.other} onClick={() => setTyped({ ...typed, [i]: t.text })}>
                  Another value in {t.theme}
                </button>
              )}
            </div>
          );
        }
        return (
          <div key={t.theme} className={classes.theme}>
            <label htmlFor={`value-${i}`}>{t.theme}</label>
            <TokenPicture type={detail.type} value={t.value} large />
            <ValueInput
              id={`value-${i}`}
              view={view}
              type={detail.type}
              self={detail.path}
              value={typed[i] ?? t.text}
              onChange={(text) => setTyped({ ...typed, [i]: text })}
            />
            <p className={`mono quiet ${classes.chain}`}>
              {t.chain.map((link) => (
                <span key={link.path}>
                  →{" "}
                  <button
                    type="button"
                    className={classes.jump}
                    onClick={() => put({ token: link.path, find: undefined, type: undefined })}
                  >
                    {link.path}
                  </button>{" "}
                </span>
              ))}
              {t.value && `= ${t.value}`}
              {typed[i] !== undefined && typed[i] !== t.text && <em> to be written into {fileFor(view, detail, i)}</em>}
            </p>
          </div>
        );
      })}
      {edits.length > 0 && (
        <>
          {impact.error ? <Failure error={impact.error} /> : impact.data && !waiting && <ImpactView impact={impact.data} />}
          {save.error && <Failure error={save.error} />}
          <div className={classes.actions}>
            <Button
              onClick={() => {
                setTyped({});
                save.reset();
              }}
            >
              Discard changes
            </Button>
            <Button
              type="submit"
              variant="filled"
              loading={save.isPending}
              disabled={waiting || Boolean(impact.error) || impact.isFetching}
            >
              Save
            </Button>
          </div>
        </>
      )}
    </form>
  );
}

/** A theme's own value belongs in that theme's file; where it has none, in the file that gives the token. */
function fileFor(view: Schema["TokensView"], detail: Schema["TokenDetail"], theme: number) {
  const standard = detail.themes[0]?.file ?? "";
  const file = detail.themes[theme]?.file ?? "";
  if (theme > 0 && (file === standard || file === "")) return view.themes[theme]?.file || file || standard;
  return file;
}

function Where({ detail, put }: { detail: Schema["TokenDetail"]; put: Props["put"] }) {
  const nobody = detail.users.length + detail.contracts.length + detail.bindings === 0;
  return (
    <section className={classes.section} aria-label="Where it is used">
      <h3>Used by</h3>
      {nobody && <p className="quiet">Nobody: no token, no contract, no layer of the design.</p>}
      {detail.users.length > 0 && (
        <details open={detail.users.length < 8}>
          <summary>
            {detail.users.length} {detail.users.length === 1 ? "token points" : "tokens point"} at it
            {detail.rests > detail.users.length && `, ${detail.rests} rest on it`}
          </summary>
          <ul className={classes.uses}>
            {detail.users.map((u) => (
              <li key={u}>
                <button
                  type="button"
                  className={`mono ${classes.jump}`}
                  onClick={() => put({ token: u, find: undefined, type: undefined })}
                >
                  {u}
                </button>
              </li>
            ))}
          </ul>
        </details>
      )}
      {detail.contracts.length > 0 && (
        <details open={detail.contracts.length < 8}>
          <summary>{count(detail.contracts.length, "value")} in contracts</summary>
          <ul className={classes.uses}>
            {detail.contracts.map((c, i) => (
              <li key={i}>
                <Link to={`/bench/${c.slug}`}>{c.name}</Link>{" "}
                <span className="mono">
                  {c.part} · {c.property}
                </span>{" "}
                <span className="quiet">{c.when}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
      {detail.bindings > 0 && (
        <details>
          <summary>
            {detail.bindings} {detail.bindings === 1 ? "binding" : "bindings"} of the design's layers
          </summary>
          <ul className={classes.uses}>
            {detail.layers.map((l, i) => (
              <li key={i}>
                {l.where} › {l.name} <span className="mono quiet">{l.property}</span>
              </li>
            ))}
            {detail.bindings > detail.layers.length && <li className="quiet">and {detail.bindings - detail.layers.length} more</li>}
          </ul>
        </details>
      )}
    </section>
  );
}

function Written({ detail }: { detail: Schema["TokenDetail"] }) {
  return (
    <section className={classes.section} aria-label="What it is written as">
      <h3>Written as</h3>
      <dl className={classes.written}>
        {detail.outputs.map((o) => (
          <div key={o.file}>
            <dt>
              <Link to={`/tokens?show=outputs&output=${encodeURIComponent(o.file)}&token=${encodeURIComponent(detail.path)}`}>
                {o.file}
              </Link>
            </dt>
            {o.lines?.length === 0 && <dd className="quiet">left out</dd>}
            {o.lines?.slice(0, 3).map((line) => (
              <dd key={line} className="mono">
                {line}
              </dd>
            ))}
          </div>
        ))}
      </dl>
    </section>
  );
}

type Doing = "rename" | "describe" | "deprecate" | "remove";

function Change({
  view,
  detail,
  row,
  put,
}: {
  view: Schema["TokensView"];
  detail: Schema["TokenDetail"];
  row?: Schema["TokenRow"];
  put: Props["put"];
}) {
  const [doing, setDoing] = useState<Doing>();
  const [text, setText] = useState("");
  const [keepOld, setKeepOld] = useState(detail.bindings > 0);
  const begin = (what: Doing) => {
    setDoing(what);
    setText({ rename: detail.path, describe: row?.description ?? "", deprecate: row?.deprecated ?? "", remove: "" }[what]);
  };
  const edit: Schema["TokenEdit"] = {
    kind: doing ?? "describe",
    path: detail.path,
    ...(doing === "rename" ? { to: text.trim(), keepOld } : { text: text.trim() }),
  };
  const ready = doing === "remove" || (doing === "rename" && text.trim() !== detail.path && text.trim() !== "");
  const [asked] = useDebouncedValue(ready ? edit : undefined, 200);
  const impact = useImpact(view.revision, asked ? [asked] : []);
  const save = useWrite(
    () => api.editTokens(view.revision, [edit]),
    () => {
      if (doing === "rename") put({ token: text.trim() });
      if (doing === "remove") put({ token: undefined });
      setDoing(undefined);
    },
  );
  const labels: Record<Doing, string> = {
    rename: "New name",
    describe: "What it is for",
    deprecate: "Why, and what to use instead; empty takes the mark away",
    remove: "",
  };
  return (
    <section className={classes.section} aria-label="Change it">
      <div className={classes.doings}>
        {(["rename", "describe", "deprecate", "remove"] as const).map((what) => (
          <Button key={what} aria-pressed={doing === what} onClick={() => (doing === what ? setDoing(undefined) : begin(what))}>
            {what[0]!.toUpperCase() + what.slice(1)}
          </Button>
        ))}
      </div>
      {doing && (
        <form
          className={classes.doing}
          onSubmit={(e) => {
            e.preventDefault();
            save.mutate(undefined);
          }}
        >
          {doing !== "remove" && (
            <TextInput
              label={labels[doing]}
              value={text}
              onChange={(e) => setText(e.currentTarget.value)}
              classNames={doing === "rename" ? { input: "mono" } : {}}
              data-autofocus
            />
          )}
          {doing === "rename" && (
            <Checkbox
              size="xs"
              label={`Leave ${detail.path} behind as a deprecated alias`}
              checked={keepOld}
              onChange={(e) => setKeepOld(e.currentTarget.checked)}
            />
          )}
          {asked && (impact.error ? <Failure error={impact.error} /> : impact.data && <ImpactView impact={impact.data} />)}
          {save.error && <Failure error={save.error} />}
          <div className={classes.actions}>
            <Button onClick={() => setDoing(undefined)}>Cancel</Button>
            <Button
              type="submit"
              variant="filled"
              loading={save.isPending}
              disabled={(doing === "rename" && !ready) || Boolean(asked && impact.error)}
            >
              {doing === "remove" ? `Remove ${detail.path}` : "Save"}
            </Button>
          </div>
        </form>
      )}
    </section>
  );
}
