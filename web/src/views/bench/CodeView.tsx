import { Button, CopyButton } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import { Link, useParams, useSearchParams } from "react-router";

import { operations, type Schema, useBench, useFiles } from "../../api/client";
import { Code } from "../../ui/Code";
import { Query } from "../../ui/States";
import classes from "./Bench.module.css";

/** The emitted files: to read, to copy, to take away. */
export function CodeView() {
  const { slug = "" } = useParams();
  const files = useFiles(slug);
  return (
    <Query query={files} what="the code">
      {(list) => <Files slug={slug} files={list} />}
    </Query>
  );
}

function Files({ slug, files }: { slug: string; files: Schema["File"][] }) {
  const [search, setSearch] = useSearchParams();
  const primitive = useBench(slug).data?.status === "primitive";
  const file = files.find((f) => f.path === search.get("file")) ?? files[0];
  if (!file) return null;
  const name = files[0]?.path.replace(/\.tsx$/, "") ?? slug;
  return (
    <div className={classes.code}>
      <header className={classes.codeHead}>
        <h1>
          <Link to={`/${primitive ? "catalogue" : "bench"}/${slug}`}>{name}</Link> in code
        </h1>
        <span className="quiet">React, TypeScript, CSS modules</span>
        <span style={{ marginLeft: "auto", display: "flex", gap: 8 }}>
          <CopyButton value={file.content}>
            {({ copied, copy }) => <Button onClick={copy}>{copied ? "Copied" : `Copy ${file.path}`}</Button>}
          </CopyButton>
          <Button
            component="a"
            href={`${operations}/components/${slug}/files.zip`}
            download
            variant="filled"
            leftSection={<IconDownload size={14} />}
          >
            Download all
          </Button>
        </span>
      </header>
      <div className={classes.files} role="tablist" aria-label="Files">
        {files.map((f) => (
          <button
            key={f.path}
            type="button"
            role="tab"
            id={`tab-${f.path}`}
            aria-selected={f === file}
            aria-controls="file"
            tabIndex={f === file ? 0 : -1}
            className={classes.file}
            onClick={() => setSearch({ file: f.path }, { replace: true })}
            onKeyDown={(e) => {
              const by = e.key === "ArrowRight" ? 1 : e.key === "ArrowLeft" ? -1 : 0;
              const next = files[files.indexOf(f) + by];
              if (by === 0 || !next) return;
              setSearch({ file: next.path }, { replace: true });
              document.getElementById(`tab-${next.path}`)?.focus();
            }}
          >
            {f.path}
          </button>
        ))}
      </div>
      <div id="file" role="tabpanel" aria-labelledby={`tab-${file.path}`} style={{ display: "grid", minHeight: 0 }}>
        {file.content.startsWith("data:image/") ? (
          <img className={classes.pictureFile} src={file.content} alt={file.path} />
        ) : (
          <Code path={file.path} text={file.content} />
        )}
      </div>
    </div>
  );
}
