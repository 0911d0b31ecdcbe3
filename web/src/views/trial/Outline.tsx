import { type KeyboardEvent, memo, useEffect, useId, useLayoutEffect, useRef, useState } from "react";

import { api, type Schema } from "../../api/client";
import { depthOf, duplicate, type Edited, insert, move, nest, remove, retype, wordsOf, wrap } from "./outline";
import classes from "./Trial.module.css";

interface Props {
  slug: string;
  lines: string[];
  problems: readonly Schema["Problem"][];
  warnings: readonly Schema["Warning"][];
  chosen: number;
  onChoose: (at: number) => void;
  onEdit: (lines: string[], step: string) => void;
}

/** A page as written courses, a row a course. A row is chosen, and typed in where it stands. */
export const Outline = memo(function Outline({ slug, lines, problems, warnings, chosen, onChoose, onEdit }: Props) {
  const [typing, setTyping] = useState(false);
  const grid = useRef<HTMLDivElement>(null);
  const id = useId();
  const at = Math.min(chosen, lines.length - 1);
  const wrong = new Map(problems.map((p) => [(p.line ?? 0) - 1, p]));
  const warned = new Map(warnings.map((w) => [w.line - 1, w]));
  const done = (edited: Edited, step: string) => {
    onChoose(edited.at);
    onEdit(edited.lines, step);
  };
  const leave = () => {
    setTyping(false);
    grid.current?.focus();
  };
  useEffect(() => {
    grid.current?.querySelector(`[data-at="${at}"]`)?.scrollIntoView({ block: "nearest" });
  }, [at, lines.length]);

  const onKeyDown = (e: KeyboardEvent<HTMLDivElement>) => {
    if (e.target !== grid.current) return;
    const named = `${e.altKey ? "Alt " : ""}${e.key}`;
    const keys: Record<string, () => void> = {
      ArrowUp: () => onChoose(Math.max(0, at - 1)),
      ArrowDown: () => onChoose(Math.min(lines.length - 1, at + 1)),
      Home: () => onChoose(0),
      End: () => onChoose(lines.length - 1),
      Enter: () => setTyping(true),
      F2: () => setTyping(true),
      n: () => (done(insert(lines, at), "a row"), setTyping(true)),
      u: () => done(duplicate(lines, at), "duplicated"),
      s: () => done(wrap(lines, at), "a stack around"),
      Delete: () => done(remove(lines, at), "removed"),
      Backspace: () => done(remove(lines, at), "removed"),
      "Alt ArrowUp": () => done(move(lines, at, -1), "moved"),
      "Alt ArrowDown": () => done(move(lines, at, 1), "moved"),
      "Alt ArrowRight": () => done(nest(lines, at, 1), "put in"),
      "Alt ArrowLeft": () => done(nest(lines, at, -1), "put out"),
    };
    const key = keys[named];
    if (!key || e.ctrlKey || e.metaKey) return;
    e.preventDefault();
    e.stopPropagation();
    key();
  };

  return (
    <div
      ref={grid}
      role="treegrid"
      aria-label="Outline of the page"
      aria-activedescendant={typing ? undefined : `${id}${at}`}
      tabIndex={0}
      className={classes.outline}
      onKeyDown={onKeyDown}
    >
      {lines.map((line, i) => {
        const problem = wrong.get(i);
        const warning = warned.get(i);
        const depth = depthOf(line);
        return (
          <div
            key={i}
            id={`${id}${i}`}
            data-at={i}
            role="row"
            aria-selected={i === at}
            aria-level={depth + 1}
            className={classes.row}
            data-chosen={i === at || undefined}
            data-wrong={problem?.severity}
            title={problem ? `${problem.message} ${problem.fix ?? ""}` : undefined}
          >
            <span
              role="gridcell"
              className={classes.cell}
              style={{ paddingLeft: 12 + depth * 14 }}
              onMouseDown={(e) => {
                if (i === at && typing) return;
                e.preventDefault();
                onChoose(i);
                if (typing || e.detail > 1) setTyping(true);
                else grid.current?.focus();
              }}
            >
              {i === at && typing ? (
                <RowInput
                  key={i}
                  slug={slug}
                  lines={lines}
                  at={i}
                  onType={(text) => onEdit(retype(lines, i, text), `row ${i + 1}`)}
                  onDone={(text, more) => {
                    const typed = retype(lines, i, text);
                    if (!more) {
                      onEdit(typed, `row ${i + 1}`);
                      leave();
                      return;
                    }
                    done(insert(typed, i), "a row");
                  }}
                  onStep={(by, text) => {
                    onEdit(retype(lines, i, text), `row ${i + 1}`);
                    onChoose(Math.max(0, Math.min(lines.length - 1, i + by)));
                  }}
                  onMove={(text, edited) => done(edited(retype(lines, i, text)), "moved")}
                />
              ) : (
                <Words line={line} />
              )}
              {(problem || warning) && !(i === at && typing) && (
                <span className={classes.flag} data-severity={problem?.severity ?? "warning"}>
                  {problem?.severity !== "error" ? "look" : problem.rule.startsWith("version") ? "widths" : "cannot be shown"}
                </span>
              )}
            </span>
          </div>
        );
      })}
    </div>
  );
});

