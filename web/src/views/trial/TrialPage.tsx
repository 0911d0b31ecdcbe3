import { Button, TextInput } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import { IconArrowBackUp, IconArrowForwardUp } from "@tabler/icons-react";
import { useCallback, useMemo, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";

import type { Failed, MeasuredCase } from "../../../preview/messages";
import { api, type Schema, useProject, useTrial, useTrialCompared, useTrialFiles, useWrite } from "../../api/client";
import { useCommands } from "../../frame/commands";
import { useKeys } from "../../frame/keys";
import { buildAddress } from "../../lanes/address";
import { count } from "../../ui/count";
import { FileList } from "../../ui/Files";
import { Failure, Loading, Query } from "../../ui/States";
import { ThemeSelect } from "../../ui/ThemeSelect";
import { ContentFacet } from "./ContentFacet";
import { Frames, type Look } from "./Frames";
import { Outline } from "./Outline";
import { retype, rowsIn } from "./outline";
import { levelOf, PageLedger } from "./PageLedger";
import { ReleasesFacet } from "./ReleasesFacet";
import classes from "./Trial.module.css";
import { useOutline } from "./useOutline";
import { VersionsFacet } from "./VersionsFacet";

const facets = [
  { name: "page", label: "Page", key: "p" },
  { name: "content", label: "Content", key: "c" },
  { name: "versions", label: "Versions", key: "v" },
  { name: "releases", label: "Releases", key: "r" },
  { name: "code", label: "Code", key: "d" },
] as const;

/** One page on trial. */
export function TrialPage() {
  const { slug = "" } = useParams();
  const page = useTrial(slug);
  const project = useProject().data;
  return (
    <Query query={page} what="the page">
      {(data) => (project ? <Work key={slug} page={data} preview={project.preview} /> : <Loading what="the project" />)}
    </Query>
  );
}

function Work({ page, preview }: { page: Schema["TrialPage"]; preview: string }) {
  const { facet: named } = useParams();
  const facet = facets.find((f) => f.name === named)?.name ?? "page";
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const outline = useOutline(page);
  const { lines } = outline;
  // The row is its own master: the address follows a little later than keys are struck.
  const [chosen, setChosen] = useState(() => Number(search.get("row") ?? 1) - 1);
  const row = Math.max(0, Math.min(lines.length - 1, chosen));
  const put = useCallback(
    (name: string, value: string) =>
      setSearch(
        (now) => {
          const next = new URLSearchParams(now);
          if (value) next.set(name, value);
          else next.delete(name);
          return next;
        },
        { replace: true },
      ),
    [setSearch],
  );
  const choose = useCallback(
    (at: number) => {
      setChosen(at);
      put("row", String(at + 1));
    },
    [put],
  );
  const go = (name: string) => {
    const at = new URLSearchParams(window.location.search);
    void navigate({ pathname: `/trial/${page.slug}${name === "page" ? "" : `/${name}`}`, search: at.toString() });
  };
  const toRow = (at: number) => {
    setChosen(at);
    void navigate({ pathname: `/trial/${page.slug}`, search: `row=${at + 1}` });
  };
  useKeys(facets.map((f) => [f.key, () => go(f.name)]));
  const undo = () => page.undoes && void outline.then((revision) => api.undoTrial(page.slug, revision));
  const redo = () => page.redoes && void outline.then((revision) => api.redoTrial(page.slug, revision));
  useHotkeys([
    ["mod+Z", undo],
    ["mod+shift+Z", redo],
  ]);
  useCommands([
    { label: `Undo: ${page.undoes || "nothing"}`, what: `On ${page.name}`, run: undo },
    { label: "Drawing beside the page", what: `On ${page.name}`, run: () => put("beside", search.get("beside") ? "" : "1") },
  ]);
  const errors = page.problems.filter((p) => p.severity === "error").length;
  const behind = page.uses.filter((u) => u.newest && u.pinned && u.pinned !== u.newest).length;
  const counts: Record<string, number> = { content: page.warnings.length, versions: page.groups.length, releases: behind };
  return (
    <div className={classes.trial} data-facet={facet}>
      <header className={classes.head}>
        <Link to="/trial" className="quiet">
          Trial
        </Link>
        <h1>{page.name}</h1>
        <span className="quiet">
          {count(page.uses.length, "component")}
          {page.gaps > 0 && ` · ${count(page.gaps, "gap")}`}
          {errors > 0 && ` · ${count(errors, "row")} to put right`}
        </span>
        <span className={classes.steps}>
          <Button
            variant="subtle"
            size="compact-xs"
            disabled={!page.undoes}
            title={page.undoes && `Undo: ${page.undoes}`}
            onClick={undo}
            aria-label="Undo"
          >
            <IconArrowBackUp size={15} />
          </Button>
          <Button
            variant="subtle"
            size="compact-xs"
            disabled={!page.redoes}
            title={page.redoes && `Redo: ${page.redoes}`}
            onClick={redo}
            aria-label="Redo"
          >
            <IconArrowForwardUp size={15} />
          </Button>
        </span>
        <nav className={classes.facets} aria-label="Facets of the page">
          {facets.map((f) => (
            <button key={f.name} type="button" aria-pressed={facet === f.name} onClick={() => go(f.name)}>
              {f.label}
              {counts[f.name] ? <span className="mono"> {counts[f.name]}</span> : null} <kbd>{f.key.toUpperCase()}</kbd>
            </button>
          ))}
        </nav>
      </header>
      {outline.error && <Failure error={outline.error} />}
      {facet === "page" && (
        <PageFacet
          page={page}
          preview={preview}
          lines={lines}
          row={row}
          choose={choose}
          put={put}
          beside={search.get("beside") === "1"}
          edit={outline.edit}
        />
      )}
      {facet === "content" && <ContentFacet page={page} preview={preview} onRow={toRow} />}
      {facet === "versions" && <VersionsFacet page={page} lines={lines} onRow={toRow} />}
      {facet === "releases" && (
        <ReleasesFacet
          page={page}
          preview={preview}
          onPin={(component, version) => void outline.then((revision) => api.pinTrial(page.slug, revision, component, version))}
        />
      )}
      {facet === "code" && <CodeFacet page={page} />}
    </div>
  );
}

interface PageProps {
  page: Schema["TrialPage"];
  preview: string;
  lines: string[];
  row: number;
  choose: (at: number) => void;
  put: (name: string, value: string) => void;
  beside: boolean;
  edit: (lines: string[], step: string) => void;
}

function PageFacet({ page, preview, lines, row, choose, put, beside, edit }: PageProps) {
  const [look, setLook] = useState<Look>({});
  const [acts, setActs] = useState(false);
  const [failed, setFailed] = useState<{ src: string; said: Failed }>();
  const src = buildAddress(preview, `page~${page.slug}`, page.build);
  const measured = useMeasured(page, src, look);
  const compared = useCompared(page, measured);
  const byWidth = new Map(compared.map((c) => [c.width, c]));
  const marked = useMemo(() => rowsIn(lines, row), [lines, row]);
  const problem = page.problems.find((p) => p.line === row + 1);
  return (
    <div className={classes.page}>
      <div className={classes.side}>
        <Outline
          slug={page.slug}
          lines={lines}
          problems={page.problems}
          warnings={page.warnings}
          chosen={row}
          onChoose={choose}
          onEdit={edit}
        />
        <RowSays
          page={page}
          row={row}
          line={lines[row] ?? ""}
          problem={problem}
          onRow={choose}
          onRetype={(text) => edit(retype(lines, row, text), `row ${row + 1}`)}
        />
      </div>
      <div className={classes.shown}>
        <LookBar page={page} look={look} setLook={setLook} acts={acts} setActs={setActs} beside={beside} put={put} />
        {failed?.src === src && (
          <p className={classes.thrown} role="alert">
            The page does not run: {failed.said.message}
          </p>
        )}
        <Frames
          name={page.name}
          src={src}
          props={page.props}
          pieces={page.pieces}
          widths={page.widths}
          drawn={page.drawn}
          beside={beside ? page.slug : undefined}
          look={look}
          marked={marked}
          acts={acts}
          reveal={page.pieces.find((p) => p.line - 1 >= marked.from && p.line - 1 <= marked.to)?.key}
          note={(width) => {
            const said = levelOf(byWidth.get(width));
            return said && <span className={said.moved ? classes.moved : classes.level}>{said.text}</span>;
          }}
          onMeasured={measured.take}
          onPoint={choose}
          onFailed={(said) => setFailed({ src, said })}
        />
        {compared.length > 0 && <PageLedger compared={compared} chosen={row} onPoint={choose} />}
      </div>
    </div>
  );
}

/** What the frames of the widths that are drawn measured of this build, looked at as drawn. */
function useMeasured(page: Schema["TrialPage"], src: string, look: Look) {
  const [all, setAll] = useState<{ src: string; at: Record<number, Schema["Built"][]> }>({ src, at: {} });
  const plain = !look.direction && !look.text && (!look.theme || look.theme.name === page.themes[0]?.name);
  const take = useCallback(
    (width: number, of: string, cases: MeasuredCase[]) => {
      if (!plain) return;
      const built = (cases[0]?.parts ?? []).map((p) => ({ key: p.part, box: p.box, text: p.text.slice(0, 20_000) }));
      setAll((now) => ({ src: of, at: { ...(now.src === of ? now.at : {}), [width]: built } }));
    },
    [plain],
  );
  return { take, at: all.src === src ? all.at : {} };
}

/** The page held to its drawings: to the widest, and the narrowest. */
function useCompared(page: Schema["TrialPage"], measured: { at: Record<number, Schema["Built"][]> }) {
  const shown = page.drawn.filter((d) => page.widths.includes(d.width));
  const [first, last] = [shown[0], shown.length > 1 ? shown.at(-1) : undefined];
  const body = (d: Schema["TrialDrawing"] | undefined) => {
    const built = d && measured.at[d.width];
    return d && built ? { build: page.build, page: d.page, built } : undefined;
  };
  const a = useTrialCompared(page.slug, body(first));
  const b = useTrialCompared(page.slug, body(last));
  return [first && a.data, last && b.data].filter((c) => c !== undefined);
}

/** A message as a sentence. */
const sentence = (text: string) => `${text.slice(0, 1).toUpperCase()}${text.slice(1).replace(/\.$/, "")}.`;

/** What the chosen row is: a use or a definition, what is wrong with it, what else could be there. */
function RowSays({
  page,
  row,
  line,
  problem,
  onRow,
  onRetype,
}: {
  page: Schema["TrialPage"];
  row: number;
  line: string;
  problem: Schema["Problem"] | undefined;
  onRow: (at: number) => void;
  onRetype: (text: string) => void;
}) {
  const head = line.trim().split(/[\s="]/)[0] ?? "";
  const use = page.uses.find((u) => u.name === head);
  const near = head === "gap" ? (/ like=(\S+)/.exec(line)?.[1]?.split(",") ?? []) : [];
  const warnings = page.warnings.filter((w) => w.line === row + 1);
  const others = page.problems.filter((p) => p !== problem && p.severity === "error");
  return (
    <div className={classes.says} aria-live="polite">
      {problem ? (
        <p data-severity={problem.severity}>
          {sentence(problem.message)} {problem.fix && <em>{sentence(problem.fix)}</em>}
        </p>
      ) : use && !use.missing ? (
        <p>
          A use of {use.name} {use.pinned || "at work"}: what is typed here changes this page alone. Its definition is{" "}
          <Link to={`/bench/${use.slug}`}>on the Bench</Link>, and changes every use.
        </p>
      ) : near.length > 0 ? (
        <p>
          Nothing is there for it yet. The nearest there is:{" "}
          {near.map((name) => (
            <button key={name} type="button" onClick={() => onRetype(name)}>
              put {name} here
            </button>
          ))}
        </p>
      ) : (
        <p className="quiet">Row {row + 1}. Enter to type, N for a row below, Alt and arrows to move it.</p>
      )}
      {warnings.map((w, i) => (
        <p key={i} data-severity="warning">
          {w.message}
        </p>
      ))}
      {others.length > 0 && (
        <p>
          <button type="button" onClick={() => onRow((others[0]!.line ?? 1) - 1)}>
            {count(others.length, "other row")} to put right
          </button>
        </p>
      )}
      {page.needs.length > 0 && page.gaps > 0 && (
        <details>
          <summary>What was left when it was taken over</summary>
          <ul>
            {page.needs.map((n) => (
              <li key={n}>{n}</li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

interface LookProps {
  page: Schema["TrialPage"];
  look: Look;
  setLook: (look: Look) => void;
  acts: boolean;
  setActs: (on: boolean) => void;
  beside: boolean;
  put: (name: string, value: string) => void;
}

/** The widths a page is looked at, and what in. */
function LookBar({ page, look, setLook, acts, setActs, beside, put }: LookProps) {
  const [adding, setAdding] = useState("");
  const widths = useWrite((w: number[]) => api.lookTrial(page.slug, w));
  const add = () => {
    const n = Math.round(Number(adding));
    if (!Number.isFinite(n) || adding.trim() === "") return;
    setAdding("");
    widths.mutate([...page.widths, n]);
  };
  return (
    <div className={classes.look} role="group" aria-label="Widths, and what the page is looked at in">
      {page.widths.map((w) => (
        <span key={w} className={classes.width}>
          <span className="mono">{w}</span>
          {page.widths.length > 1 && (
            <button type="button" aria-label={`Without ${w} px`} onClick={() => widths.mutate(page.widths.filter((o) => o !== w))}>
              ×
            </button>
          )}
        </span>
      ))}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          add();
        }}
      >
        <TextInput
          size="xs"
          w={104}
          aria-label="Another width, px"
          placeholder="another px"
          list="usual-widths"
          value={adding}
          onChange={(e) => setAdding(e.currentTarget.value)}
        />
        <datalist id="usual-widths">
          {[320, 390, 768, 1024, 1440, 1920].map((w) => (
            <option key={w} value={w} />
          ))}
        </datalist>
      </form>
      <ThemeSelect
        themes={page.themes}
        value={look.theme?.name ?? page.themes[0]?.name ?? ""}
        onChange={(theme) => setLook({ ...look, theme })}
      />
      <select
        aria-label="Direction"
        value={look.direction ?? ""}
        onChange={(e) => setLook({ ...look, direction: e.target.value || undefined })}
      >
        <option value="">left to right</option>
        <option value="rtl">right to left</option>
      </select>
      <select
        aria-label="Text size"
        value={look.text ?? 100}
        onChange={(e) => setLook({ ...look, text: e.target.value === "100" ? undefined : Number(e.target.value) })}
      >
        {[100, 150, 200].map((n) => (
          <option key={n} value={n}>
            text {n} %
          </option>
        ))}
      </select>
      {page.drawn.length > 0 && (
        <label>
          <input type="checkbox" checked={beside} onChange={(e) => put("beside", e.target.checked ? "1" : "")} /> drawing beside
        </label>
      )}
      <label>
        <input type="checkbox" checked={acts} onChange={(e) => setActs(e.target.checked)} /> a press acts
      </label>
      {widths.error && <span className={classes.moved}>{widths.error.message}</span>}
    </div>
  );
}

function CodeFacet({ page }: { page: Schema["TrialPage"] }) {
  const files = useTrialFiles(page.slug, page.build);
  return (
    <div className={classes.facet}>
      <Query query={files} what="the code">
        {(list) => <FileList files={list} title={(name) => <h2>{name}</h2>} />}
      </Query>
    </div>
  );
}
