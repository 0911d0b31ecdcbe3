import { Button, TextInput } from "@mantine/core";
import { useState } from "react";
import { useNavigate } from "react-router";

import { api, useWrite } from "../../api/client";
import { count } from "../../ui/count";
import { Failure } from "../../ui/States";
import classes from "./Survey.module.css";

/** What can be done with layers that are marked on the picture. */
export function MarkedLayers({
  document,
  layers,
  onRead,
  onFind,
  onClear,
}: {
  document: string;
  layers: string[];
  onRead: () => void;
  /** They are a find now. */
  onFind: () => void;
  onClear: () => void;
}) {
  const navigate = useNavigate();
  const [name, setName] = useState("");
  const find = useWrite(() => api.markAsOne(document, layers, true), onFind);
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
      <Button size="compact-sm" onClick={onClear}>
        Clear
      </Button>
      {(find.error ?? draft.error) && <Failure error={(find.error ?? draft.error)!} />}
    </form>
  );
}
