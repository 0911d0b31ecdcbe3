import { type ReactNode, useEffect, useRef, useState } from "react";

import type { Schema } from "../../api/client";
import { textOf } from "../../lanes/shown";
import classes from "./LookLine.module.css";

interface Props {
  states: string[];
  look: Schema["Look"];
  /** What the case that is shown is looked at in by itself, in words. */
  own: string;
  onLook: (change: Schema["Look"]) => void;
  /** The theme's own control. */
  theme: ReactNode;
  /** What else can be done with the cases, at the end of the line. */
  children: ReactNode;
  /** A name is being typed by which the case is saved. */
  naming: boolean;
  suggested: string;
  refused?: string;
  onSave: (name: string) => void;
  onCancel: () => void;
}

/** What every case is looked at in, as a line in which each value is the control. */
export function LookLine({ states, look, own, onLook, theme, children, naming, suggested, refused, onSave, onCancel }: Props) {
  const sizes = [...new Set([100, 200, textOf(look)])].sort((a, b) => a - b);
  return (
    <div className={classes.line} role="group" aria-label="What the cases are looked at in">
      <span className={classes.words}>
        Looked at in {theme}
        {states.length > 0 && (
          <select
            aria-label="State"
            data-pinned={look.state !== undefined || undefined}
            value={look.state ?? ""}
            onChange={(e) => onLook({ state: e.target.value || undefined })}
          >
            <option value="">the state each is in</option>
            {[...new Set([...states, ...(look.state ? [look.state] : [])])].map((s) => (
              <option key={s}>{s}</option>
            ))}
          </select>
        )}
        <select
          aria-label="Direction"
          data-pinned={look.direction !== undefined || undefined}
          value={look.direction ?? ""}
          onChange={(e) => onLook({ direction: e.target.value || undefined })}
        >
          <option value="">left to right</option>
          <option value="rtl">right to left</option>
        </select>
        <select
          aria-label="Text size"
          data-pinned={textOf(look) !== 100 || undefined}
          value={textOf(look)}
          onChange={(e) => onLook({ text: e.target.value === "100" ? undefined : Number(e.target.value) })}
        >
          {sizes.map((s) => (
            <option key={s} value={s}>
              text at {s} %
            </option>
          ))}
        </select>
        {look.width === undefined ? (
          <span>as wide as each is</span>
        ) : (
          <button type="button" data-pinned onClick={() => onLook({ width: undefined })} title="As wide as each is">
            {look.width} px wide ×
          </button>
        )}
        {own && <span className={classes.own}>this one: {own}</span>}
      </span>
      <span className={classes.actions}>
        {naming ? <Name suggested={suggested} refused={refused} onSave={onSave} onCancel={onCancel} /> : children}
      </span>
    </div>
  );
}

function Name({
  suggested,
  refused,
  onSave,
  onCancel,
}: {
  suggested: string;
  refused?: string;
  onSave: (name: string) => void;
  onCancel: () => void;
}) {
  const [name, setName] = useState(suggested);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.select(), []);
  return (
    <>
      <label>
        Save this case as{" "}
        <input
          ref={field}
          value={name}
          maxLength={120}
          aria-invalid={refused !== undefined}
          aria-describedby="case-refused"
          onChange={(e) => setName(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter") onSave(name);
            else if (e.key === "Escape") onCancel();
            else return;
            e.preventDefault();
            e.stopPropagation();
          }}
        />
      </label>
      <span id="case-refused" role="status" className={classes.refused}>
        {refused}
      </span>
    </>
  );
}
