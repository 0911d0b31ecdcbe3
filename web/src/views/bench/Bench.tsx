import { Button } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import { IconArrowBackUp, IconArrowForwardUp, IconCode } from "@tabler/icons-react";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, Navigate, useNavigate, useParams, useSearchParams } from "react-router";

import type { Box, Failed, MeasuredCase } from "../../../preview/messages";
import { api, type Schema, useBench, useBoard, useCaseAt, useChecks, useCode, useLedger, useProject, useWrite } from "../../api/client";
import { buildAddress, codeAddress } from "../../lanes/address";
import { CaseStrip } from "../../lanes/CaseStrip";
import { Lanes } from "../../lanes/Lanes";
import { Thrown } from "../../lanes/Thrown";
import { isOtherwise } from "../../lanes/shown";
import { WidthRail } from "../../lanes/WidthRail";
import { EditValue } from "../../ledger/EditValue";
import { Ledger } from "../../ledger/Ledger";
import { useCommands } from "../../frame/commands";
import { useHere, useOthers } from "../../frame/here";
import { useKeys } from "../../frame/keys";
import { Empty, Failure, Loading, Query } from "../../ui/States";
import { ThemeSelect } from "../../ui/ThemeSelect";
import classes from "./Bench.module.css";
import { ContractFacet } from "./contract/ContractFacet";
import { MovedInCode } from "./MovedInCode";
import { ChecksList } from "./ChecksList";
import { LayoutFacet } from "./LayoutFacet";
import { CasesBoard, StressBoard } from "./Boards";
import { LookLine } from "./LookLine";
import { BehaviourFacet } from "./behaviour/BehaviourFacet";
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
  { name: "behaviour", label: "Behaviour", key: "h" },
  { name: "checks", label: "Checks", key: "k" },
] as const;

