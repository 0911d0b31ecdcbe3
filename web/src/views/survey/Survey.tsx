import { Button, Select } from "@mantine/core";
import { useMemo, useState } from "react";
import { Link, useSearchParams } from "react-router";

import { type Schema, useSurveyPage, useSurveys } from "../../api/client";
import { useKeys } from "../../frame/keys";
import { count } from "../../ui/count";
import { Empty, Query } from "../../ui/States";
import { DoubtList } from "./DoubtList";
import { FamilyList } from "./FamilyList";
import { FindList } from "./FindList";
import { LayerList } from "./LayerList";
import { LooseDrawing } from "./LooseDrawing";
import { MarkedLayers } from "./MarkedLayers";
import { marksOf, type Shown, standing, tabs } from "./marked";
import { OpenFind } from "./OpenFind";
import { OrderList } from "./OrderList";
import { ReadingOn } from "./ReadingOn";
import { Stage } from "./Stage";
import classes from "./Survey.module.css";
import { Wall } from "./Wall";
import { WidthList } from "./WidthList";
import { Since } from "./Since";

/** What the design's pages and families hold. */
export function Survey() {
  const surveys = useSurveys();
  const [search, setSearch] = useSearchParams();
  return (
    <Query query={surveys} what="the design">
      {(list) => {
        const one = list.find((s) => s.document === search.get("document")) ?? list[0];
        if (!one)
          return (
            <Empty
              title="No design to survey"
              action={
                <Button component={Link} to="/sources" variant="filled">
                  To the sources
                </Button>
              }
            >
              Drop a design document to see what repeats in it, what is unclear and what to build first.
            </Empty>
          );
        return (
          <OneSurvey key={one.document} survey={one} others={list} onDocument={(document) => setSearch({ document }, { replace: true })} />
        );
      }}
    </Query>
  );
}

interface Props {
  survey: Schema["Survey"];
  others: Schema["Survey"][];
  onDocument: (document: string) => void;
}

