import { Button } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import { IconArrowBackUp, IconArrowForwardUp, IconCode } from "@tabler/icons-react";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { Link, Navigate, useNavigate, useParams, useSearchParams } from "react-router";

import type { Box, Failed, MeasuredCase } from "../../../preview/messages";
import { api, type Schema, useBench, useCaseAt, useChecks, useLedger, useProject, useWrite } from "../../api/client";
import { CaseStrip } from "../../lanes/CaseStrip";
import { Lanes } from "../../lanes/Lanes";
import { Thrown } from "../../lanes/Thrown";
import { WidthRail } from "../../lanes/WidthRail";
import { EditValue } from "../../ledger/EditValue";
import { Ledger } from "../../ledger/Ledger";
import { useCommands } from "../../frame/commands";
import { useKeys } from "../../frame/keys";
import { Empty, Failure, Loading, Query } from "../../ui/States";
import { ThemeSelect } from "../../ui/ThemeSelect";
import classes from "./Bench.module.css";
import { ContractFacet } from "./contract/ContractFacet";
import { ChecksList } from "./ChecksList";
import { LayoutFacet } from "./LayoutFacet";
import { StressBoard } from "./StressBoard";
import { ReleaseDialog } from "./ReleaseDialog";

export function Bench() {
  const { slug = "" } = useParams();
  const [search] = useSearchParams();
  const bench = useBench(slug, search.get("theme") ?? undefined);
  const project = useProject().data;
  return (
    <Query query={bench} what="the component">
      {(data) => {
        if (data.status === "primitive") return <Navigate to={`/catalogue/${slug}`} replace />; // there is nothing to work on
        return project ? <Work key={slug} bench={data} preview={project.preview} /> : <Loading what="the project" />;
      }}
    </Query>
  );
}

const facets = [
  { name: "compare", label: "Compare", key: "c" },
  { name: "layout", label: "Layout", key: "l" },
  { name: "contract", label: "Contract", key: "s" },
  { name: "checks", label: "Checks", key: "k" },
] as const;

