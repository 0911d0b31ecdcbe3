import { Button, FileButton } from "@mantine/core";
import { IconUpload } from "@tabler/icons-react";

import { api, type Schema, useSources, useWrite } from "../../api/client";
import { useDrop } from "../../frame/drop";
import { count } from "../../ui/count";
import { Empty, Failure, Problems, Query } from "../../ui/States";
import { say } from "../../ui/say";
import classes from "./Sources.module.css";

export function Sources() {
  const sources = useSources();
  const { drop, refused, forget, busy } = useDrop();
  const choose = (
    <FileButton onChange={(files) => void drop(files)} multiple inputProps={{ "aria-label": "Choose files" }}>
      {(props) => (
        <Button {...props} loading={busy} leftSection={<IconUpload size={14} />}>
          Choose files…
        </Button>
      )}
    </FileButton>
  );
  return (
    <div className={classes.view}>
      <header className={classes.head}>
        <h1>Sources</h1>
        <span className="quiet">Drop a design document, an SVG file or a token file anywhere.</span>
        <span className={classes.push}>{choose}</span>
      </header>
      {refused.map((r) => (
        <Failure key={r.file} error={r.error} retry={undefined}>
          <div>
            <Button onClick={forget}>Dismiss</Button>
          </div>
        </Failure>
      ))}
      <Query query={sources} what="the sources">
        {(s) =>
          s.documents.length + s.tokens.length === 0 ? (
            <Empty title="Nothing here yet" action={choose}>
              Cobrik begins with a design document (cobrik.design/1) and the token files it refers to.
            </Empty>
          ) : (
            <>
              {s.documents.map((d) => (
                <Document key={d.id} document={d} host={s.host} />
              ))}
              <Tokens files={s.tokens} />
            </>
          )
        }
      </Query>
    </div>
  );
}

function Document({ document: d, host }: { document: Schema["SourceDocument"]; host: Schema["HostState"] }) {
  const fetch = useWrite(api.fetch, (got) => {
    const mine = got.documents.find((one) => one.id === d.id);
    say(
      d.name,
      mine?.added
        ? `Revision ${mine.revision} came from the design host.`
        : `Revision ${mine?.revision ?? ""} is still the newest on the design host.`,
    );
  });
  const publish = useWrite(
    () => api.publishNext(d.id),
    () => say(d.name, "The design host has published its next revision. Fetch it to see what moved."),
  );
  const newest = d.revisions.length;
  return (
    <section className={classes.document} aria-label={d.name}>
      <header className={classes.docHead}>
        <h2>{d.name}</h2>
        <span className="quiet">
          {count(d.families, "family", "families")}, {count(d.pages, "page")}, {count(d.layers, "layer")}
          {d.fromHost ? " · from the design host" : " · dropped in"}
        </span>
        {d.fromHost && host.known && (
          <span className={classes.push}>
            <Button
              loading={publish.isPending}
              onClick={() => publish.mutate(undefined)}
              title="The design host is simulated: this makes its next prepared revision public"
            >
              Publish next revision
            </Button>
            <Button variant="filled" loading={fetch.isPending} onClick={() => fetch.mutate(undefined)}>
              Fetch
            </Button>
          </span>
        )}
      </header>
      {(fetch.error ?? publish.error) && <Failure error={(fetch.error ?? publish.error)!} />}
      {d.fromHost && host.failure && !fetch.error && (
        <p className={classes.down} role="status">
          The design host did not answer the last time: {host.failure}. All that was fetched before is here.
        </p>
      )}
      <ol className={classes.time}>
        {d.revisions.map((r) => (
          <li key={r.number} className={r.number === newest ? classes.newest : undefined}>
            <span className={classes.number}>Revision {r.number}</span>
            <span>{r.note || "No note"}</span>
            <span className="quiet">
              {r.author && `${r.author}, `}
              {new Date(r.created).toLocaleString()} · {(r.bytes / 1024).toFixed(0)} KB
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Tokens({ files }: { files: Schema["SourceTokens"][] }) {
  if (files.length === 0) return null;
  return (
    <section className={classes.document} aria-label="Token files">
      <header className={classes.docHead}>
        <h2>Token files</h2>
        <span className="quiet">
          read in this order, or in that of the resolver document; a later file replaces tokens of an earlier one
        </span>
      </header>
      <table className="grid">
        <thead>
          <tr>
            <th>File</th>
            <th>Tokens</th>
            <th>State</th>
            <th>Taken</th>
          </tr>
        </thead>
        <tbody>
          {files.map((f) => (
            <tr key={f.name}>
              <td className="mono">
                {f.name}
                {f.problems.length > 0 && (
                  <details className={classes.problems}>
                    <summary>
                      {f.problems.length} {f.problems.length === 1 ? "thing" : "things"} to look at
                    </summary>
                    <Problems list={f.problems} />
                  </details>
                )}
              </td>
              <td>{f.kind === "tokens" ? f.tokens : <span className="quiet">{f.kind === "resolver" ? "themes" : "outputs"}</span>}</td>
              <td>{f.revision}</td>
              <td className="quiet">{new Date(f.updated).toLocaleString()}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
