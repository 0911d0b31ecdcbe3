import { Button, CopyButton, Menu, Select, TagsInput } from "@mantine/core";
import { IconDownload, IconPlus } from "@tabler/icons-react";
import { type ReactNode, useMemo, useState } from "react";
import { useSearchParams } from "react-router";

import { api, type Problem, type Schema, useBuiltTokens, useOutputs, useWrite } from "../../api/client";
import { Code } from "../../ui/Code";
import { count } from "../../ui/count";
import inline from "../../ui/Inline.module.css";
import { Failure, Problems, Query } from "../../ui/States";
import classes from "./Outputs.module.css";

type Output = Schema["Output"];

/** What tokens are written to: each output's settings, the way of one token through them, the files. */
export function Outputs({ tokens }: { tokens: Schema["TokensView"] }) {
  const outputs = useOutputs();
  const [search, setSearch] = useSearchParams();
  const put = (key: string, value: string) =>
    setSearch(
      (s) => {
        s.set(key, value);
        return s;
      },
      { replace: true },
    );
  // One that is not kept yet, by its language.
  const [added, setAdded] = useState<string>();
  return (
    <Query query={outputs} what="the outputs">
      {(view) => {
        const language = view.languages.find((l) => l.id === added);
        const fresh = language && { output: { language: language.id, file: language.file }, about: "not saved yet" };
        const saved = fresh ?? view.outputs.find((o) => o.output.file === search.get("output")) ?? view.outputs[0];
        if (!saved) return null;
        const path = search.get("token") ?? tokens.rows.find((r) => r.type === "dimension")?.path ?? tokens.rows[0]?.path ?? "";
        const choose = (file: string) => {
          setAdded(undefined);
          put("output", file);
        };
        return (
          <div className={classes.view}>
            <List view={view} chosen={saved} fresh={fresh} choose={choose} add={setAdded} />
            <OutputView
              key={`${saved.output.file} ${added ?? ""}`}
              view={view}
              saved={saved}
              was={fresh ? "" : saved.output.file}
              tokens={tokens}
              path={path}
              setPath={(p) => put("token", p)}
              done={choose}
            />
          </div>
        );
      }}
    </Query>
  );
}

interface ListProps {
  view: Schema["OutputsView"];
  chosen: Schema["OutputView"];
  fresh?: Schema["OutputView"];
  choose: (file: string) => void;
  add: (language: string) => void;
}

function List({ view, chosen, fresh, choose, add }: ListProps) {
  const restore = useWrite(() => api.restoreOutputs(view.revision));
  return (
    <nav className={classes.list} aria-label="Outputs">
      {[...view.outputs, ...(fresh ? [fresh] : [])].map((o, i) => (
        <button key={i} type="button" aria-current={o === chosen ? "true" : undefined} onClick={() => o !== fresh && choose(o.output.file)}>
          <span className="mono">{o.output.file}</span>
          <span>{o.about}</span>
        </button>
      ))}
      <div className={classes.foot}>
        <Menu position="bottom-start">
          <Menu.Target>
            <Button leftSection={<IconPlus size={14} />}>Add an output</Button>
          </Menu.Target>
          <Menu.Dropdown>
            {view.languages.map((l) => (
              <Menu.Item key={l.id} onClick={() => add(l.id)}>
                {l.name}
              </Menu.Item>
            ))}
          </Menu.Dropdown>
        </Menu>
        {view.own && (
          <Button loading={restore.isPending} onClick={() => restore.mutate(undefined)}>
            Restore standard
          </Button>
        )}
        {restore.error && <Failure error={restore.error} />}
      </div>
    </nav>
  );
}

interface ViewProps {
  view: Schema["OutputsView"];
  saved: Schema["OutputView"];
  /** The file of the output that is changed; empty for a new one. */
  was: string;
  tokens: Schema["TokensView"];
  path: string;
  setPath: (path: string) => void;
  done: (file: string) => void;
}

