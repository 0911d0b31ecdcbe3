import { Autocomplete, Textarea } from "@mantine/core";

import type { Schema } from "../../api/client";
import { TokenPicture } from "../../ui/TokenPicture";
import classes from "./TokenPanel.module.css";

const composite = ["strokeStyle", "border", "transition", "shadow", "gradient", "typography"];

interface Props {
  id: string;
  view: Schema["TokensView"];
  type: string;
  self: string; // a token does not point at itself
  value: string;
  onChange: (text: string) => void;
}

/** A value as one types it: CSS, an alias in braces, or the standard's JSON for a composite. */
export function ValueInput({ id, view, type, self, value, onChange }: Props) {
  if (composite.includes(type) && !/^\{[^":]*\}?$/.test(value)) {
    return (
      <Textarea
        id={id}
        autosize
        minRows={1}
        maxRows={10}
        classNames={{ input: "mono" }}
        value={value}
        onChange={(e) => onChange(e.currentTarget.value)}
      />
    );
  }
  const byOption = new Map(
    view.rows.filter((r) => r.type === type && r.path !== self).map((r) => [`{${r.path}}`, r.values[0]?.value ?? ""]),
  );
  return (
    <Autocomplete
      id={id}
      value={value}
      onChange={onChange}
      data={[...byOption.keys()]}
      limit={40}
      maxDropdownHeight={220}
      classNames={{ input: "mono" }}
      filter={({ options, search, limit }) => {
        // All there is when the field is opened; what was typed narrows it.
        const words = search.toLowerCase().replace(/[{}]/g, " ").split(/\s+/);
        return options.filter((o) => "value" in o && words.every((w) => o.value.toLowerCase().includes(w))).slice(0, limit);
      }}
      renderOption={({ option }) => (
        <span className={`mono ${classes.option}`}>
          <TokenPicture type={type} value={byOption.get(option.value) ?? ""} />
          {option.value}
        </span>
      )}
    />
  );
}
