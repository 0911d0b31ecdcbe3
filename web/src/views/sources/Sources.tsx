import { ActionIcon, Button, FileButton, Menu } from "@mantine/core";
import { IconDots, IconUpload } from "@tabler/icons-react";
import { type ReactNode, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";

import { api, operations, type Schema, useSources, useWrite } from "../../api/client";
import { useCommands } from "../../frame/commands";
import { useDrop } from "../../frame/drop";
import { count } from "../../ui/count";
import { Empty, Failure, Problems, Query } from "../../ui/States";
import { say } from "../../ui/say";
import { CodeTarget } from "./CodeTarget";
import { RemoveDialog, RenameDialog } from "./SourceDialogs";
import { Watched } from "./Watched";
import classes from "./Sources.module.css";

type Drop = ReturnType<typeof useDrop>["drop"];

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
  const navigate = useNavigate();
  useCommands([{ label: "Compare revisions of the tokens", what: "Of the sources", run: () => void navigate("/sources/compare") }]);
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
          s.documents.length + s.tokens.length + s.removed.length === 0 ? (
            <Empty title="Nothing here yet" action={choose}>
              Cobrik begins with a design document (cobrik.design/1) and the token files it refers to.
            </Empty>
          ) : (
            <>
              {s.documents.map((d) => (
                <Document key={d.id} document={d} host={s.host} drop={drop} />
              ))}
              <Removed list={s.removed} />
              <Tokens files={s.tokens} revision={s.revision} drop={drop} />
              <CodeTarget />
            </>
          )
        }
      </Query>
    </div>
  );
}

function Document({ document: d, host, drop }: { document: Schema["SourceDocument"]; host: Schema["HostState"]; drop: Drop }) {
  const [doing, setDoing] = useState<"rename" | "remove">();
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
    () => say(d.name, "The design host has published its next revision. Fetch it, unless it gives notice."),
  );
  const newest = d.revisions.length;
  const navigate = useNavigate();
  const what = `Of ${d.name}`;
  useCommands([
    { label: "Rename", what, run: () => setDoing("rename") },
    { label: "Remove", what, run: () => setDoing("remove") },
    ...(newest > 1
      ? [{ label: "Compare revisions", what, run: () => void navigate(`/sources/compare?document=${encodeURIComponent(d.id)}`) }]
      : []),
  ]);
  return (
    <section className={classes.document} aria-label={d.name}>
      <header className={classes.docHead}>
        <h2>{d.name}</h2>
        <span className="quiet">
          {count(d.families, "family", "families")}, {count(d.pages, "page")}, {count(d.layers, "layer")}
          {d.fromHost ? " · from the design host" : " · dropped in"}
        </span>
        <span className={classes.push}>
          {d.fromHost && host.known && (
            <>
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
            </>
          )}
          <More
            name={d.name}
            rename={() => setDoing("rename")}
            replace={d.fromHost ? undefined : (file) => void drop([file], (f) => api.replaceDocument(d.id, f))}
            download={revisionAddress(d.id, newest)}
            remove={() => setDoing("remove")}
          >
            {newest > 1 && (
              <Menu.Item component={Link} to={`/sources/compare?document=${encodeURIComponent(d.id)}`}>
                Compare revisions
              </Menu.Item>
            )}
          </More>
        </span>
      </header>
      {(fetch.error ?? publish.error) && <Failure error={(fetch.error ?? publish.error)!} />}
      {d.fromHost && host.failure && !fetch.error && (
        <p className={classes.down} role="status">
          The design host did not answer the last time: {host.failure}. All that was fetched before is here.
        </p>
      )}
      {d.fromHost && host.known && <Watched subject="design" who="The design host" />}
      <ol className={classes.time}>
        {d.revisions.map((r) => (
          <li key={r.number} className={r.number === newest ? classes.newest : undefined}>
            <span className={classes.number}>Revision {r.number}</span>
            <span>{r.note || "No note"}</span>
            <span className="quiet">
              {r.author && `${r.author}, `}
              {new Date(r.created).toLocaleString()} · {(r.bytes / 1024).toFixed(0)} KB
            </span>
            <span className={classes.links}>
              <a href={revisionAddress(d.id, r.number)} download>
                Download
              </a>
              {r.number > 1 && (
                <Link to={`/sources/compare?document=${encodeURIComponent(d.id)}&before=${r.number - 1}&after=${r.number}`}>
                  Compare with {r.number - 1}
                </Link>
              )}
            </span>
          </li>
        ))}
      </ol>
      {doing === "rename" && (
        <RenameDialog
          name={d.name}
          empty="Without one it is called as the design calls itself."
          rename={(to) => api.callDocument(d.id, to)}
          close={() => setDoing(undefined)}
        />
      )}
      {doing === "remove" && (
        <RemoveDialog name={d.name} of={{ document: d.id }} remove={() => api.removeDocument(d.id)} close={() => setDoing(undefined)} />
      )}
    </section>
  );
}

