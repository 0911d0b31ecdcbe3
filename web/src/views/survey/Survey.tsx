import { Button } from "@mantine/core";
import { useElementSize } from "@mantine/hooks";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";

import { ApiError, api, type Schema, useSurveys, useWrite } from "../../api/client";
import { placed } from "../../marks/geometry";
import { Sheet, Ticks } from "../../marks/Marks";
import { count } from "../../ui/count";
import { Picture } from "../../ui/Picture";
import { Empty, Failure, Query } from "../../ui/States";
import { LooseDrawing } from "./LooseDrawing";
import classes from "./Survey.module.css";

/** What the design's pages and families hold. */
export function Survey() {
  const surveys = useSurveys();
  return (
    <Query query={surveys} what="the design">
      {(list) =>
        list.length === 0 ? (
          <Empty
            title="No design to survey"
            action={
              <Button component={Link} to="/sources" variant="filled">
                To the sources
              </Button>
            }
          >
            Drop a design document to see its pages and families here.
          </Empty>
        ) : (
          <>
            {list.map((s) => (
              <OneSurvey key={s.document} survey={s} />
            ))}
          </>
        )
      }
    </Query>
  );
}

function OneSurvey({ survey: s }: { survey: Schema["Survey"] }) {
  const [search, setSearch] = useSearchParams();
  const page = s.pages.find((p) => p.id === search.get("page")) ?? s.pages[0];
  const loose = page?.loose.find((l) => l.id === search.get("layer"));
  return (
    <div className={classes.survey}>
      <section className={classes.families} aria-label="Families">
        <header className={classes.head}>
          <h1>{s.name}</h1>
          <span className="quiet">
            revision {s.revision} · {count(s.families.length, "family", "families")}
          </span>
        </header>
        {s.families.map((f) => (
          <Family key={f.id} document={s.document} family={f} />
        ))}
        {s.families.length === 0 && <p className="quiet">The document holds no families: every drawing in it stands alone.</p>}
      </section>
      <section className={classes.pages} aria-label="Pages">
        <header className={classes.head}>
          <h2>Pages</h2>
          <span className={classes.tabs}>
            {s.pages.map((p) => (
              <button
                key={p.id}
                type="button"
                className={classes.tab}
                aria-pressed={p === page}
                onClick={() => setSearch({ page: p.id }, { replace: true })}
              >
                {p.name}
              </button>
            ))}
          </span>
        </header>
        {page && loose ? (
          <LooseDrawing key={loose.id} document={s.document} item={loose} back={() => setSearch({ page: page.id }, { replace: true })} />
        ) : page ? (
          <Page page={page} onLoose={(layer) => setSearch({ page: page.id, layer })} />
        ) : (
          <p className="quiet">The document holds no pages.</p>
        )}
      </section>
    </div>
  );
}

function Page({ page, onLoose }: { page: Schema["SurveyPage"]; onLoose: (layer: string) => void }) {
  const { ref, width: room } = useElementSize();
  const scale = Math.min(1, (room || 620) / page.width);
  const [pointed, setPointed] = useState<number>();
  // What lies under others comes first.
  const areas: { name: string; box: Schema["Rect"]; open?: () => void; unnamed?: boolean }[] = [
    ...page.loose.map((l) => ({ name: `${l.name}: see its containers`, box: l.box, open: () => onLoose(l.id) })),
    ...page.uses.map((u) => ({ name: u.family, box: u.box })),
    ...page.unnamed.map((u) => ({ name: `unnamed: ${u.name}`, box: u.box, unnamed: true })),
  ];
  return (
    <>
      <p className={classes.about}>
        {page.width} × {page.height} px · {count(page.layers, "layer")} · {count(page.uses.length, "use")} of families ·{" "}
        {count(page.unnamed.length, "layer")} nobody has named
      </p>
      {page.loose.length > 0 && (
        <p className={classes.about}>
          Drawn without flow; open one to see its containers:{" "}
          {page.loose.map((l) => (
            <button
              key={l.id}
              type="button"
              className={classes.tab}
              onClick={() => onLoose(l.id)}
              title={`${count(l.layers, "layer")}, ${l.box.width} × ${l.box.height} px`}
            >
              {l.name}
              {l.component && <span className={classes.taken}> on the bench</span>}
            </button>
          ))}
        </p>
      )}
      <div ref={ref} className={classes.page} tabIndex={0} role="region" aria-label={`Page ${page.name}`}>
        <div className={classes.paper}>
          <Picture svg={page.picture} label={`Page ${page.name}, as drawn`} width={page.width} height={page.height} scale={scale} />
          {areas.map((a, i) => {
            const { x, y, width, height } = placed(a.box, { scale, x: 0, y: 0 });
            return (
              <div
                key={i}
                className={a.open ? `${classes.area} ${classes.looseArea}` : classes.area}
                title={a.name}
                style={{ left: x, top: y, width, height }}
                onPointerEnter={() => setPointed(i)}
                onPointerLeave={() => setPointed(undefined)}
                onClick={a.open}
              />
            );
          })}
          <Sheet width={page.width * scale} height={page.height * scale}>
            {areas.map(
              (a, i) =>
                (!a.open || i === pointed) && (
                  <Ticks key={i} box={placed(a.box, { scale, x: 0, y: 0 })} chosen={i === pointed} dashed={a.unnamed} />
                ),
            )}
          </Sheet>
        </div>
      </div>
    </>
  );
}

function Family({ document, family: f }: { document: string; family: Schema["SurveyFamily"] }) {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const draft = useWrite(
    () => api.draft({ document, family: f.id }),
    (made) => void navigate(`/bench/${made.slug}`),
  );
  const most = 12;
  const shown = open ? f.variants : f.variants.slice(0, most);
  const scale = Math.min(1, 150 / Math.max(1, ...f.variants.map((v) => v.width)));
  const taken = draft.error instanceof ApiError && draft.error.trouble.status === 409;
  return (
    <article className={classes.family} aria-label={f.name}>
      <header className={classes.familyHead}>
        <div>
          <h2>{f.name}</h2>
          <span className="quiet">
            {f.description} {f.uses} {f.uses === 1 ? "use" : "uses"} on the pages.
          </span>
        </div>
        {f.component ? (
          <Button component={Link} to={`/bench/${f.component}`}>
            On the bench
          </Button>
        ) : (
          <Button variant="filled" loading={draft.isPending} onClick={() => draft.mutate(undefined)}>
            Draft a contract
          </Button>
        )}
      </header>
      {draft.error && !taken && <Failure error={draft.error} />}
      <dl className={classes.axes}>
        {f.axes.map((a) => (
          <div key={a.name}>
            <dt>{a.name}</dt>
            <dd>
              {a.values.map((v) => (
                <code
                  key={v}
                  className={v === a.default ? classes.byDefault : undefined}
                  title={v === a.default ? "the default" : undefined}
                >
                  {v}
                </code>
              ))}
            </dd>
          </div>
        ))}
      </dl>
      <ul className={classes.variants}>
        {shown.map((v) => (
          <li key={v.id}>
            <Picture svg={v.picture} label={`${f.name}, ${v.choices.join(", ")}`} width={v.width} height={v.height} scale={scale} />
            <span className={classes.choices}>{v.choices.join(" · ")}</span>
          </li>
        ))}
      </ul>
      {f.variants.length > most && (
        <button type="button" className={classes.more} onClick={() => setOpen(!open)} aria-expanded={open}>
          {open ? "Fewer" : `All ${f.variants.length} variants`}
        </button>
      )}
    </article>
  );
}
