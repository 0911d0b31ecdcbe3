import { Button, Checkbox, TextInput } from "@mantine/core";
import { useState } from "react";

import { api, operations, type Schema, useTarget, useWrite, useWritePlan } from "../../api/client";
import { count } from "../../ui/count";
import { Failure, Query } from "../../ui/States";
import { say } from "../../ui/say";
import classes from "./Sync.module.css";

/** What a branch would hold, a commit a component, and the writing of it. */
export function Branch({ hash }: { hash: string }) {
  const [choose, setChoose] = useState<Record<string, "ours" | "theirs" | "marked">>({});
  const [branch, setBranch] = useState("");
  const [forward, setForward] = useState(false);
  const target = useTarget().data;
  const request = { hash, branch: "", choose };
  const plan = useWritePlan(request, true);
  const write = useWrite(
    () => api.writeCode({ hash, branch, choose, forward }),
    (done) => say(done.branch, `${count(done.commits, "commit")} written, ${done.hash.slice(0, 7)}.`),
  );
  const patch = useWrite(
    () => download({ hash, branch: "", choose }),
    () => undefined,
  );
  return (
    <section className={classes.component} aria-label="Branch">
      <Query query={plan} what="what a branch would hold">
        {(p) => (
          <>
            <header className={classes.head}>
              <h3>To write</h3>
              <span className="quiet">
                {count(p.components.length, "commit")} on top of <code>{p.hash.slice(0, 7)}</code>
              </span>
            </header>
            <ul className={classes.commits}>
              {p.components.map((c) => (
                <li key={c.name}>
                  <Commit commit={c} choose={choose} setChoose={setChoose} />
                </li>
              ))}
            </ul>
            <div className={classes.confirm}>
              {p.blocked && <p className={classes.sum}>{p.blocked}</p>}
              <div className={classes.finish}>
                <TextInput
                  size="xs"
                  label="Branch"
                  placeholder={p.branch}
                  value={forward ? (target?.branch ?? "") : branch}
                  disabled={forward}
                  onChange={(e) => setBranch(e.currentTarget.value)}
                />
                <Checkbox
                  size="xs"
                  checked={forward}
                  onChange={(e) => setForward(e.currentTarget.checked)}
                  label={
                    <>
                      Move <code>{target?.branch}</code> forward
                    </>
                  }
                />
                <Button loading={patch.isPending} disabled={p.blocked !== ""} onClick={() => patch.mutate(undefined)}>
                  As a patch
                </Button>
                <Button variant="filled" loading={write.isPending} disabled={p.blocked !== ""} onClick={() => write.mutate(undefined)}>
                  Write
                </Button>
              </div>
              {(write.error ?? patch.error) && <Failure error={write.error ?? patch.error!} />}
            </div>
          </>
        )}
      </Query>
    </section>
  );
}

async function download(body: Schema["WriteRequest"]) {
  const answer = await fetch(`${operations}/code/patch`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });
  if (!answer.ok) throw new Error(((await answer.json()) as { message?: string }).message ?? "The patch could not be made.");
  const address = URL.createObjectURL(await answer.blob());
  const link = document.createElement("a");
  link.href = address;
  link.download = "cobrik.patch";
  link.click();
  URL.revokeObjectURL(address);
}

interface CommitProps {
  commit: Schema["WriteComponent"];
  choose: Record<string, "ours" | "theirs" | "marked">;
  setChoose: (next: Record<string, "ours" | "theirs" | "marked">) => void;
}

function Commit({ commit: c, choose, setChoose }: CommitProps) {
  const [title, ...rest] = c.message.trim().split("\n");
  return (
    <details open={c.conflicts.length > 0 || undefined}>
      <summary>
        {title}
        <span className="quiet"> · {count(c.files.length, "file")}</span>
      </summary>
      {rest.some((line) => line.trim() !== "") && <pre className={classes.message}>{rest.join("\n").trim()}</pre>}
      <ul className={classes.files}>
        {c.files.map((f) => (
          <li key={f.name} className="mono">
            {f.name}{" "}
            <span className="quiet">
              +{f.added} −{f.removed}
            </span>
          </li>
        ))}
      </ul>
      {c.also.length > 0 && <Listed title="Goes with what is put back" list={c.also} />}
      {c.left.length > 0 && <Listed title="Could not be put back by itself" list={c.left} />}
      {c.conflicts.map((k) => {
        const key = `${k.file} ${k.key}`;
        return (
          <div key={key} className={classes.conflict} role="group" aria-label={`${k.file}, ${k.key}`}>
            <p>
              <span className="mono">
                {k.file}:{k.line}
              </span>{" "}
              {k.what}
            </p>
            {(["ours", "theirs"] as const).map((side) => (
              <button key={side} type="button" aria-pressed={choose[key] === side} onClick={() => setChoose({ ...choose, [key]: side })}>
                <span className="quiet">{side === "ours" ? "Contract" : "Code"}</span>
                <pre>{k[side] || "–"}</pre>
              </button>
            ))}
            <button type="button" aria-pressed={choose[key] === "marked"} onClick={() => setChoose({ ...choose, [key]: "marked" })}>
              <span className="quiet">Both, marked in the file</span>
            </button>
          </div>
        );
      })}
    </details>
  );
}

function Listed({ title, list }: { title: string; list: string[] }) {
  return (
    <>
      <p className={classes.sum}>{title}:</p>
      <ul className={classes.files}>
        {list.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
    </>
  );
}
