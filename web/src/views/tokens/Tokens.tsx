import { Button } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import { IconArrowBackUp, IconArrowForwardUp, IconPlus } from "@tabler/icons-react";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";

import { api, useTokens, useWrite } from "../../api/client";
import { useCommands } from "../../frame/commands";
import { Empty, Failure, Query } from "../../ui/States";
import { AddToken } from "./AddToken";
import { ContrastView } from "./ContrastView";
import { OffScale } from "./OffScale";
import { Outputs } from "./Outputs";
import { TokenTable } from "./TokenTable";
import classes from "./Tokens.module.css";

const shows = [
  ["values", "Values"],
  ["contrast", "Contrast"],
  ["scale", "Off the scale"],
  ["outputs", "Outputs"],
] as const;

const showAddress = (name: string) => (name === "values" ? "/tokens" : `/tokens?show=${name}`);

/** The tokens: what each is in every theme, how they stand to each other and the design, what they are written to. */
export function Tokens() {
  const tokens = useTokens();
  const [search, setSearch] = useSearchParams();
  const show = shows.find(([name]) => name === search.get("show"))?.[0] ?? "values";
  const step = useWrite((redo: boolean) => api.stepTokens(tokens.data?.revision ?? 0, redo));
  const { canUndo = false, canRedo = false } = tokens.data ?? {};
  useHotkeys([
    ["mod+Z", () => canUndo && step.mutate(false)],
    ["mod+shift+Z", () => canRedo && step.mutate(true)],
  ]);
  const navigate = useNavigate();
  useCommands([
    ...shows.map(([name, label]) => ({ label, what: "Of the tokens", run: () => void navigate(showAddress(name)) })),
    { label: "Add a token", what: "Of the tokens", run: () => put({ add: "1" }) },
    ...(canUndo ? [{ label: "Undo", what: "The last change to the tokens", run: () => step.mutate(false) }] : []),
    ...(canRedo ? [{ label: "Redo", what: "The change to the tokens that was undone", run: () => step.mutate(true) }] : []),
  ]);
  // What is typed stands here; the address follows a little later than keys are struck.
  const [find, setFind] = useState(search.get("find") ?? "");
  const put = (changes: Record<string, string | undefined>) => {
    if ("find" in changes) setFind(changes.find ?? "");
    setSearch(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [key, value] of Object.entries(changes)) {
          if (value === undefined) next.delete(key);
          else next.set(key, value);
        }
        return next;
      },
      { replace: true },
    );
  };
  return (
    <Query query={tokens} what="the tokens">
      {(view) => {
        if (view.rows.length === 0) {
          return (
            <Empty
              title="No tokens yet"
              action={
                <Button component={Link} to="/sources" variant="filled">
                  To the sources
                </Button>
              }
            >
              Drop token files in the design-token standard's format, and a resolver document for themes.
            </Empty>
          );
        }
        return (
          <div className={classes.view}>
            <header className={classes.head}>
              <h1>Tokens</h1>
              <nav className={classes.shows} aria-label="What of the tokens">
                {shows.map(([name, label]) => (
                  <Link key={name} to={showAddress(name)} aria-current={name === show ? "page" : undefined}>
                    {label}
                  </Link>
                ))}
              </nav>
              <span className={classes.tools}>
                <span className={`quiet ${classes.note}`} title={view.note}>
                  {view.note}
                </span>
                <Button
                  leftSection={<IconArrowBackUp size={14} />}
                  disabled={!canUndo || step.isPending}
                  onClick={() => step.mutate(false)}
                >
                  Undo
                </Button>
                <Button
                  leftSection={<IconArrowForwardUp size={14} />}
                  disabled={!canRedo || step.isPending}
                  onClick={() => step.mutate(true)}
                >
                  Redo
                </Button>
                <Button leftSection={<IconPlus size={14} />} onClick={() => put({ add: "1" })}>
                  Add
                </Button>
              </span>
            </header>
            {step.error && <Failure error={step.error} />}
            {show === "values" && <TokenTable view={view} find={find} put={put} />}
            {show === "contrast" && <ContrastView />}
            {show === "scale" && <OffScale />}
            {show === "outputs" && <Outputs tokens={view} />}
            {search.get("add") && (
              <AddToken
                view={view}
                close={() => put({ add: undefined })}
                added={(path) => put({ add: undefined, token: path, show: undefined })}
              />
            )}
          </div>
        );
      }}
    </Query>
  );
}