function OutputView({ view, saved, was, tokens, path, setPath, done }: ViewProps) {
  const kept = saved.output;
  // What is changed, and the revision it was changed from: an edit of somebody else's is not overwritten.
  const [edit, setEdit] = useState<{ output: Output; revision: number }>();
  const { output, revision } = edit ?? { output: kept, revision: view.revision };
  const setOutput = (to: Output) => setEdit({ output: to, revision });
  const built = useBuiltTokens(view.revision, output, was, path);
  const save = useWrite(async () => {
    await api.saveOutput(revision, was, output);
    setEdit(undefined);
    done(output.file);
  });
  const remove = useWrite(async () => {
    await api.removeOutput(view.revision, was);
    done("");
  });
  const discard = () => {
    save.reset();
    setEdit(undefined);
  };
  const problems = built.data?.problems ?? [];
  const changed = was === "" || JSON.stringify(output) !== JSON.stringify(kept);
  const error = save.error ?? remove.error;
  const [impossible, elsewhere] = [problems.filter(isOfASetting), problems.filter((p) => !isOfASetting(p))];
  return (
    <>
      <section className={classes.wants} aria-label={`What ${output.file} wants`}>
        <header className={classes.head}>
          <h2>
            What <span className="mono">{output.file}</span> wants
          </h2>
          {changed && was !== "" && <Button onClick={() => discard()}>Discard changes</Button>}
          {changed && was === "" && <Button onClick={() => done("")}>Discard</Button>}
          {!changed && (
            <Button loading={remove.isPending} onClick={() => remove.mutate(undefined)}>
              Remove
            </Button>
          )}
          <Button
            variant="filled"
            disabled={!changed || problems.some((p) => p.severity === "error")}
            loading={save.isPending}
            onClick={() => save.mutate(undefined)}
          >
            Save
          </Button>
        </header>
        {error && <Failure error={error} />}
        <Wants view={view} tokens={tokens} output={output} change={(c) => setOutput({ ...output, ...c })} problems={impossible} />
        <Way steps={built.data?.way ?? []} tokens={tokens} path={path} setPath={setPath} writable={!impossible.length} />
        {elsewhere.length > 0 && (
          <div className={classes.wrong} role="alert">
            {elsewhere.some((p) => p.severity === "error") && <strong>Nothing can be written so.</strong>}
            <Problems list={elsewhere} />
          </div>
        )}
      </section>
      <Files key={output.file} built={built.data} error={built.error} path={path} setPath={setPath} />
    </>
  );
}

/** Problems of settings point at them; those of tokens do not. */
const isOfASetting = (p: Problem) => Boolean(p.pointer);

interface WantsProps {
  view: Schema["OutputsView"];
  tokens: Schema["TokensView"];
  output: Output;
  change: (to: Partial<Output>) => void;
  problems: Problem[];
}

/** Every setting a line, its value the control. */
function Wants({ view, tokens, output, change, problems }: WantsProps) {
  const language = view.languages.find((l) => l.id === output.language);
  const wrong = (id: string) =>
    problems
      .filter((p) => p.pointer?.startsWith(`/${id}`))
      .map((p) => (
        <span key={p.message} role="alert" className={classes.impossible}>
          {p.message} {p.fix && `${p.fix.charAt(0).toUpperCase()}${p.fix.slice(1)}.`}
        </span>
      ));
  const line = (id: string, name: string, value: ReactNode, ids = [id]) => (
    <div key={id} className={classes.want}>
      <span className={classes.name}>{name}</span>
      <div className={classes.value}>
        {value}
        {ids.map(wrong)}
      </div>
    </div>
  );
  const beside: Record<string, ReactNode> = {
    names: (language?.prefix || output.prefix) && (
      <label>
        prefix
        <input
          className={inline.field}
          value={output.prefix ?? ""}
          placeholder="none"
          spellCheck={false}
          maxLength={60}
          style={{ width: `${Math.max(4, (output.prefix ?? "").length)}ch` }}
          onChange={(e) => change({ prefix: e.currentTarget.value || undefined })}
        />
      </label>
    ),
    lengths: (
      <>
        <label>
          root
          <input
            type="number"
            className={inline.field}
            value={output.root ?? ""}
            placeholder="16"
            min={1}
            max={1000}
            step="any"
            style={{ width: "5ch" }}
            onChange={(e) => change({ root: e.currentTarget.valueAsNumber || undefined })}
          />
          px
        </label>
        <label>
          <input
            type="checkbox"
            checked={output.whole ?? false}
            onChange={(e) => change({ whole: e.currentTarget.checked || undefined })}
          />
          whole px
        </label>
      </>
    ),
    themes: tokens.themes.length > 1 && <span className="quiet">{tokens.themes.map((t) => t.name).join(", ")}</span>,
  };
  return (
    <div className={classes.table}>
      {line(
        "language",
        "Language",
        <select
          aria-label="Language"
          className={inline.field}
          value={output.language}
          onChange={(e) => {
            const to = view.languages.find((l) => l.id === e.currentTarget.value);
            // A file that was named by its language is named by the next.
            if (to) change({ language: to.id, ...(output.file === language?.file && { file: to.file }) });
          }}
        >
          {view.languages.map((l) => (
            <option key={l.id} value={l.id}>
              {l.name}
            </option>
          ))}
        </select>,
      )}
      {line(
        "file",
        "File",
        <input
          aria-label="File"
          className={`${inline.field} ${classes.wide}`}
          value={output.file}
          spellCheck={false}
          maxLength={500}
          onChange={(e) => change({ file: e.currentTarget.value })}
        />,
      )}
      {view.settings.map((s) => {
        const held = language?.holds?.find((h) => h.setting === s.id);
        const said = output[s.id as "names"];
        const values = held?.values ?? [];
        const words = (value: string) => s.options?.find((o) => o.value === value)?.words ?? value;
        const value = said || (values[0] ?? "");
        return line(
          s.id,
          s.name,
          <>
            {values.length === 1 && value === values[0] ? (
              <span title={held?.why}>{words(value)}</span>
            ) : (
              <select
                aria-label={s.name}
                className={inline.field}
                value={value}
                onChange={(e) => change({ [s.id]: e.currentTarget.value === values[0] ? undefined : e.currentTarget.value })}
              >
                {s.options
                  ?.filter((o) => values.includes(o.value) || o.value === value)
                  .map((o) => (
                    <option key={o.value} value={o.value}>
                      {o.words}
                    </option>
                  ))}
              </select>
            )}
            {values.length === 1 && value === values[0] && held?.why && <span className="quiet">{held.why}</span>}
            {beside[s.id]}
          </>,
          s.id === "names" ? ["names", "prefix"] : s.id === "lengths" ? ["lengths", "root", "whole"] : [s.id],
        );
      })}
      {line("groups", "Groups", <Groups view={view} output={output} change={change} />, ["only", "without"])}
      {(language?.register || output.register) &&
        line(
          "register",
          "Registered",
          <label>
            <input
              type="checkbox"
              checked={output.register ?? false}
              onChange={(e) => change({ register: e.currentTarget.checked || undefined })}
            />
            with @property
          </label>,
        )}
    </div>
  );
}

