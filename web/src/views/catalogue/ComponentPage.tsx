import { Button } from "@mantine/core";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { type Schema, useAbout, useBench, useEntries, useProject } from "../../api/client";
import { useKeys } from "../../frame/keys";
import { Files } from "../../ui/Files";
import { count } from "../../ui/count";
import { Loading, Query } from "../../ui/States";
import { ThemeSelect } from "../../ui/ThemeSelect";
import { isStatic } from "../../ui/static";
import { AccessSheet } from "./AccessSheet";
import classes from "./Catalogue.module.css";
import { HistorySheet } from "./HistorySheet";
import { ReviewSheet } from "./ReviewSheet";
import { SpecimenSheet } from "./SpecimenSheet";
import { StatesSheet } from "./StatesSheet";
import { UsesSheet } from "./UsesSheet";

/** The sheets of a component's page, each with its key; those that a layout primitive has, too, and those of a catalogue without a server. */
const sheets = [
  { path: "", label: "Specimen", key: "s", primitive: true, offline: true },
  { path: "states", label: "States", key: "t", primitive: false, offline: true },
  { path: "access", label: "Access", key: "a", primitive: true, offline: true },
  { path: "uses", label: "Uses", key: "u", primitive: true, offline: true },
  { path: "history", label: "History", key: "h", primitive: false, offline: false },
  { path: "code", label: "Code", key: "c", primitive: true, offline: true },
  { path: "review", label: "Review", key: "r", primitive: false, offline: false },
] as const;

/** One component for its users, as sheets: the specimen, its states, access, uses, history, code and review. */
export function ComponentPage() {
  const { slug = "" } = useParams();
  const bench = useBench(slug);
  const project = useProject().data;
  return (
    <Query query={bench} what="the component">
      {(b) => (project ? <Page key={b.build} bench={b} preview={project.preview} /> : <Loading what="the project" />)}
    </Query>
  );
}

function Page({ bench, preview }: { bench: Schema["Bench"]; preview: string }) {
  const { sheet = "" } = useParams();
  const navigate = useNavigate();
  const entry = useEntries().data?.find((e) => e.slug === bench.slug);
  const about = useAbout(bench.slug, bench.build).data;
  const [theme, setTheme] = useState(bench.themes[0]);
  const primitive = bench.status === "primitive";
  const shown = sheets.filter((s) => (!primitive || s.primitive) && (!isStatic || s.offline));
  const to = (path: string) => `/catalogue/${bench.slug}${path && `/${path}`}`;
  useKeys(shown.map((s) => [s.key, () => void navigate(to(s.path))]));
  return (
    <div className={classes.component}>
      <header className={classes.title}>
        <h1>{bench.name}</h1>
        <span className="quiet">
          {primitive ? "layout primitive" : bench.version || "not released"} {bench.shelf && `· shelf ${bench.shelf}`}
          {entry && ` · ${entry.status}`}
          {entry && entry.uses > 0 && ` · ${entry.uses} in the design`}
          {entry && entry.usedBy > 0 && ` · ${count(entry.usedBy, "component")} made of it`}
        </span>
        <span>
          <ThemeSelect themes={bench.themes} value={theme?.name ?? ""} onChange={setTheme} />
          {!primitive && !isStatic && (
            <Button component={Link} to={`/bench/${bench.slug}`}>
              On the bench
            </Button>
          )}
        </span>
        <nav aria-label="Sheets" className={classes.sheets}>
          {shown.map((s) => (
            <Link
              key={s.path}
              to={to(s.path)}
              aria-current={s.path === sheet ? "page" : undefined}
              title={`${s.label} (${s.key.toUpperCase()})`}
            >
              {s.label}
            </Link>
          ))}
        </nav>
      </header>
      {about?.deprecated && (
        <p className={classes.deprecated} role="note">
          Deprecated. {about.deprecated} {about.instead && <Link to={`/catalogue/${about.instead}`}>To what is used instead</Link>}
        </p>
      )}
      {sheet === "" && <SpecimenSheet bench={bench} about={about} preview={preview} theme={theme} />}
      {sheet === "states" && <StatesSheet bench={bench} preview={preview} />}
      {sheet === "access" && (about ? <AccessSheet bench={bench} about={about} preview={preview} /> : <Loading what="what it says" />)}
      {sheet === "uses" && (about ? <UsesSheet bench={bench} about={about} entry={entry} /> : <Loading what="where it is used" />)}
      {sheet === "history" && <HistorySheet bench={bench} preview={preview} theme={theme} />}
      {sheet === "code" && <Files slug={bench.slug} title={() => <h2>Files</h2>} />}
      {sheet === "review" && <ReviewSheet bench={bench} preview={preview} theme={theme} />}
    </div>
  );
}
