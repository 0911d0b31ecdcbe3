import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { api, type Schema, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Failure } from "../../ui/States";
import classes from "./Survey.module.css";

/** What can be done with layers that are marked on the picture. */
export function MarkedLayers({
  document,
  layers,
  find: open,
  onRead,
  onFind,
  onClear,
}: {
  document: string;
  layers: string[];
  /** The find that is open: they may be a copy of it. */
  find: Schema["SurveyFind"] | undefined;
  onRead: () => void;
  /** They are a find now. */
  onFind: () => void;
  onClear: () => void;
}) {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const find = useWrite(() => api.markAsOne(document, layers, true), onFind);
  const copy = useWrite((of: string) => api.addCopy(document, of, layers), onClear);
  const draft = useWrite(
    () => api.draft({ document, layers, name: name.trim() }),
    (made) => void navigate(`/bench/${made.slug}?facet=layout`),
  );
  return (
    <form
      className={classes.marked}
      onSubmit={(e) => {
        e.preventDefault();
        draft.mutate(undefined);
      }}
    >
      <strong>{count(layers.length, "layer")} marked</strong>
      <Button size="compact-sm" onClick={onRead}>
        See {layers.length === 1 ? "its" : "their"} containers
      </Button>
      <TextInput
        size="xs"
        aria-label="Name of what is marked"
        placeholder="Name the component"
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <Button type="submit" size="compact-sm" variant="filled" loading={draft.isPending} disabled={name.trim() === ""}>
        Draft it
      </Button>
      <Button size="compact-sm" loading={find.isPending} onClick={() => find.mutate(undefined)}>
        Make it a find
      </Button>
      <Button size="compact-sm" component={Link} to={`/catalogue?like=${encodeURIComponent(`${document}:${layers.join(",")}`)}`}>
        What it is like
      </Button>
      {open && (
        <Button size="compact-sm" loading={copy.isPending} onClick={() => copy.mutate(open.id)}>
          A copy of {open.name}
        </Button>
      )}
      <Button size="compact-sm" onClick={onClear}>
        Clear
      </Button>
      {(find.error ?? copy.error ?? draft.error) && <Failure error={(find.error ?? copy.error ?? draft.error)!} />}
    </form>
  );
}
