import { Button } from "@mantine/core";
import { Link } from "react-router";

import { type Schema, useProject } from "../../api/client";
import { count } from "../../ui/count";
import { Query } from "../../ui/States";
import classes from "./Start.module.css";

interface Course {
  to: string;
  station: string;
  sentence: string;
  /** It asks for somebody. */
  waits?: boolean;
}

/** Where things stand: the line told in sentences, each a way there, and the one thing to do next. */
export function Start() {
  const project = useProject();
  return (
    <Query query={project} what="the project">
      {(p) => {
        const next = nextOf(p);
        return (
          <div className={classes.start}>
            <header>
              <h1>Where things stand</h1>
              <p className="quiet">{p.design || "No design yet"}</p>
            </header>
            <ol className={classes.courses} aria-label="Where things stand">
              {coursesOf(p).map((c) => (
                <li key={c.to} data-waits={c.waits || undefined}>
                  <Link to={c.to}>
                    <span className={classes.station}>{c.station}</span>
                    <span>{c.sentence}</span>
                  </Link>
                </li>
              ))}
            </ol>
            <p className={classes.next}>
              <span>{next.why}</span>
              <Button component={Link} to={next.to} variant="filled">
                {next.label}
              </Button>
            </p>
          </div>
        );
      }}
    </Query>
  );
}

function coursesOf(p: Schema["Project"]): Course[] {
  const is = (n: number, one: string, many: string) => `${count(n, one, many)} ${n === 1 ? "is" : "are"}`;
  return [
    {
      to: "/sources",
      station: "Sources",
      sentence: p.sources === 0 ? "No file has been read." : `${is(p.sources, "file", "files")} read: designs and tokens.`,
    },
    {
      to: "/survey",
      station: "Survey",
      sentence:
        p.sources === 0
          ? "No design has been surveyed."
          : p.survey === 0
            ? "Every family of the design has a component."
            : `${count(p.survey, "family", "families")} of the design ${p.survey === 1 ? "has" : "have"} no component yet.`,
      waits: p.survey > 0,
    },
    {
      to: "/tokens",
      station: "Tokens",
      sentence: p.tokens === 0 ? "There are no tokens." : `${is(p.tokens, "token", "tokens")} known by name.`,
    },
    {
      to: "/bench",
      station: "Bench",
      sentence:
        (p.bench === 0 ? "No draft is left to release." : `${is(p.bench, "draft", "drafts")} not released.`) +
        (p.troubled > 0 ? ` ${count(p.troubled, "component has", "components have")} errors.` : ""),
      waits: p.bench > 0,
    },
    {
      to: "/catalogue",
      station: "Catalogue",
      sentence: p.catalogue === 0 ? "Nothing is released." : `${is(p.catalogue, "component", "components")} released.`,
    },
    {
      to: "/sync",
      station: "Sync",
      sentence:
        p.sync === 0
          ? "Nothing moved that nobody has decided."
          : `${count(p.sync, "move")} ${p.sync === 1 ? "waits" : "wait"} for a decision.`,
      waits: p.sync > 0,
    },
    {
      to: "/trial",
      station: "Trial",
      sentence: p.trial === 0 ? "No page is on trial." : `${is(p.trial, "page", "pages")} on trial.`,
    },
  ];
}

/** The one thing to do next: what waits longest down the line first. */
function nextOf(p: Schema["Project"]): { why: string; label: string; to: string } {
  if (p.sources === 0) return { why: "It begins with a design document and its tokens.", label: "To the sources", to: "/sources" };
  if (p.sync > 0) return { why: "What moved comes first: others may be building on it.", label: "Decide what moved", to: "/sync" };
  if (p.bench > 0) return { why: "A draft is of use to nobody until it is released.", label: "To the bench", to: "/bench" };
  if (p.survey > 0) return { why: "The design holds more than the library.", label: "Draft the next component", to: "/survey" };
  return { why: "Everything is level.", label: "To the catalogue", to: "/catalogue" };
}
