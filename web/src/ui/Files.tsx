import { Button, CopyButton } from "@mantine/core";
import { IconDownload } from "@tabler/icons-react";
import type { ReactNode } from "react";
import { useSearchParams } from "react-router";

import { operations, type Schema, useFiles } from "../api/client";
import { isStatic } from "./static";
import { Code } from "./Code";
import classes from "./Files.module.css";
import { Query } from "./States";

/** A component's emitted files: to read, to copy, to take away. */
export function Files({ slug, title }: { slug: string; title: (name: string) => ReactNode }) {
  const files = useFiles(slug);
  return (
    <Query query={files} what="the code">
      {(list) => <FileList files={list} title={title} download={isStatic ? undefined : `${operations}/components/${slug}/files.zip`} />}
    </Query>
  );
}

/** Files, one at a time; all of them at an address, where there is one. */
export function FileList({ files, title, download }: { files: Schema["File"][]; title: (name: string) => ReactNode; download?: string }) {
  const [search, setSearch] = useSearchParams();
  const file = files.find((f) => f.path === search.get("file")) ?? files[0];
  if (!file) return null;
  const name = files[0]?.path.replace(/\.tsx$/, "") ?? "";
  return (
    <div className={classes.code}>
      <header className={classes.codeHead}>
        {title(name)}
        <span className="quiet">React, TypeScript, CSS modules</span>
        <span style={{ marginLeft: "auto", display: "flex", gap: 8 }}>
          <CopyButton value={file.content}>
            {({ copied, copy }) => <Button onClick={copy}>{copied ? "Copied" : `Copy ${file.path}`}</Button>}
          </CopyButton>
          {download && (
            <Button component="a" href={download} download variant="filled" leftSection={<IconDownload size={14} />}>
              Download all
            </Button>
          )}
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
