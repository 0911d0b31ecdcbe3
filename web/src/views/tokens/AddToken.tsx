import { Button, Modal, Select, TextInput } from "@mantine/core";
import { useState } from "react";

import { api, type Schema, useWrite } from "../../api/client";
import { Failure } from "../../ui/States";
import classes from "./TokenPanel.module.css";
import { ValueInput } from "./ValueInput";

const types = [
  "color",
  "dimension",
  "fontFamily",
  "fontWeight",
  "duration",
  "cubicBezier",
  "number",
  "strokeStyle",
  "border",
  "transition",
  "shadow",
  "gradient",
  "typography",
];

const hints: Record<string, string> = {
  color: "#4a7c59, oklch(0.55 0.08 155), {soil.900}",
  dimension: "8px, 0.5rem, {space.2}",
  duration: "120ms, 0.2s",
  cubicBezier: "0.2, 0, 0, 1",
  fontFamily: "Hanken Grotesk, sans-serif",
};

/** A new token: its name, type, value and the file it goes into. */
export function AddToken({ view, close, added }: { view: Schema["TokensView"]; close: () => void; added: (path: string) => void }) {
  const [path, setPath] = useState("");
  const [type, setType] = useState("color");
  const [file, setFile] = useState(view.files[0] ?? "");
  const [text, setText] = useState("");
  const [description, setDescription] = useState("");
  const taken = view.rows.some((r) => r.path === path.trim());
  const save = useWrite(
    () => api.editTokens(view.revision, [{ kind: "set", path: path.trim(), type, file, text, description: description.trim() }]),
    () => added(path.trim()),
  );
  return (
    <Modal opened onClose={close} title="A new token" closeButtonProps={{ "aria-label": "Close" }}>
      <form
        className={classes.doing}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate(undefined);
        }}
      >
        <TextInput
          label="Name, groups joined by dots"
          placeholder="card.edge-hover"
          classNames={{ input: "mono" }}
          value={path}
          onChange={(e) => setPath(e.currentTarget.value)}
          error={taken && "There is a token of that name"}
          data-autofocus
        />
        <Select label="Type" data={types} value={type} allowDeselect={false} onChange={(v) => setType(v ?? "color")} />
        <div>
          <label htmlFor="new-value" className={classes.label}>
            Value{hints[type] ? `, such as ${hints[type]}` : ": the standard's JSON, or an alias in braces"}
          </label>
          <ValueInput id="new-value" view={view} type={type} self="" value={text} onChange={setText} />
        </div>
        <TextInput label="What it is for" value={description} onChange={(e) => setDescription(e.currentTarget.value)} />
        <Select label="File" data={view.files} value={file} allowDeselect={false} onChange={(v) => setFile(v ?? "")} />
        {save.error && <Failure error={save.error} />}
        <div className={classes.actions}>
          <Button onClick={close}>Cancel</Button>
          <Button type="submit" variant="filled" loading={save.isPending} disabled={taken || path.trim() === "" || text.trim() === ""}>
            Add
          </Button>
        </div>
      </form>
    </Modal>
  );
}
