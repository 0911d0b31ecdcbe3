import { Autocomplete, Button, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";

import { api, type Schema, useEntries, useReleasePlan, useWrite } from "../../api/client";
import { Changes } from "../../ui/Changes";
import { Failure, Query } from "../../ui/States";
import { count } from "../../ui/count";
import { say } from "../../ui/say";
import classes from "./Bench.module.css";

/** Publishes the contract in the catalogue, with the version its changes ask for. */
export function ReleaseDialog({ bench, close }: { bench: Schema["Bench"]; close: () => void }) {
  const plan = useReleasePlan(bench.slug, bench.revision);
  const navigate = useNavigate();
  const shelves = [...new Set((useEntries().data ?? []).map((e) => e.shelf).filter(Boolean))];
  const [shelf, setShelf] = useState(bench.shelf);
  const [note, setNote] = useState("");
  const release = useWrite(
    () => api.release(bench.slug, { revision: bench.revision, shelf, note }),
    (done) => {
      say(`${bench.name} ${done.version}`, "Released into the catalogue.");
      close();
      void navigate(`/catalogue/${bench.slug}`);
    },
  );
  return (
    <Modal opened onClose={close} title={`Release ${bench.name}`} closeButtonProps={{ "aria-label": "Close" }}>
      <Query query={plan} what="what changed">
        {(p) => (
          <form
            className={classes.dialog}
            onSubmit={(e) => {
              e.preventDefault();
              release.mutate(undefined);
            }}
          >
            {p.level === "none" ? (
              <p>Nothing changed since {p.version}: there is nothing to release.</p>
            ) : (
              <>
                <div className={classes.version}>
                  {bench.version && <span className="quiet">{bench.version} →</span>} {p.version}
                  <span className="quiet">{p.first ? "first release" : p.level}</span>
                </div>
                {p.changes.length > 0 && <Changes list={p.changes} />}
                {p.replays > 0 && p.fails.length === 0 && <p>{count(p.replays, "scenario holds", "scenarios hold")}.</p>}
                {p.fails.length > 0 && (
                  <ul className={classes.fails} aria-label="What keeps it from being released">
                    {p.fails.map((f) => (
                      <li key={f}>{f}</li>
                    ))}
                    <li>Mend it in the behaviour, or set it aside with a reason among the checks.</li>
                  </ul>
                )}
                <Autocomplete label="Shelf" data-autofocus value={shelf} onChange={setShelf} data={shelves} required />
                <TextInput label="Note for its users" value={note} onChange={(e) => setNote(e.currentTarget.value)} />
              </>
            )}
            {release.error && <Failure error={release.error} />}
            <div className={classes.actions}>
              <Button onClick={close}>Cancel</Button>
              <Button
                type="submit"
                variant="filled"
                disabled={p.level === "none" || p.fails.length > 0 || shelf.trim() === ""}
                loading={release.isPending}
              >
                Release {p.version}
              </Button>
            </div>
          </form>
        )}
      </Query>
    </Modal>
  );
}
