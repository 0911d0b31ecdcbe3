import { useDebouncedValue } from "@mantine/hooks";
import { type KeyboardEvent, useEffect, useEffectEvent, useId, useRef, useState } from "react";

import { Drawing } from "../../../ui/Drawing";
import { type Schema, useCompletions } from "../../../api/client";
import { TokenPicture } from "../../../ui/TokenPicture";
import inline from "../../../ui/Inline.module.css";
import classes from "./Field.module.css";

interface Props {
  slug: string;
  build: string;
  label: string;
  /** What is typed in, without its text. */
  edit: Schema["Edit"];
  text: string;
  placeholder?: string;
  tokens: Schema["TokenPick"][];
  /** Why the last text was refused. */
  refused?: string;
  busy: boolean;
  onType: (text: string) => void;
  commit: (text: string) => void;
  cancel: () => void;
}

/** A cell while it is typed in, with what could follow; it stands where its text does. */
export function Field({ slug, build, label, edit, text, placeholder, tokens, refused, busy, onType, commit, cancel }: Props) {
  const id = useId();
  const field = useRef<HTMLInputElement>(null);
  const [typed, setTyped] = useState(text);
  const [before, setBefore] = useState<string>();
  const [chosen, setChosen] = useState(-1);
  const [up, setUp] = useState(false);
  const asks = edit.do === "set" || edit.do === "add";
  const options =
    useCompletions(
      slug,
      build,
      before === undefined || !asks ? undefined : { do: edit.do as "set" | "add", on: edit.on, cell: edit.cell, text: before },
    ).data ?? [];
  const open = before !== undefined && options.length > 0;
  const [settled] = useDebouncedValue(typed, 120);
  const tell = useEffectEvent(onType);
  useEffect(() => tell(settled), [settled]);
  useEffect(() => {
    const at = field.current;
    at?.focus();
    at?.select();
    if (at) setUp(at.getBoundingClientRect().bottom + 250 > window.innerHeight);
  }, []);
  const put = (value: string, at: number) => {
    setTyped(value);
    setBefore(value.slice(0, at));
    setChosen(-1);
  };
  const take = (option: Schema["Completion"]) => {
    const rest = typed.slice((before ?? typed).length);
    put(option.text + rest, option.text.length);
    requestAnimationFrame(() => field.current?.setSelectionRange(option.text.length, option.text.length));
  };
  const keyed = (e: KeyboardEvent<HTMLInputElement>) => {
    e.stopPropagation();
    const option = options[chosen] ?? (e.key === "Tab" ? options[0] : undefined);
    if ((e.key === "ArrowDown" || e.key === "ArrowUp") && before === undefined)
      setBefore(typed.slice(0, e.currentTarget.selectionStart ?? typed.length));
    else if ((e.key === "ArrowDown" || e.key === "ArrowUp") && open)
      setChosen((c) => (c + (e.key === "ArrowDown" ? 1 : -1) + options.length + (c < 0 && e.key === "ArrowUp" ? 1 : 0)) % options.length);
    else if (open && option && (e.key === "Tab" || e.key === "Enter")) take(option);
    else if (e.key === "Enter") {
      setBefore(undefined); // what is wrong with it stands where the list did
      commit(typed.trim());
    } else if (e.key === "Escape" && open) setBefore(undefined);
    else if (e.key === "Escape") cancel();
    else return;
    e.preventDefault();
  };
  return (
    <span className={classes.field}>
      <input
        ref={field}
        role="combobox"
        aria-label={label}
        aria-expanded={open}
        aria-controls={id}
        aria-activedescendant={open && chosen >= 0 ? `${id}-${chosen}` : undefined}
        aria-invalid={refused !== undefined}
        aria-describedby={refused === undefined ? undefined : `${id}-refused`}
        autoComplete="off"
        spellCheck={false}
        readOnly={busy}
        className={`${inline.field} ${classes.input}`}
        value={typed}
        placeholder={placeholder}
        style={{ width: `${Math.max(typed.length, placeholder?.length ?? 0, 3) + 1}ch` }}
        onChange={(e) => put(e.currentTarget.value, e.currentTarget.selectionStart ?? e.currentTarget.value.length)}
        onKeyDown={keyed}
        onBlur={() => !busy && cancel()}
      />
      <span className={classes.under} data-up={up || undefined}>
        {refused !== undefined && !open && (
          <span id={`${id}-refused`} role="alert" className={classes.refused}>
            {refused}
          </span>
        )}
        <ul id={id} role="listbox" aria-label={`What ${label} could be`} className={open ? classes.options : "hidden-but-read"}>
          {open &&
            options.map((o, i) => (
              <li
                key={o.text}
                id={`${id}-${i}`}
                role="option"
                aria-selected={i === chosen}
                ref={(at) => {
                  if (i === chosen) at?.scrollIntoView?.({ block: "nearest" });
                }}
                onPointerDown={(e) => {
                  e.preventDefault();
                  take(o);
                }}
              >
                <span className={classes.label}>{o.label}</span>
                <Kind option={o} tokens={tokens} />
              </li>
            ))}
        </ul>
      </span>
    </span>
  );
}

function Kind({ option, tokens }: { option: Schema["Completion"]; tokens: Schema["TokenPick"][] }) {
  if (option.drawing) return <Drawing of={option.drawing} size={16} />;
  if (option.kind !== "token") return <span className="quiet">{option.kind === "word" ? "" : option.kind}</span>;
  const type = tokens.find((t) => `{${t.path}}` === option.label)?.type ?? "";
  return (
    <span className={classes.token}>
      <TokenPicture type={type} value={option.value ?? ""} />
      <span className="quiet">{option.value}</span>
    </span>
  );
}
