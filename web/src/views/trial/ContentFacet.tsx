import { Button } from "@mantine/core";
import { useMemo, useRef, useState } from "react";

import { api, type Schema, useContent, useRecords, useWrite } from "../../api/client";
import over from "../../frame/DropAnywhere.module.css";
import { useFilesOver } from "../../frame/drop";
import { buildAddress } from "../../lanes/address";
import { count } from "../../ui/count";
import { say } from "../../ui/say";
import { Failure, Problems, Query } from "../../ui/States";
import { Frames } from "./Frames";
import classes from "./Trial.module.css";

interface Props {
  page: Schema["TrialPage"];
  preview: string;
  onRow: (at: number) => void;
}

/** What a page is filled with: files of records, what is in their fields, and what goes wrong with them here. */
export function ContentFacet({ page, preview, onRow }: Props) {
  const content = useContent();
  const put = useWrite(
    (file: File) => api.putContent(file),
    (_, file) => say("Kept", file.name),
  );
  const isOver = useFilesOver((files) => files.forEach((f) => put.mutate(f)));
  const input = useRef<HTMLInputElement>(null);
  const [open, setOpen] = useState<string>();
  const [record, setRecord] = useState<{ source: string; at: number }>();
  return (
    <div className={classes.content}>
      {isOver && <div className={over.over}>Drop records: CSV or JSON, or a schema named *.schema.json</div>}
      <Query query={content} what="the content">
        {(data) => {
          const shown = data.sources.find((s) => s.name === (open ?? page.sources[0])) ?? data.sources[0];
          return (
            <>
              <section className={classes.sources} aria-label="Sources of records">
                <header>
                  <h2>Sources</h2>
                  <Button onClick={() => input.current?.click()}>Add records</Button>
                  <input
                    ref={input}
                    type="file"
                    hidden
                    multiple
                    accept=".csv,.json"
                    aria-label="Files of records"
                    onChange={(e) => {
                      for (const f of e.currentTarget.files ?? []) put.mutate(f);
                      e.currentTarget.value = "";
                    }}
                  />
                </header>
                {put.error && <Failure error={put.error} />}
                {data.sources.length === 0 && <p className="quiet">No records yet. Add a CSV or JSON file, or drop one here.</p>}
                <ul>
                  {data.sources.map((s) => (
                    <li key={s.name}>
                      <button type="button" aria-pressed={s === shown} onClick={() => (setOpen(s.name), setRecord(undefined))}>
                        <span className="mono">{s.name}</span>
                        <span className="quiet">
                          {count(s.records, "record")}
                          {s.host && " · from the content host"}
                          {s.schema && " · held to a schema"}
                          {page.sources.includes(s.name) && " · shown here"}
                        </span>
                        {s.problems.length > 0 && <span className={classes.moved}>{count(s.problems.length, "problem")}</span>}
                      </button>
                    </li>
                  ))}
                </ul>
                <Host data={data} />
              </section>
              <section className={classes.source} aria-label="The source">
                {shown ? (
                  <Source
                    key={shown.name}
                    source={shown}
                    record={record?.source === shown.name ? record.at : undefined}
                    onRecord={(at) => setRecord({ source: shown.name, at })}
                  />
                ) : (
                  <p className="quiet">What is in a source stands here.</p>
                )}
              </section>
              {record && (
                <section className={classes.warnings} aria-label="The record on the page">
                  <h2>
                    Record {record.at + 1} of <span className="mono">{record.source}</span>
                  </h2>
                  <OnPage
                    page={page}
                    preview={preview}
                    pieces={page.pieces.filter((p) => p.source === record.source && p.record === record.at)}
                    none={`${page.name} does not show it.`}
                  />
                  <p>
                    <Button variant="default" onClick={() => setRecord(undefined)}>
                      What goes wrong
                    </Button>
                  </p>
                </section>
              )}
              <section className={classes.warnings} aria-label="What goes wrong" hidden={record !== undefined}>
                <h2>What goes wrong on {page.name}</h2>
                {page.warnings.length === 0 ? (
                  <p className="quiet">
                    {page.sources.length === 0
                      ? "The page shows no records. In its outline: each plot of plots.csv."
                      : "Nothing: every record fits."}
                  </p>
                ) : (
                  <Warnings page={page} preview={preview} onRow={onRow} />
                )}
              </section>
            </>
          );
        }}
      </Query>
    </div>
  );
}

function Host({ data }: { data: Schema["ContentView"] }) {
  const fetch = useWrite(
    (name: string) => api.fetchContent(name),
    (_, name) => say("Fetched", `${name}.json`),
  );
  if (!data.host) return null;
  return (
    <div className={classes.host}>
      <h3>Content host</h3>
      <p className="quiet mono">{data.host}</p>
      {data.trouble && (
        <p className={classes.moved} role="alert">
          {data.trouble}. What was read before stays.
        </p>
      )}
      <ul>
        {data.offers.map((o) => (
          <li key={o.name}>
            <span className="mono">{o.name}</span> <span className="quiet">{count(o.records, "record")}</span>
            <Button loading={fetch.isPending && fetch.variables === o.name} onClick={() => fetch.mutate(o.name)}>
              {o.taken ? "Fetch again" : "Fetch"}
            </Button>
          </li>
        ))}
      </ul>
      {fetch.error && <Failure error={fetch.error} />}
    </div>
  );
}