function Work({ bench, preview }: { bench: Schema["Bench"]; preview: string }) {
  const { slug, build } = bench;
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const [part, setPart] = useState(search.get("part") ?? undefined);
  const [editing, setEditing] = useState<Schema["Fact"]>();
  const [releasing, setReleasing] = useState(false);
  const back = useRef<HTMLElement>(null);
  const ledger = useLedger(slug, build, bench.theme).data;
  const checks = useChecks(slug, build).data;
  const measured = useMeasured(slug, build, bench.theme, ledger);
  const theme = bench.themes.find((t) => t.name === bench.theme);
  // Steps and edits made one after another: each follows on the one before, though that is not shown yet.
  const written = useRef(0);
  const step = useWrite(
    (redo: boolean) => api.step(slug, Math.max(bench.revision, written.current), redo),
    (done) => {
      written.current = done.revision;
    },
    `sheet ${slug}`,
  );
  const all = search.get("all") === "1";
  const facet = facets.find((f) => f.name === search.get("facet"))?.name ?? "compare";
  const containers = facet === "layout";
  const stress = facet === "compare" && search.get("stress") === "1";
  const rows = search.get("cases") === "rows";
  // The width follows the hand; the address has it when the hand lets go.
  const [dragged, setDragged] = useState<number>();
  const asked = Number(search.get("width"));
  const width = dragged ?? (asked >= 1 && asked <= 20_000 ? asked : undefined);
  const shown = bench.cases.find((c) => c.key === search.get("case")) ?? bench.cases.find((c) => c.default) ?? bench.cases[0];
  const put = (name: string, value: string | undefined) =>
    setSearch(
      () => {
        // The address itself: what a key or click just before put there is not drawn yet.
        const now = new URLSearchParams(window.location.search);
        if (value === undefined) now.delete(name);
        else now.set(name, value);
        return now;
      },
      { replace: true },
    );
  const laid = useCaseAt(slug, build, shown?.key ?? "", bench.theme, shown ? width : undefined).data;
  const [there, setThere] = useState<Record<string, Box>>({});
  const onWidth = (px: number | undefined, kept: boolean) => {
    setDragged(kept ? undefined : px);
    if (kept) put("width", px === undefined ? undefined : String(px));
  };
  const turn = (to: Schema["LookTheme"]) => put("theme", to === bench.themes[0] ? undefined : to.name);
  const nextTheme = () => {
    // From the address itself: the theme before may not be there yet.
    const now = new URLSearchParams(window.location.search).get("theme");
    const at = bench.themes.findIndex((t) => t.name === now);
    const next = bench.themes[(Math.max(0, at) + 1) % bench.themes.length];
    if (next) turn(next);
  };
  useHotkeys([
    ["mod+z", () => bench.canUndo && step.mutate(false)],
    ["mod+shift+z", () => bench.canRedo && step.mutate(true)],
  ]);
  useKeys([
    ["a", () => put("all", all ? undefined : "1")],
    ...facets.map((f): [string, () => void] => [f.key, () => put("facet", f.name === "compare" ? undefined : f.name)]),
    ["d", () => void navigate(`/bench/${slug}/code`)],
    ["t", nextTheme],
    ["g", () => put("cases", rows ? undefined : "rows")],
    ["w", () => put("stress", stress ? undefined : "1")],
  ]);
  const what = `Of ${bench.name} on the bench`;
  useCommands([
    { label: "Release", what, run: () => setReleasing(true) },
    ...facets
      .filter((f) => f.name !== facet)
      .map((f) => ({ label: f.label, what, run: () => put("facet", f.name === "compare" ? undefined : f.name) })),
    { label: rows ? "Cases in a strip" : "Cases in rows", what, run: () => put("cases", rows ? undefined : "rows") },
    { label: all ? "Facts that differ" : "All facts", what, run: () => put("all", all ? undefined : "1") },
    { label: stress ? "The case as it is" : "The case under stress", what, run: () => put("stress", stress ? undefined : "1") },
    { label: "Next theme", what, run: nextTheme },
    { label: "Code", what, run: () => void navigate(`/bench/${slug}/code`) },
    ...(bench.canUndo ? [{ label: "Undo", what, run: () => step.mutate(false) }] : []),
    ...(bench.canRedo ? [{ label: "Redo", what, run: () => step.mutate(true) }] : []),
  ]);
  const verdicts = useMemo(() => Object.fromEntries((ledger?.cases ?? []).map((c) => [c.key, c])), [ledger]);

  if (bench.gone && facet !== "contract") {
    return (
      <Empty title={`${bench.name} is no longer drawn`} action={<Link to="/sources">To the sources</Link>}>
        {bench.design === 0
          ? "Its design was removed and can be put back at Sources."
          : `Revision ${bench.design} of the design does not hold what it was drawn from.`}{" "}
        The contract and its code are kept: they can be read under Contract and Code.
      </Empty>
    );
  }
  const src = `${preview}/${slug}/${build}/`;
  const facts = (shown && verdicts[shown.key]?.facts) ?? [];
  return (
    <div className={classes.bench} data-facet={stress ? "stress" : facet}>
      <header className={classes.head}>
        <h1>{bench.name}</h1>
        <span className="quiet">
          {bench.version ? `released ${bench.version}` : "draft"} ·{" "}
          {bench.undrawn ? "begun without a drawing" : `agreed at design revision ${bench.agreed}`}
          {bench.design > bench.agreed && `, newest is ${bench.design}`}
          {bench.uses.length > 0 && (
            <span title={bench.held.length > 0 ? `Nobody who uses it can give: ${bench.held.join(", ")}` : undefined}>
              {" "}
              · made of {bench.uses.join(", ")}
            </span>
          )}
          {bench.usedBy.length > 0 && <span title={bench.usedBy.join(", ")}> · used by {some(bench.usedBy)}</span>}
        </span>
        {bench.waiting > 0 && (
          <Link to={`/sync#${slug}`} className={classes.waits}>
            {bench.waiting} {bench.waiting === 1 ? "move" : "moves"} to decide
          </Link>
        )}
        <span className={classes.tools}>
          <ThemeSelect themes={bench.themes} value={bench.theme} onChange={turn} note={(name) => themeNote(ledger, name)} />
          <span className={classes.facets} role="group" aria-label="What is shown">
            {facets.map((f) => (
              <button
                key={f.name}
                type="button"
                aria-pressed={f.name === facet}
                onClick={() => put("facet", f.name === "compare" ? undefined : f.name)}
              >
                {f.label}
                {f.name === "checks" && checks && ` ${checks.errors + checks.warnings}`} <kbd>{f.key.toUpperCase()}</kbd>
              </button>
            ))}
          </span>
          <Button
            leftSection={<IconArrowBackUp size={14} />}
            title={bench.canUndo ? bench.undoes : undefined}
            disabled={!bench.canUndo || step.isPending}
            onClick={() => step.mutate(false)}
          >
            Undo
          </Button>
          <Button
            leftSection={<IconArrowForwardUp size={14} />}
            title={bench.canRedo ? bench.redoes : undefined}
            disabled={!bench.canRedo || step.isPending}
            onClick={() => step.mutate(true)}
          >
            Redo
          </Button>
          <Button component={Link} to={`/bench/${slug}/code`} leftSection={<IconCode size={14} />}>
            Code
          </Button>
          <Button variant="filled" onClick={() => setReleasing(true)}>
            Release…
          </Button>
        </span>
      </header>
      {step.error && <Failure error={step.error} />}
      {facet === "contract" && <ContractFacet bench={bench} src={src} part={part} onPart={setPart} writtenRef={written} />}
      {facet !== "contract" && shown && (
        <>
          <CaseStrip
            cases={bench.cases}
            combined={bench.combined}
            theme={bench.theme}
            themes={bench.themes}
            src={src}
            measure={bench.measure}
            verdicts={verdicts}
            rows={rows}
            onRows={(on) => put("cases", on ? "rows" : undefined)}
            stress={stress}
            onStress={facet === "compare" ? (on) => put("stress", on ? "1" : undefined) : undefined}
            chosen={shown.key}
            onChoose={(key) => put("case", key)}
            onMeasured={measured.take}
            onFailed={measured.fail}
          />
          {stress ? (
            <StressBoard bench={bench} shown={shown} src={src} onFailed={measured.fail} />
          ) : containers ? (
            <LayoutFacet bench={bench} shown={shown} width={width} part={part} onPart={setPart} />
          ) : (
            <Lanes
              shown={width !== undefined && laid ? laid : shown}
              theme={theme}
              src={src}
              parts={bench.parts}
              built={width === undefined ? (measured.boxes[shown.key] ?? {}) : there}
              onMeasured={setThere}
              part={part}
              onPart={setPart}
              onFailed={measured.fail}
              failure={measured.failure && <Thrown slug={slug} build={build} failure={measured.failure} />}
            />
          )}
          {!stress && (
            <WidthRail
              slug={slug}
              build={build}
              revision={bench.revision}
              shown={shown}
              width={width}
              onWidth={onWidth}
              part={part}
              onPart={setPart}
            />
          )}
          {measured.error && <Failure error={measured.error} />}
          {facet === "checks" ? (
            <ChecksList
              bench={bench}
              part={part}
              onPart={setPart}
              onGo={(on) => void navigate(`/bench/${slug}?facet=contract&on=${encodeURIComponent(on)}`)}
            />
          ) : containers || stress ? null : ledger ? (
            <Ledger
              facts={facts}
              undrawn={bench.undrawn}
              numbers={Object.fromEntries(bench.parts.map((p, i) => [p.id, i]))}
              measured={(verdicts[shown.key]?.measured ?? false) && ledger.build === build}
              note={width === undefined ? undefined : `as drawn, at ${Math.round(shown.width)} px`}
              all={all}
              onAll={(on) => put("all", on ? "1" : undefined)}
              part={part}
              onPart={setPart}
              onEdit={(fact, at) => {
                back.current = at;
                setEditing(fact);
              }}
              editing={
                editing && {
                  fact: editing,
                  editor: (
                    <EditValue
                      slug={slug}
                      revision={bench.revision}
                      fact={editing}
                      tokens={bench.tokens}
                      close={() => {
                        setEditing(undefined);
                        back.current?.focus();
                      }}
                    />
                  ),
                }
              }
            />
          ) : (
            <Loading what="the ledger" />
          )}
        </>
      )}
      {releasing && <ReleaseDialog bench={bench} close={() => setReleasing(false)} />}
    </div>
  );
}

