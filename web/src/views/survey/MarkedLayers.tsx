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
  onClear,
}: {
  document: string;
  layers: string[];
  onRead: () => void;
  onClear: () => void;
}) {
  const navigate = useNavigate();
  const [name, setName] = useState("");
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
        aria-label="Name of the component"
        placeholder="Name the component"
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
      />
      <Button type="submit" size="compact-sm" variant="filled" loading={draft.isPending} disabled={name.trim() === ""}>
        Draft it
      </Button>
      <Button size="compact-sm" onClick={onClear}>
        Clear
      </Button>
      {draft.error && <Failure error={draft.error} />}
    </form>
  );
}