function OneSurvey({ survey: s, others, onDocument }: Props) {
  const [search, setSearch] = useSearchParams();
  const put = (change: Record<string, string | string[] | undefined>) =>
    setSearch(
      (was) => {
        const next = new URLSearchParams(was);
        for (const [name, value] of Object.entries(change)) {
          next.delete(name);
          for (const v of typeof value === "string" ? [value] : (value ?? [])) next.append(name, v);
        }
        return next;
      },
      { replace: true },
    );
  const shown = (tabs.find((t) => t.key === search.get("show"))?.key ?? "finds") satisfies Shown;
  const at = Math.max(
    0,
    s.pages.findIndex((p) => p.id === search.get("page")),
  );
  const page = s.pages[at];
  const open = s.finds.find((f) => f.id === search.get("find"));
  const reading = search.getAll("layer");
  const unread = s.reading !== undefined && !s.reading.earlier;
  const [lit, setLit] = useState<string>();
  const [picked, setPicked] = useState<string>();
  const [marked, setMarked] = useState<string[]>([]);
  const [here, setHere] = useState(false);
  const turn = (by: number) => {
    const next = s.pages[(at + by + s.pages.length) % s.pages.length];
    if (next) put({ page: next.id, layer: undefined });
  };
  useKeys([
    ["PageDown", () => turn(1)],
    ["PageUp", () => turn(-1)],
  ]);
  const neighbours = useMemo(() => [s.pages[at + 1], s.pages[at - 1]].flatMap((p) => (p ? [p.id] : [])), [s.pages, at]);
  const drawn = useSurveyPage(s.document, page?.id ?? "", neighbours);
  const marks = useMemo(() => (page ? marksOf(s, shown, page.id, drawn.data?.layers ?? [], open) : []), [s, shown, page, drawn.data, open]);
  const chosen = open?.id ?? picked;
  const first = useMemo(() => marks.find((m) => m.group === chosen)?.box, [marks, chosen]);
  /** Picks something in a list, and turns to a page that it is on. */
  const pick = (group: string | undefined, pages: string[]) => {
    setPicked(group);
    if (group && page && pages.length > 0 && !pages.includes(page.id)) put({ page: pages[0] });
  };
  const mark = (layer: string) => setMarked((was) => (was.includes(layer) ? was.filter((l) => l !== layer) : [...was, layer]));
  const lists: Record<Shown, React.ReactNode> = {
    finds: (
      <FindList
        survey={s}
        page={page?.id}
        here={here}
        lit={lit}
        onLit={setLit}
        onOpen={(f) => put({ find: f.id, page: f.onPages.includes(page?.id ?? "") ? page?.id : (f.onPages[0] ?? page?.id) })}
      />
    ),
    families: <FamilyList survey={s} page={page?.id} here={here} lit={lit} picked={picked} onLit={setLit} onPick={pick} />,
    doubts: <DoubtList survey={s} page={page?.id} here={here} lit={lit} picked={picked} onLit={setLit} onPick={pick} />,
    widths: <WidthList survey={s} page={page?.id} lit={lit} picked={picked} onLit={setLit} onPick={pick} />,
    order: <OrderList survey={s} lit={lit} onLit={setLit} onPick={pick} />,
    layers: <LayerList layers={drawn.data?.layers ?? []} sections={s.sections} marked={marked} onMark={mark} />,
  };
  return (
    <div className={classes.survey}>
      <header className={classes.head}>
        <h1 className={others.length > 1 ? "hidden-but-read" : undefined}>{s.name}</h1>
        {others.length > 1 && (
          <Select
            size="xs"
            aria-label="Design"
            data={others.map((o) => ({ value: o.document, label: o.name }))}
            value={s.document}
            allowDeselect={false}
            onChange={(d) => d && onDocument(d)}
          />
        )}
        <span className="quiet">revision {s.revision}</span>
        {page && (
          <span className={classes.turner}>
            <button type="button" onClick={() => turn(-1)} aria-label="Page before" title="Page Up">
              ‹
            </button>
            <select aria-label="Page" value={page.id} onChange={(e) => put({ page: e.currentTarget.value, layer: undefined })}>
              {s.pages.map((p, i) => (
                <option key={p.id} value={p.id}>
                  {i + 1} of {s.pages.length}: {p.name}, {p.width} px
                </option>
              ))}
            </select>
            <button type="button" onClick={() => turn(1)} aria-label="Next page" title="Page Down">
              ›
            </button>
            <span className="quiet">{count(page.layers, "layer")}</span>
          </span>
        )}
        <nav className={classes.tabs} aria-label="What was found">
          {tabs.map((t) => (
            <button
              key={t.key}
              type="button"
              aria-current={t.key === shown ? "true" : undefined}
              onClick={() => {
                put({ show: t.key, find: undefined });
                setPicked(undefined);
              }}
            >
              {t.label} {unread ? "" : standing(s, t.key)}
            </button>
          ))}
        </nav>
      </header>
      <section className={classes.picture} aria-label="Pages">
        {!page ? (
          <p className={classes.nothing}>The document holds no pages.</p>
        ) : reading.length > 0 ? (
          <LooseDrawing
            key={reading.join()}
            document={s.document}
            layers={reading}
            item={page.loose.find((l) => reading.length === 1 && l.id === reading[0])}
            back={() => put({ layer: undefined })}
          />
        ) : shown === "order" ? (
          <Wall survey={s} lit={lit} onLit={setLit} />
        ) : (
          <>
            <Stage
              page={page}
              drawn={drawn.data}
              marks={marks}
              lit={lit}
              picked={chosen}
              marked={marked}
              onLit={setLit}
              onPick={(group) => (shown === "finds" ? put({ find: group }) : setPicked(group))}
              onMark={mark}
              show={first}
            />
            {marked.length > 0 && (
              <MarkedLayers
                document={s.document}
                layers={marked}
                find={open && open.kind !== "list" ? open : undefined}
                onRead={() => put({ layer: marked })}
                onFind={() => {
                  setMarked([]);
                  put({ show: "finds", find: undefined });
                }}
                onClear={() => setMarked([])}
              />
            )}
          </>
        )}
      </section>
      <section className={classes.lists} aria-label={tabs.find((t) => t.key === shown)?.label}>
        {open && shown === "finds" ? (
          <OpenFind key={open.id} survey={s} find={open} back={() => put({ find: undefined })} />
        ) : (
          <>
            {s.reading && <ReadingOn reading={s.reading} />}
            {!unread && shown !== "order" && shown !== "layers" && shown !== "widths" && (
              <label className={classes.here}>
                <input type="checkbox" checked={here} onChange={(e) => setHere(e.currentTarget.checked)} /> on this page alone
              </label>
            )}
            {s.since && (shown === "finds" || shown === "doubts") && <Since since={s.since} shown={shown} />}
            {(!unread || shown === "layers") && lists[shown]}
          </>
        )}
      </section>
    </div>
  );
}