/** One or two names, or how many there are. */
function some(names: string[]) {
  return names.length > 2 ? `${names.length} components` : names.join(" and ");
}

/** How many facts of a theme do not agree; nothing where all do. */
function themeNote(ledger: Schema["LedgerView"] | undefined, name: string) {
  const differs = ledger?.themes.find((t) => t.name === name)?.differs ?? 0;
  return differs > 0 ? ` · ${differs} differ` : "";
}

/** Keeps what the frames measured of a build, in all themes, and hands it to the server once. */
function useMeasured(slug: string, build: string, theme: string, ledger: Schema["LedgerView"] | undefined) {
  const queries = useQueryClient();
  const [state, setState] = useState<{ build: string; boxes: Record<string, Record<string, Box>>; failure?: Failed; error?: Error }>({
    build,
    boxes: {},
  });
  const sent = useRef("");
  const take = useCallback(
    (cases: MeasuredCase[]) => {
      const mine = cases.filter((c) => c.theme === theme);
      const boxes = Object.fromEntries(mine.map((c) => [c.case, Object.fromEntries(c.parts.map((p) => [p.part, p.box]))]));
      // What was thrown stands until another build: a frame that shows again does not throw again.
      setState((s) => ({ build, boxes, failure: s.build === build ? s.failure : undefined }));
      const key = `${build} ${cases.length}`;
      if (sent.current === key) return;
      sent.current = key;
      api.measured(slug, build, theme, cases).then(
        (view) => queries.setQueryData(["component", slug, "ledger", build, theme], view),
        (e: Error) => {
          sent.current = "";
          setState((s) => ({ ...s, error: e }));
        },
      );
    },
    [slug, build, theme, queries],
  );
  const fail = useCallback((failure: Failed) => setState((s) => ({ build, boxes: s.boxes, failure })), [build]);
  // Boxes of the build before stand until the new one is measured; its failures do not.
  const current = state.build === build ? state : undefined;
  return { boxes: state.boxes, failure: current?.failure, error: ledger?.measured ? undefined : current?.error, take, fail };
}
