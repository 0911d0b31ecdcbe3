import { Button, Modal, Textarea } from "@mantine/core";
import { useDisclosure } from "@mantine/hooks";
import { useState } from "react";

import { api, libraryAddress, type Schema, useLibrary, useWrite } from "../../api/client";
import { useCommands } from "../../frame/commands";
import { Changes } from "../../ui/Changes";
import { count } from "../../ui/count";
import { Rich } from "../../ui/Rich";
import { say } from "../../ui/say";
import { Failure } from "../../ui/States";
import classes from "./Catalogue.module.css";

/** The library as a whole: its newest version, what the next would be, those to download. */
export function Library() {
  const library = useLibrary().data;
  const [opened, { open, close }] = useDisclosure(false);
  useCommands([{ label: "Library", what: "Release all components as one version, download it", run: open }]);
  if (!library) return null;
  return (
    <>
      <button type="button" className={classes.back} onClick={open}>
        {library.newest ? `Library ${library.newest}` : "Library, not released"}
        {library.newest && library.level !== "none" && library.blocked.length === 0 && `, ${library.version} could be`}
      </button>
      <Modal opened={opened} onClose={close} size="lg" title="The library as a whole" closeButtonProps={{ "aria-label": "Close" }}>
        <Next key={library.version} library={library} />
        {library.releases.length > 0 && (
          <section aria-label="Versions of the library" className={classes.libraryList}>
            <h3>Versions</h3>
            <ol className={classes.history}>
              {library.releases.map((r) => (
                <li key={r.version}>
                  <strong className="mono">{r.version}</strong>{" "}
                  <span className="quiet">
                    {new Date(r.released).toLocaleString()}, by {r.by}
                  </span>{" "}
                  <a href={libraryAddress(r.version, "tgz")} download>
                    npm package
                  </a>{" "}
                  <a href={libraryAddress(r.version, "zip")} download>
                    zip
                  </a>
                  <Rich blocks={r.told} />
                </li>
              ))}
            </ol>
          </section>
        )}
      </Modal>
    </>
  );
}

/** What the next version would be. */
function Next({ library: l }: { library: Schema["LibraryView"] }) {
  const [note, setNote] = useState(l.changes.map((c) => `- ${c.text}`).join("\n") || "First release.");
  const release = useWrite(
    () => api.releaseLibrary(l.version, note),
    (done) => say(`${l.name} ${done.newest}`, "Released: it can be downloaded."),
  );
  if (l.level === "none" && l.blocked.length === 0) return <p>All that is released is in {l.newest}.</p>;
  return (
    <form
      className={classes.next}
      onSubmit={(e) => {
        e.preventDefault();
        release.mutate(undefined);
      }}
    >
      <p>
        <code>
          {l.name} {l.version}
        </code>{" "}
        <span className="quiet">
          {l.newest ? `${l.level}, from ${l.newest}: ${count(l.changes.length, "change")}` : "the first version"}
        </span>
      </p>
      {l.changes.length > 0 && <Changes list={l.changes} />}
      {l.blocked.length > 0 && (
        <ul className={classes.blocked} aria-label="What keeps it from being released">
          {l.blocked.map((b) => (
            <li key={b}>{b}</li>
          ))}
        </ul>
      )}
      <Textarea label="Changelog for its users" rows={4} resize="vertical" value={note} onChange={(e) => setNote(e.currentTarget.value)} />
      {release.error && <Failure error={release.error} />}
      <Button type="submit" variant="filled" disabled={l.blocked.length > 0} loading={release.isPending}>
        Release the library as {l.version}
      </Button>
    </form>
  );
}