const revisionAddress = (id: string, number: number) => `${operations}/sources/${encodeURIComponent(id)}/revisions/${number}`;

interface MoreProps {
  name: string;
  rename?: () => void;
  replace?: (file: File) => void;
  download: string;
  remove: () => void;
  children?: ReactNode;
}

/** What else can be done with a source. */
function More({ name, rename, replace, download, remove, children }: MoreProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      {replace && (
        <input
          ref={input}
          type="file"
          hidden
          aria-label={`A file in place of ${name}`}
          onChange={(e) => {
            const file = e.currentTarget.files?.[0];
            e.currentTarget.value = "";
            if (file) replace(file);
          }}
        />
      )}
      <Menu position="bottom-end">
        <Menu.Target>
          <ActionIcon variant="subtle" color="gray" c="inherit" size={28} aria-label={`More for ${name}`}>
            <IconDots size={16} />
          </ActionIcon>
        </Menu.Target>
        <Menu.Dropdown>
          {rename && <Menu.Item onClick={rename}>Rename…</Menu.Item>}
          {replace && <Menu.Item onClick={() => input.current?.click()}>Replace with a file…</Menu.Item>}
          <Menu.Item component="a" href={download} download>
            Download
          </Menu.Item>
          {children}
          <Menu.Item onClick={remove}>Remove…</Menu.Item>
        </Menu.Dropdown>
      </Menu>
    </>
  );
}

function Removed({ list }: { list: Schema["RemovedSource"][] }) {
  const restore = useWrite((id: string) => api.restoreDocument(id));
  if (list.length === 0) return null;
  return (
    <section className={classes.document} aria-label="Removed">
      <header className={classes.docHead}>
        <h2>Removed</h2>
        <span className="quiet">with all their revisions; a design that is dropped in again comes back, too</span>
      </header>
      <ul className={classes.removed}>
        {list.map((d) => (
          <li key={d.id}>
            <span>{d.name}</span>
            <span className="quiet">{new Date(d.removed).toLocaleString()}</span>
            <Button loading={restore.isPending} onClick={() => restore.mutate(d.id)}>
              Put back
            </Button>
          </li>
        ))}
      </ul>
      {restore.error && <Failure error={restore.error} />}
    </section>
  );
}

function Tokens({ files, revision, drop }: { files: Schema["SourceTokens"][]; revision: number; drop: Drop }) {
  const [doing, setDoing] = useState<{ what: "rename" | "remove"; name: string }>();
  const done = () => setDoing(undefined);
  if (files.length === 0) return null;
  return (
    <section className={classes.document} aria-label="Token files">
      <header className={classes.docHead}>
        <h2>Token files</h2>
        <span className="quiet">
          read in this order, or in that of the resolver document; a later file replaces tokens of an earlier one
        </span>
        {revision > 1 && (
          <span className={classes.push}>
            <Button component={Link} to="/sources/compare">
              Compare revisions
            </Button>
          </span>
        )}
      </header>
      <table className="grid">
        <thead>
          <tr>
            <th>File</th>
            <th>Tokens</th>
            <th>Revision</th>
            <th>Taken</th>
            <th>
              <span className="hidden-but-read">More</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {files.map((f) => (
            <tr key={f.name}>
              <td className="mono">
                {f.name}
                {f.problems.length > 0 && (
                  <details className={classes.problems}>
                    <summary>{count(f.problems.length, "thing")} to look at</summary>
                    <Problems list={f.problems} />
                  </details>
                )}
              </td>
              <td>{f.kind === "tokens" ? f.tokens : <span className="quiet">{f.kind === "resolver" ? "themes" : "outputs"}</span>}</td>
              <td>{f.revision}</td>
              <td className="quiet">{new Date(f.updated).toLocaleString()}</td>
              <td className={classes.more}>
                <More
                  name={f.name}
                  rename={f.kind === "project" ? undefined : () => setDoing({ what: "rename", name: f.name })}
                  replace={(file) => void drop([new File([file], f.name)])}
                  download={`${operations}/tokens/files/text?name=${encodeURIComponent(f.name)}`}
                  remove={() => setDoing({ what: "remove", name: f.name })}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {doing?.what === "rename" && (
        <RenameDialog name={doing.name} rename={(to) => api.renameTokenFile(revision, doing.name, to)} close={done} />
      )}
      {doing?.what === "remove" && (
        <RemoveDialog name={doing.name} of={{ file: doing.name }} remove={() => api.removeTokenFile(revision, doing.name)} close={done} />
      )}
    </section>
  );
}