function Work({ bench, preview }: { bench: Schema["Bench"]; preview: string }) {
  const { slug, build } = bench;
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const [part, setPart] = useState(search.get("part") ?? undefined);
  // The build that an edit makes: frames fetch it while the component is read again.
  const [next, setNext] = useState<string>();
  const others = useOthers(slug);
  const setAt = useHere(slug);
  const [editing, setEditing] = useState<Schema["Fact"]>();
  const [releasing, setReleasing] = useState(false);
  const back = useRef<HTMLElement>(null);
  const ledger = useLedger(slug, build, bench.theme, useSettled(build)).data;
  const checks = useChecks(slug, build).data;
  const measured = useMeasured(slug, build, bench.theme, ledger);
  const theme = bench.themes.find((t) => t.name === bench.theme);
  const moved = (to: string) => {
    const there = new URLSearchParams(window.location.search);
    if (there.get("facet") === "contract") there.set("on", "name"); // where the focus goes
    void navigate({ pathname: `/bench/${to}`, search: there.toString() }, { replace: true });
  };
  // Steps and edits made one after another: each follows on the one before, though that is not shown yet.
  const written = useRef(0);
  const step = useWrite(
    (redo: boolean) => api.step(slug, Math.max(bench.revision, written.current), redo),
    (done) => {
      written.current = done.revision;
      setNext(done.build);
      if (done.slug !== slug) moved(done.slug);
    },
    `sheet ${slug}`,
  );
  const all = search.get("all") === "1";
  const facet = facets.find((f) => f.name === search.get("facet"))?.name ?? "compare";
  const containers = facet === "layout";
  const stress = facet === "compare" && search.get("stress") === "1";
  const every = facet === "compare" && !stress && search.get("board") === "1";
  const rows = search.get("cases") === "rows";
  // The width follows the hand; the address has it when the hand lets go.
  const [dragged, setDragged] = useState<number>();
  const asked = Number(search.get("width"));
  const width = dragged ?? (asked >= 1 && asked <= 20_000 ? asked : undefined);
  const key = search.get("case");
  const known = bench.cases.find((c) => c.key === key);
  // One that is neither drawn nor saved is not on the strip.
  const other = useCaseAt(slug, build, key ?? "", bench.theme, key !== null && !known ? (width ?? 0) : undefined).data;
  const shown = known ?? (other?.key === key ? other : undefined) ?? bench.cases.find((c) => c.default) ?? bench.cases[0];
  // What is pinned for all cases; the width that a hand moves is the lanes' alone until it lets go.
  const pins: Schema["Look"] = {
    theme: search.get("theme") ?? undefined,
    state: search.get("state") ?? undefined,
    direction: search.get("dir") ?? undefined,
    text: Number(search.get("text")) || undefined,
    width: asked >= 1 && asked <= 20_000 ? asked : undefined,
  };
  const otherwise = isOtherwise(pins) || bench.cases.some((c) => isOtherwise(c.look) || c.look.theme !== undefined);
  const board = useBoard(slug, build, otherwise ? pins : undefined).data;
  const looked = useMemo(
    () => (otherwise && board ? Object.fromEntries(board.cases.map((c) => [c.key, c])) : undefined),
    [otherwise, board],
  );
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
  const code = useCode().data;
  const [refused, setRefused] = useState<{ of: string; message: string }>(); // code of the repository that does not run
  const onWidth = (px: number | undefined, kept: boolean) => {
    setDragged(kept ? undefined : px);
    if (kept) put("width", px === undefined ? undefined : String(px));
  };
  const mine = shown && looked?.[shown.key];
  // Where the width alone is pinned, the drawing is laid out anew beside it.
  const asLooked =
    mine && isOtherwise({ ...mine.look, width: undefined, state: shown.drawn ? pins.state : mine.look.state }) ? mine : undefined;
  const [naming, setNaming] = useState(false);
  const save = useWrite(
    (name: string) => api.saveCase(slug, shown!.key, name, pins),
    (done) => {
      written.current = done.revision;
      setNaming(false);
      put("case", done.key);
    },
    `sheet ${slug}`,
  );
  const onLook = (change: Schema["Look"]) =>
    Object.entries(change).forEach(([name, value]) =>
      put(name === "direction" ? "dir" : name, value === undefined ? undefined : String(value)),
    );
  const toggleBoard = () => {
    put("stress", undefined); // the board takes its place
    put("board", every ? undefined : "1");
  };
  const nextState = () => onLook({ state: bench.states[bench.states.indexOf(pins.state ?? "") + 1] });
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
    ...(facet === "contract" || facet === "behaviour"
      ? []
      : ([
          ["b", toggleBoard],
          ["i", nextState],
          ["r", () => onLook({ direction: pins.direction ? undefined : "rtl" })],
          ["z", () => onLook({ text: pins.text ? undefined : 200 })],
          ["n", () => setNaming(true)],
        ] as [string, () => void][])),
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
    { label: every ? "One case" : "Every case at once", what, run: toggleBoard },
    { label: "Save this case by a name", what, run: () => setNaming(true) },
    ...bench.states.map((s) => ({ label: `Every case in ${s}`, what, run: () => onLook({ state: s }) })),
    {
      label: pins.direction ? "Left to right" : "Right to left",
      what,
      run: () => onLook({ direction: pins.direction ? undefined : "rtl" }),
    },
    {
      label: pins.text ? "Text as large as it is" : "Text of twice the size",
      what,
      run: () => onLook({ text: pins.text ? undefined : 200 }),
    },
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
  const src = buildAddress(preview, slug, build);
  const upcoming = next !== undefined && next !== build ? buildAddress(preview, slug, next) : undefined;
  const facts = (shown && verdicts[shown.key]?.facts) ?? [];
  const inCode = code?.target === true && !code.components.some((c) => c.slug === slug && c.state !== "moved");
  const repository = inCode && search.get("built") === "repository";
  const theirs = repository ? codeAddress(preview, slug, code.hash) : "";
  return (
    <div className={classes.bench} data-facet={stress || every ? "stress" : facet}>
      <header className={classes.head}>
        <h1>{bench.name}</h1>
        <span className="quiet">
          {bench.version ? `released ${bench.version}` : "draft"} ·{" "}
          {bench.roomOf
            ? `keeps the room of ${bench.roomOf}`
            : bench.undrawn
              ? "begun without a drawing"
              : `agreed at design revision ${bench.agreed}`}
          {bench.design > bench.agreed && `, newest is ${bench.design}`}
          {bench.uses.length > 0 && (
            <span title={bench.held.length > 0 ? `Nobody who uses it can give: ${bench.held.join(", ")}` : undefined}>
              {" "}
              · made of {bench.uses.join(", ")}
            </span>
          )}
          {bench.usedBy.length > 0 && <span title={bench.usedBy.join(", ")}> · used by {some(bench.usedBy)}</span>}
        </span>
        {others.length > 0 && (
          <span className={classes.others} role="status">
            {others.map((o) => o.name).join(", ")} {others.length === 1 ? "is" : "are"} here, too
          </span>
        )}
        {bench.waiting > 0 && (
          <Link to={`/sync#${slug}`} className={classes.waits}>
            {bench.waiting} {bench.waiting === 1 ? "move" : "moves"} to decide
          </Link>
        )}
        <MovedInCode slug={slug} />
        <span className={classes.tools}>
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
      {facet === "contract" && (
        <ContractFacet
          bench={bench}
          src={src}
          part={part}
          onPart={setPart}
          writtenRef={written}
          onMoved={moved}
          others={others}
          onAt={setAt}
        />
      )}
      {facet === "behaviour" && <BehaviourFacet bench={bench} src={src} onEdited={(done) => setNext(done.build)} />}
      {facet !== "contract" && facet !== "behaviour" && shown && (
        <>
          <CaseStrip
            cases={bench.cases}
            looked={looked}
            theme={bench.theme}
            themes={bench.themes}
            src={src}
            next={upcoming}
            measure={bench.measure}
            verdicts={verdicts}
            rows={rows}
            chosen={shown.key}
            onChoose={(key) => put("case", key)}
            onMeasured={measured.take}
            onFailed={measured.fail}
          />
          <LookLine
            states={bench.states}
            look={pins}
            own={shown.lookWords}
            onLook={onLook}
            theme={
              bench.themes.length > 1 ? (
                <ThemeSelect themes={bench.themes} value={bench.theme} onChange={turn} note={(name) => themeNote(ledger, name)} />
              ) : (
                bench.theme
              )
            }
            naming={naming}
            suggested={shown.name}
            refused={save.error?.message}
            onSave={(name) => save.mutate(name)}
            onCancel={() => {
              save.reset();
              setNaming(false);
            }}
          >
            <span>{place(bench, shown)}</span>
            <Toggle on={rows} onToggle={() => put("cases", rows ? undefined : "rows")} label="in rows" letter="G" />
            {facet === "compare" && (
              <>
                <Toggle on={every} onToggle={toggleBoard} label="every case" letter="B" />
                <Toggle on={stress} onToggle={() => put("stress", stress ? undefined : "1")} label="stress" letter="W" />
              </>
            )}
            <Toggle onToggle={() => setNaming(true)} label="save as…" letter="N" />
          </LookLine>
          {stress ? (
            <StressBoard bench={bench} shown={shown} src={src} onFailed={measured.fail} />
          ) : every ? (
            <CasesBoard
              bench={bench}
              shown={shown}
              look={pins}
              src={src}
              preview={preview}
              onChoose={(to) => {
                put("case", to);
                put("board", undefined);
              }}
              onFailed={measured.fail}
            />
          ) : containers ? (
            <LayoutFacet bench={bench} shown={shown} width={width} part={part} onPart={setPart} />
          ) : (
            <Lanes
              key={repository ? "repository" : "contract"}
              side={inCode ? { repository, choose: (on) => put("built", on ? "repository" : undefined) } : undefined}
              shown={width !== undefined && laid ? laid : shown}
              looked={asLooked && { ...asLooked, container: width ?? asLooked.container }}
              themes={bench.themes}
              theme={theme}
              src={repository ? theirs : src}
              next={repository ? undefined : upcoming}
              parts={bench.parts}
              built={width === undefined && !asLooked && known && !repository ? (measured.boxes[shown.key] ?? {}) : there}
              onMeasured={setThere}
              part={part}
              onPart={setPart}
              onFailed={repository ? (f) => setRefused({ of: theirs, message: f.message }) : measured.fail}
              failure={
                repository ? (
                  refused?.of === theirs ? (
                    <p className="quiet">The repository’s code does not run here: {refused.message}</p>
                  ) : undefined
                ) : (
                  measured.failure && <Thrown slug={slug} build={build} failure={measured.failure} />
                )
              }
            />
          )}
          {!stress && !every && (
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
          ) : containers || stress || every ? null : !known && shown.key === key ? (
            <p className={classes.aside}>
              This case is neither drawn nor saved, and nothing is held against it. Save it by a name, and its facts stand here: contract
              and built side by side.
            </p>
          ) : ledger ? (
            <Ledger
              facts={facts}
              undrawn={!shown.drawn}
              numbers={Object.fromEntries(bench.parts.map((p, i) => [p.id, i]))}
              measured={(verdicts[shown.key]?.measured ?? false) && ledger.build === build}
              note={ledgerNote(shown, width, asLooked !== undefined)}
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
                      theme={bench.theme}
                      onEdited={(done) => setNext(done.build)}
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

function Toggle({ on, onToggle, label, letter }: { on?: boolean; onToggle: () => void; label: string; letter: string }) {
  return (
    <button type="button" aria-pressed={on} onClick={onToggle}>
      {label} <kbd>{letter}</kbd>
    </button>
  );
}

/** "3 of 30 cases, 96 combinations": where the case stands, and how many there are beyond. */
function place(bench: Schema["Bench"], shown: Schema["CaseView"]) {
  const at = bench.cases.findIndex((c) => c.key === shown.key) + 1;
  const of = bench.cases.length === 1 ? "1 case" : `${at > 0 ? `${at} of ` : ""}${bench.cases.length} cases`;
  return bench.combined > bench.cases.length ? `${of}, ${bench.combined.toLocaleString("en")} combinations` : of;
}

/** In what the facts were measured, where that is not what the lanes show. */
function ledgerNote(shown: Schema["CaseView"], width: number | undefined, otherwise: boolean) {
  if (otherwise) return "as given, in nothing of what is pinned";
  return width === undefined ? undefined : `as drawn, at ${Math.round(shown.width)} px`;
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

/** ms that a new build has to be measured in before its ledger is read without. */
const patience = 500;

/** Whether a build stands for a while, or is the first: what measures one that follows on another brings its ledger along. */
function useSettled(build: string): boolean {
  const [settled, setSettled] = useState(build);
  useEffect(() => {
    const later = setTimeout(() => setSettled(build), patience);
    return () => clearTimeout(later);
  }, [build]);
  return settled === build;
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
