import { Button, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link } from "react-router";

import { useRests, useWrite } from "../../api/client";
import { Failure, Problems, Query } from "../../ui/States";
import classes from "./Sources.module.css";

interface RenameProps {
  name: string;
  /** What an empty name means, when it may be empty. */
  empty?: string;
  rename: (to: string) => Promise<unknown>;
  close: () => void;
}

export function RenameDialog({ name, empty, rename, close }: RenameProps) {
  const [to, setTo] = useState(name);
  const write = useWrite(() => rename(to), close);
  return (
    <Modal opened onClose={close} title={`Rename ${name}`} closeButtonProps={{ "aria-label": "Close" }}>
      <form
        className={classes.dialog}
        onSubmit={(e) => {
          e.preventDefault();
          write.mutate(undefined);
        }}
      >
        <TextInput label="Name" data-autofocus description={empty} value={to} onChange={(e) => setTo(e.currentTarget.value)} />
        {write.error && <Failure error={write.error} />}
        <div className={classes.actions}>
          <Button onClick={close}>Cancel</Button>
          <Button type="submit" variant="filled" disabled={to === name || (!empty && to.trim() === "")} loading={write.isPending}>
            Rename
          </Button>
        </div>
      </form>
    </Modal>
  );
}

interface RemoveProps {
  name: string;
  of: { document: string } | { file: string };
  remove: () => Promise<unknown>;
  close: () => void;
}

/** Says what hangs on a source before it is removed. */
export function RemoveDialog({ name, of, remove, close }: RemoveProps) {
  const rests = useRests(of);
  const write = useWrite(remove, close);
  return (
    <Modal opened onClose={close} title={`Remove ${name}`} closeButtonProps={{ "aria-label": "Close" }}>
      <Query query={rests} what="what hangs on it">
        {(r) => (
          <div className={classes.dialog}>
            {r.possible ? <p>What would come of it:</p> : <p>It cannot be removed: others need it.</p>}
            <ul>
              {r.says.map((s) => (
                <li key={s}>{s}</li>
              ))}
              {r.components.length > 0 && (
                <li>
                  Touched:{" "}
                  {r.components.map((c, i) => (
                    <span key={c.slug}>
                      {i > 0 && ", "}
                      <Link to={`/bench/${c.slug}`}>{c.name}</Link>
                    </span>
                  ))}
                  .
                </li>
              )}
            </ul>
            {r.problems.length > 0 && (
              <div className={classes.rests}>
                <Problems list={r.problems} />
              </div>
            )}
            {write.error && <Failure error={write.error} />}
            <div className={classes.actions}>
              <Button data-autofocus onClick={close}>
                Cancel
              </Button>
              <Button variant="filled" disabled={!r.possible} loading={write.isPending} onClick={() => write.mutate(undefined)}>
                Remove
              </Button>
            </div>
          </div>
        )}
      </Query>
    </Modal>
  );
}
