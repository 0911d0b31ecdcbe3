import { Button, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";

import { api, type Schema, useCode, useTarget, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Failure, Query } from "../../ui/States";
import { Watched } from "./Watched";
import classes from "./Sources.module.css";

/** The repository that the code is in: where it is, what was read of it last, which branches were written. */
export function CodeTarget() {
  const target = useTarget();
  const [editing, setEditing] = useState(false);
  const read = useWrite(api.readTarget);
  return (
    <section className={classes.document} aria-label="Code">
      <Query query={target} what="the target">
        {(t) => (
          <>
            <header className={classes.docHead}>
              <h2>Code</h2>
              {t.revision > 0 && (
                <span className="mono">
                  {t.path} · {t.branch}
                  {t.folder && ` · ${t.folder}`}
                </span>
              )}
              <span className={classes.push}>
                {t.revision > 0 && (
                  <Button loading={read.isPending} onClick={() => read.mutate(undefined)}>
                    Read again
                  </Button>
                )}
                <Button onClick={() => setEditing(true)}>{t.revision > 0 ? "Change…" : "Say where it is…"}</Button>
              </span>
            </header>
            {t.problem && <p className={classes.down}>{t.problem}</p>}
            {read.error && <Failure error={read.error} />}
            {t.revision === 0 && (
              <p className={`quiet ${classes.hint}`}>
                A git repository that holds the components. What developers change there is laid beside the contracts, and what is agreed is
                written to a branch of it.
              </p>
            )}
            {t.revision > 0 && <Watched subject="code" who="The repository" />}
            {t.commit && <ReadAt target={t} commit={t.commit} />}
            {t.writes.length > 0 && <Writes list={t.writes} />}
            {editing && <TargetDialog target={t} close={() => setEditing(false)} />}
          </>
        )}
      </Query>
    </section>
  );
}

function ReadAt({ target, commit }: { target: Schema["TargetView"]; commit: Schema["Commit"] }) {
  const code = useCode().data;
  return (
    <p className={classes.hint}>
      <code>{commit.hash.slice(0, 7)}</code> “{commit.message}” by {commit.author}, {new Date(commit.at).toLocaleString()}
      {target.readAt && <span className="quiet"> · read {new Date(target.readAt).toLocaleString()}</span>}
      {code?.target && (
        <>
          {" · "}
          {count(code.inStep, "component is", "components are")} in step
          {code.components.length > 0 && (
            <>
              , <Link to="/sync">{count(code.components.length, "is", "are")} not</Link>
            </>
          )}
          {code.unknown.length > 0 && <>, {count(code.unknown.length, "has", "have")} no contract</>}
        </>
      )}
    </p>
  );
}

const states: Record<string, string> = { done: "written", pending: "being written", gone: "not written: the branch moved" };

function Writes({ list }: { list: Schema["WriteView"][] }) {
  return (
    <table className="grid">
      <thead>
        <tr>
          <th>Branch</th>
          <th>Commit</th>
          <th>Components</th>
          <th>State</th>
          <th>By</th>
        </tr>
      </thead>
      <tbody>
        {list.map((w) => (
          <tr key={w.hash}>
            <td className="mono">{w.branch}</td>
            <td className="mono">{w.hash.slice(0, 7)}</td>
            <td>{w.components.length}</td>
            <td>{states[w.state]}</td>
            <td className="quiet">
              {w.by}, {new Date(w.at).toLocaleString()}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function TargetDialog({ target: t, close }: { target: Schema["TargetView"]; close: () => void }) {
  const [edit, setEdit] = useState({
    path: t.path,
    branch: t.branch || "main",
    folder: t.folder,
    tokens: t.tokens,
    author: t.author,
    email: t.email,
  });
  const write = useWrite(() => api.setTarget({ ...edit, revision: t.revision }), close);
  const field = (name: keyof typeof edit, label: string, description?: string) => (
    <TextInput
      label={label}
      description={description}
      value={edit[name]}
      required={name === "path"}
      data-autofocus={name === "path" || undefined}
      onChange={(e) => {
        const { value } = e.currentTarget;
        setEdit((now) => ({ ...now, [name]: value }));
      }}
    />
  );
  return (
    <Modal opened onClose={close} title="Where the code is" closeButtonProps={{ "aria-label": "Close" }}>
      <form
        className={classes.dialog}
        onSubmit={(e) => {
          e.preventDefault();
          write.mutate(undefined);
        }}
      >
        {field("path", "Repository", "A folder of the server’s machine that holds a git repository, bare or with a work tree")}
        {field("branch", "Branch", "That is read, and that branches are made of")}
        {field("folder", "Folder", "That the components are in; empty for the repository’s root")}
        {field("tokens", "Token files", "The folder that they are in, a dot for the root; empty where none are there")}
        {field("author", "Author", "Of the commits that are written")}
        {field("email", "E-mail", "Of the author")}
        {write.error && <Failure error={write.error} />}
        <div className={classes.actions}>
          <Button onClick={close}>Cancel</Button>
          <Button type="submit" variant="filled" disabled={edit.path.trim() === ""} loading={write.isPending}>
            Read it
          </Button>
        </div>
      </form>
    </Modal>
  );
}
