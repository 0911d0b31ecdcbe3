import { CopyButton } from "@mantine/core";
import type { ReactNode } from "react";

import type { Schema } from "../../api/client";
import inline from "../../ui/Inline.module.css";
import classes from "./UseLine.module.css";

type Prop = Schema["PropView"];
export type Values = Record<string, unknown>;

interface Props {
  name: string;
  props: Prop[];
  values: Values;
  onSet: (name: string, value: unknown) => void;
  /** The pointer or the focus is on a prop, by its id, or on none. */
  onPoint: (prop: string | undefined) => void;
}

/**
 * The use of a component as a line of code in which every value is itself the control: a word of several opens, a
 * flag is struck in or out, a text is typed in place. What is copied is what is not struck.
 */
export function UseLine({ name, props, values, onSet, onPoint }: Props) {
  const own = props.filter((p) => p.control !== "none" || p.kind === "slot");
  const children = own.find((p) => p.kind === "slot" && p.name === "children");
  const attributes = own.filter((p) => p.kind !== "slot");
  return (
    <section className={classes.use} aria-label="Use">
      <div className={classes.line} onPointerLeave={() => onPoint(undefined)}>
        <span>&lt;{name}</span>
        {attributes.map((p) => (
          <span
            key={p.name}
            className={classes.prop}
            title={p.purpose || undefined}
            onPointerEnter={() => onPoint(p.id)}
            onFocus={() => onPoint(p.id)}
            onBlur={() => onPoint(undefined)}
          >
            <Attribute prop={p} value={values[p.name]} set={(v) => onSet(p.name, v)} />
          </span>
        ))}
        <span>{children ? `>…</${name}>` : "/>"}</span>
      </div>
      <CopyButton value={written(name, attributes, values, children !== undefined)}>
        {({ copied, copy }) => (
          <button type="button" className={classes.copy} onClick={copy}>
            {copied ? "copied" : "copy"}
          </button>
        )}
      </CopyButton>
    </section>
  );
}

function Attribute({ prop: p, value, set }: { prop: Prop; value: unknown; set: (v: unknown) => void }) {
  const text = typeof value === "string" ? value : "";
  const shown = (between: [string, string], control: ReactNode) => (
    <>
      <span className={classes.name}>{p.name}</span>={between[0]}
      {control}
      {between[1]}
    </>
  );
  const field = (kind: "text" | "number", at: string, placeholder: string, onChange: (typed: string) => void) => (
    <input
      type={kind}
      aria-label={p.name}
      className={inline.field}
      value={at}
      placeholder={placeholder}
      spellCheck={false}
      style={{ width: `${Math.min(40, Math.max(1, (at || placeholder).length))}ch` }}
      onChange={(e) => onChange(e.currentTarget.value)}
    />
  );
  switch (p.control) {
    case "switch":
      return (
        <button
          type="button"
          role="switch"
          aria-checked={value === true}
          aria-label={p.name}
          className={classes.flag}
          onClick={() => set(value !== true)}
        >
          {p.name}
        </button>
      );
    case "text":
    case "address":
      return shown(['"', '"'], field("text", text, p.required ? "required" : "", set));
    case "rich text":
      return shown(
        ["{", "}"],
        field("text", text, "as drawn", (typed) => set(typed || p.shown)),
      );
    case "number":
      return shown(
        ["{", "}"],
        field("number", typeof value === "number" ? String(value) : "", "", (typed) => set(typed === "" ? undefined : Number(typed))),
      );
    case "options":
    case "icon":
      return (
        <span data-off={text === "" || undefined} className={classes.choice}>
          {shown(
            ['"', '"'],
            <select
              aria-label={p.name}
              className={inline.field}
              value={text}
              style={{ width: `${Math.max(2, (text || "none").length)}ch` }}
              onChange={(e) => set(e.currentTarget.value || undefined)}
            >
              {p.control === "icon" && !p.required && <option value="">none</option>}
              {p.options.map((o) => (
                <option key={o} value={o}>
                  {o}
                </option>
              ))}
            </select>,
          )}
        </span>
      );
    default:
      return shown(["{", "}"], <span className="quiet">{p.name}</span>);
  }
}

/** The line as it is copied: what has its default, or nothing, is left out. */
export function written(name: string, props: Prop[], values: Values, children: boolean): string {
  const out = [`<${name}`];
  for (const p of props) {
    const value = values[p.name];
    if (value === undefined || value === null || value === "" || (!p.required && same(value, p.default))) continue;
    if (value === true) out.push(p.name);
    else if (typeof value === "string")
      out.push(/["\\{}\n&<>]/.test(value) ? `${p.name}={${JSON.stringify(value)}}` : `${p.name}="${value}"`);
    else if (typeof value === "object" && "rich" in value)
      continue; // what was drawn is code of whoever uses it
    else out.push(`${p.name}={${JSON.stringify(value)}}`);
  }
  return `${out.join(" ")}${children ? `>…</${name}>` : " />"}`;
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