function Source({
  source,
  record,
  onRecord,
}: {
  source: Schema["ContentSource"];
  record: number | undefined;
  onRecord: (at: number) => void;
}) {
  const [from, setFrom] = useState(0);
  const remove = useWrite((name: string) => api.removeContent(name));
  const records = useRecords(source.name, from);
  return (
    <>
      <header>
        <h2 className="mono">{source.name}</h2>
        <span className="quiet">{source.pages.length > 0 ? `shown on ${source.pages.join(", ")}` : "shown on no page"}</span>
        <Button variant="default" onClick={() => remove.mutate(source.name)}>
          Remove
        </Button>
      </header>
      {remove.error && <Failure error={remove.error} />}
      {source.problems.length > 0 && <Problems list={source.problems} />}
      <div className={classes.scrolls} tabIndex={0} role="region" aria-label="Fields">
        <table>
          <thead>
            <tr>
              <th scope="col">Field</th>
              <th scope="col">Holds</th>
              <th scope="col">Missing in</th>
              <th scope="col">Sample</th>
              <th scope="col">Longest</th>
            </tr>
          </thead>
          <tbody>
            {source.fields.map((f) => (
              <tr key={f.path}>
                <th scope="row" className="mono">
                  {f.path}
                </th>
                <td>{f.kind}</td>
                <td className={f.missing > 0 ? classes.moved : "quiet"}>{f.missing > 0 ? count(f.missing, "record") : "none"}</td>
                <td className={classes.clip}>{f.sample}</td>
                <td className={classes.clip} title={f.longest}>
                  {f.letters} letters, record {f.record + 1}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className={classes.scrolls} tabIndex={0} role="region" aria-label="Records">
        <Query query={records} what="the records">
          {(data) => (
            <table>
              <thead>
                <tr>
                  <th scope="col">Record</th>
                  {source.fields.map((f) => (
                    <th key={f.path} scope="col" className="mono">
                      {f.path}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {data.records.map((r, i) => (
                  <tr key={i} data-chosen={record === data.from + i || undefined}>
                    <th scope="row">
                      <button type="button" aria-label={`Record ${data.from + i + 1} on the page`} onClick={() => onRecord(data.from + i)}>
                        {data.from + i + 1}
                      </button>
                    </th>
                    {source.fields.map((f) => (
                      <td key={f.path} className={classes.clip}>
                        {said(r[f.path])}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </Query>
      </div>
      {source.records > 50 && (
        <p className={classes.pager}>
          <Button disabled={from === 0} onClick={() => setFrom(Math.max(0, from - 50))}>
            Before
          </Button>
          <span className="quiet">
            {from + 1} to {Math.min(source.records, from + 50)} of {source.records}
          </span>
          <Button disabled={from + 50 >= source.records} onClick={() => setFrom(from + 50)}>
            After
          </Button>
        </p>
      )}
    </>
  );
}

function said(value: unknown): string {
  if (value === undefined || value === null) return "";
  return typeof value === "object" ? JSON.stringify(value) : String(value as string | number | boolean);
}

/** Each thing that goes wrong with the records it does so in, and the page as it then looks. */
function Warnings({ page, preview, onRow }: Props) {
  const [open, setOpen] = useState(0);
  const at = Math.min(open, page.warnings.length - 1);
  const warning = page.warnings[at]!;
  const pieces = useMemo(() => piecesOf(page, warning), [page, warning]);
  return (
    <>
      <ul>
        {page.warnings.map((w, i) => (
          <li key={i}>
            <button type="button" aria-pressed={i === at} data-severe={w.severe || undefined} onClick={() => setOpen(i)}>
              <span>
                {w.component && <strong>{w.component}: </strong>}
                {w.message}
              </span>
              <span className="quiet">
                row {w.line} · {w.source} ·{" "}
                {w.records.length > 0
                  ? `records ${w.records
                      .slice(0, 8)
                      .map((r) => r + 1)
                      .join(", ")}${w.records.length > 8 ? " …" : ""}`
                  : ""}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <p>
        <Button variant="default" onClick={() => onRow(warning.line - 1)}>
          To row {warning.line}
        </Button>
      </p>
      <OnPage page={page} preview={preview} pieces={pieces} none="Nothing of it is shown." />
    </>
  );
}

/** The page, narrow, with some of its pieces marked and in sight. */
function OnPage({
  page,
  preview,
  pieces,
  none,
}: {
  page: Schema["TrialPage"];
  preview: string;
  pieces: Schema["TrialPage"]["pieces"];
  none: string;
}) {
  const width = page.widths.at(-1) ?? 390;
  if (pieces.length === 0) return <p className="quiet">{none}</p>;
  return (
    <div className={classes.looks}>
      <Frames
        name={page.name}
        src={buildAddress(preview, `page~${page.slug}`, page.build)}
        props={page.props}
        pieces={pieces}
        widths={[width]}
        drawn={[]}
        look={{}}
        marked="each"
        acts={false}
        reveal={pieces.length < page.pieces.length ? pieces[0]?.key : undefined}
        note={() => <span className="quiet">as it then looks</span>}
        onMeasured={() => undefined}
        onPoint={() => undefined}
        onFailed={() => undefined}
      />
    </div>
  );
}

/** The pieces of the records a warning is of; all pieces where it is of none of them. */
function piecesOf(page: Schema["TrialPage"], w: Schema["Warning"]) {
  const mine = page.pieces.filter((p) => p.line === w.line && w.records.includes(p.record));
  return mine.length > 0 ? mine : page.pieces;
}