function Groups({ view, output, change }: Pick<WantsProps, "view" | "output" | "change">) {
  const kind = output.only ? "only" : output.without ? "without" : "all";
  const groups = output.only ?? output.without ?? [];
  const put = (to: string, list: string[]) =>
    change({ only: to === "only" ? list : undefined, without: to === "without" ? list : undefined });
  return (
    <>
      <select aria-label="Groups" className={inline.field} value={kind} onChange={(e) => put(e.currentTarget.value, groups)}>
        <option value="all">all</option>
        <option value="only">only</option>
        <option value="without">all but</option>
      </select>
      {kind !== "all" && (
        <TagsInput
          aria-label={kind === "only" ? "Groups that are written" : "Groups that are left out"}
          className={classes.groups}
          data={view.groups.map((g) => g.path)}
          limit={60}
          value={groups}
          onChange={(list) => put(kind, list)}
          placeholder={groups.length ? undefined : "Name a group"}
        />
      )}
    </>
  );
}

interface WayProps {
  steps: Schema["Step"][];
  tokens: Schema["TokensView"];
  path: string;
  setPath: (path: string) => void;
  writable: boolean;
}

/** How one token gets into the file, from what is written in its own to the lines of this one. */
function Way({ steps, tokens, path, setPath, writable }: WayProps) {
  return (
    <section className={classes.way} aria-label="The way of a token">
      <header>
        <h2>The way of</h2>
        <Select
          aria-label="The token whose way is shown"
          searchable
          data={tokens.rows.map((r) => r.path)}
          limit={60}
          value={path}
          allowDeselect={false}
          onChange={(v) => v && setPath(v)}
          classNames={{ input: "mono" }}
        />
      </header>
      {steps.length === 0 && writable && <p className="quiet">It is not among the groups that are written.</p>}
      <dl>
        {steps.map((s, i) => (
          <div key={i} className={classes.step}>
            <dt>{s.says}</dt>
            <dd className="mono">
              {s.lines?.map((l, j) => (
                <span key={j}>{l}</span>
              ))}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

interface FilesProps {
  built?: Schema["BuiltTokens"];
  error: Error | null;
  path: string;
  setPath: (path: string) => void;
}

function Files({ built, error, path, setPath }: FilesProps) {
  const [name, setName] = useState("");
  const file = built?.files.find((f) => f.name === name) ?? built?.files[0];
  const marked = useMemo(() => file?.lines.filter((l) => l.path === path).map((l) => l.number), [file, path]);
  return (
    <section className={classes.files} aria-label="What is written">
      {error && <Failure error={error} />}
      {built && !file && <p className={classes.nothing}>Nothing is written until what is said on the left is settled.</p>}
      {file && (
        <>
          <header className={classes.filesHead}>
            {built && built.files.length > 1 ? (
              <Select
                aria-label="File that is shown"
                w={220}
                data={built.files.map((f) => f.name)}
                value={file.name}
                allowDeselect={false}
                onChange={(v) => setName(v ?? "")}
                classNames={{ input: "mono" }}
              />
            ) : (
              <strong className="mono">{file.name}</strong>
            )}
            <span className="quiet">
              {count(file.text.split("\n").length - 1, "line")}, {(file.text.length / 1024).toFixed(1)} KB
            </span>
            <span className={classes.push}>
              <CopyButton value={file.text}>
                {({ copied, copy }) => <Button onClick={copy}>{copied ? "Copied" : "Copy"}</Button>}
              </CopyButton>
              <Button leftSection={<IconDownload size={14} />} onClick={() => download(file.name, file.text)}>
                Download
              </Button>
            </span>
          </header>
          <Code
            path={file.name}
            text={file.text}
            marked={marked}
            onLine={(n) => {
              const at = file.lines.find((l) => l.number === n);
              if (at) setPath(at.path);
            }}
          />
        </>
      )}
    </section>
  );
}

function download(name: string, text: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([text], { type: "text/plain" }));
  link.download = name.split("/").at(-1) ?? name;
  link.click();
  URL.revokeObjectURL(link.href);
}
