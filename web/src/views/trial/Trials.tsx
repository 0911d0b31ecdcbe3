import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { api, type Schema, useSources, useTrials, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { say } from "../../ui/say";
import { Empty, Failure, Query } from "../../ui/States";
import classes from "./Trial.module.css";

/** Pages assembled from components to try them: the design's taken over, and such as people begin. */
export function Trials() {
  const trials = useTrials();
  return (
    <Query query={trials} what="the pages on trial">
      {(list) => (
        <div className={classes.list}>
          <header className={classes.listHead}>
            <h1>Trial</h1>
            <span className="quiet">{count(list.length, "page")} on trial</span>
            <Begin />
          </header>
          {list.length === 0 ? (
            <Empty title="No page is on trial yet">
              Take the pages of a design over: what is drawn of components becomes uses of them, what lies between becomes primitives. Or
              begin a page, and type the names of components.
            </Empty>
          ) : (
            <Pages list={list} />
          )}
        </div>
      )}
    </Query>
  );
}

function Begin() {
  const navigate = useNavigate();
  const documents = useSources().data?.documents ?? [];
  const [name, setName] = useState("");
  const add = useWrite(api.addTrial, (page) => void navigate(`/trial/${page.slug}`));
  const take = useWrite(
    (document: string) => api.takeTrials(document),
    (pages) => say("Taken over", `${count(pages.length, "page")}: ${pages.map((p) => p.name).join(", ")}.`),
  );
  const failed = add.error ?? take.error;
  return (
    <>
      <form
        className={classes.begin}
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) add.mutate(name);
        }}
      >
        <TextInput
          size="xs"
          aria-label="Name of a new page"
          placeholder="Name of a new page"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
        />
        <Button type="submit" disabled={!name.trim()} loading={add.isPending}>
          Begin
        </Button>
        {documents.map((d) => (
          <Button key={d.id} variant="default" loading={take.isPending && take.variables === d.id} onClick={() => take.mutate(d.id)}>
            Take over all pages of {d.name}
          </Button>
        ))}
      </form>
      {failed && (
        <div className={classes.failed}>
          <Failure error={failed} />
        </div>
      )}
    </>
  );
}

function Pages({ list }: { list: Schema["TrialEntry"][] }) {
  const [asked, setAsked] = useState<string>();
  const remove = useWrite(
    (p: Schema["TrialEntry"]) => api.removeTrial(p.slug),
    (_, p) => say("Removed", p.name),
  );
  return (
    <table className={classes.table}>
      <thead>
        <tr>
          <th scope="col">Page</th>
          <th scope="col">Drawn at</th>
          <th scope="col">Uses</th>
          <th scope="col">Filled from</th>
          <th scope="col">What it needs</th>
          <th scope="col">
            <span className="hidden-but-read">Remove</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {list.map((p) => {
          const needs = needsOf(p);
          return (
            <tr key={p.slug}>
              <th scope="row">
                <Link to={`/trial/${p.slug}`}>{p.name}</Link>
              </th>
              <td className="mono">{p.drawn.length > 0 ? p.drawn.join(", ") : <span className="quiet">not drawn</span>}</td>
              <td>
                {count(p.uses, "use")} <span className="quiet">{p.components.join(", ")}</span>
              </td>
              <td className="mono">{p.sources.join(", ") || <span className="quiet">itself</span>}</td>
              <td data-waits={needs.length > 0 || undefined}>
                {needs.length > 0 ? needs.join(", ") : <span className="quiet">nothing</span>}
              </td>
              <td>
                {asked === p.slug ? (
                  <Button
                    variant="filled"
                    autoFocus
                    loading={remove.isPending}
                    onBlur={() => setAsked(undefined)}
                    onClick={() => remove.mutate(p)}
                  >
                    Remove for good
                  </Button>
                ) : (
                  <Button variant="default" aria-label={`Remove ${p.name}`} onClick={() => setAsked(p.slug)}>
                    Remove
                  </Button>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function needsOf(p: Schema["TrialEntry"]): string[] {
  const out = [];
  if (p.gaps > 0) out.push(`${count(p.gaps, "gap")} to fill`);
  if (p.errors > 0) out.push(`${count(p.errors, "row")} to put right`);
  if (p.warnings > 0) out.push(`${count(p.warnings, "warning")} of content`);
  if (p.behind > 0) out.push(`${count(p.behind, "newer release")}`);
  return out;
}