/** A row in words; the same row is not read again while others are typed in. */
const Words = memo(function Words({ line }: { line: string }) {
  const words = wordsOf(line);
  if (words.length === 0) return <span className="quiet">an empty row</span>;
  const use = /^\p{Lu}/u.test(words[0]!.text);
  return (
    <span className={classes.words}>
      {words.map((w, i) => (
        <span key={i} data-word={w.kind} data-use={(i === 0 && use) || undefined}>
          {w.text.length > 60 ? `${w.text.slice(0, 59)}…` : w.text}
        </span>
      ))}
    </span>
  );
});

interface InputProps {
  slug: string;
  lines: string[];
  at: number;
  onType: (text: string) => void;
  onDone: (text: string, more: boolean) => void;
  onStep: (by: 1 | -1, text: string) => void;
  onMove: (text: string, edited: (lines: string[]) => Edited) => void;
}

/** ms after a key before it is asked how the row could go on. */
const asking = 60;

function RowInput({ slug, lines, at, onType, onDone, onStep, onMove }: InputProps) {
  const [text, setText] = useState(() => lines[at]!.trim());
  const [offers, setOffers] = useState<Schema["RowCompletion"][]>([]);
  const [picked, setPicked] = useState(-1);
  const input = useRef<HTMLInputElement>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const asked = useRef(0);
  const list = useId();
  const caret = useRef<number>(undefined); // where it goes once what was taken stands there
  useLayoutEffect(() => {
    if (caret.current !== undefined) input.current?.setSelectionRange(caret.current, caret.current);
    caret.current = undefined;
  }, [text]);
  useEffect(() => {
    input.current?.focus();
    return () => clearTimeout(timer.current);
  }, []);

  const ask = (typed: string, wait: number) => {
    clearTimeout(timer.current);
    const mine = ++asked.current;
    timer.current = setTimeout(() => {
      void api
        .completeTrial(slug, lines.join("\n"), at + 1, typed)
        .then((found) => mine === asked.current && (setOffers(found), setPicked(-1)))
        .catch(() => mine === asked.current && setOffers([]));
    }, wait);
  };
  const close = () => {
    clearTimeout(timer.current);
    asked.current++;
    setOffers([]);
    setPicked(-1);
  };
  const change = (next: string, wait = asking) => {
    setText(next);
    onType(next);
    const cursor = input.current?.selectionStart ?? next.length;
    ask(next.slice(0, cursor), wait);
  };
  const takeOffer = (o: Schema["RowCompletion"]) => {
    const cursor = input.current?.selectionStart ?? text.length;
    const next = o.text + text.slice(cursor);
    setText(next);
    onType(next);
    close();
    caret.current = o.text.length;
    if (/[\s={"]$/.test(o.text)) ask(o.text, 0);
  };

  const onKeyDown = (e: KeyboardEvent<HTMLInputElement>) => {
    const open = offers.length > 0;
    if (e.nativeEvent.isComposing) return;
    const handled = () => {
      e.preventDefault();
      e.stopPropagation();
    };
    if (e.ctrlKey && e.key === " ") return (handled(), ask(text.slice(0, input.current?.selectionStart ?? text.length), 0));
    if (e.altKey && ["ArrowUp", "ArrowDown", "ArrowLeft", "ArrowRight"].includes(e.key)) {
      handled();
      close();
      if (e.key === "ArrowUp" || e.key === "ArrowDown") onMove(text, (l) => move(l, at, e.key === "ArrowUp" ? -1 : 1));
      else onMove(text, (l) => nest(l, at, e.key === "ArrowRight" ? 1 : -1));
      return;
    }
    switch (e.key) {
      case "ArrowDown":
      case "ArrowUp": {
        handled();
        const by = e.key === "ArrowDown" ? 1 : -1;
        if (open) return setPicked((picked + by + offers.length + (picked < 0 && by < 0 ? 1 : 0)) % offers.length);
        return onStep(by, text);
      }
      case "Tab":
        handled();
        if (open) return takeOffer(offers[Math.max(0, picked)]!);
        return onMove(text, (l) => nest(l, at, e.shiftKey ? -1 : 1));
      case "Enter":
        handled();
        if (picked >= 0) return takeOffer(offers[picked]!);
        close();
        return onDone(text, true);
      case "Escape":
        handled();
        if (open) return close();
        return onDone(text, false);
    }
  };

  return (
    <span className={classes.typing}>
      <input
        ref={input}
        className={classes.input}
        aria-label={`Row ${at + 1}`}
        role="combobox"
        aria-expanded={offers.length > 0}
        aria-controls={list}
        aria-autocomplete="list"
        aria-activedescendant={picked >= 0 ? `${list}${picked}` : undefined}
        spellCheck={false}
        autoComplete="off"
        value={text}
        onChange={(e) => change(e.currentTarget.value)}
        onKeyDown={onKeyDown}
        onBlur={close}
      />
      <ul id={list} role="listbox" aria-label="How the row could go on" className={classes.offers} hidden={offers.length === 0}>
        {offers.slice(0, 12).map((o, i) => (
          <li
            key={o.text + o.kind}
            id={`${list}${i}`}
            role="option"
            aria-selected={i === picked}
            onMouseDown={(e) => {
              e.preventDefault();
              takeOffer(o);
            }}
          >
            <span className="mono">{o.label}</span>
            <span className="quiet">{o.detail}</span>
          </li>
        ))}
      </ul>
    </span>
  );
}
