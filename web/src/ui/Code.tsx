import hljs from "highlight.js/lib/core";
import css from "highlight.js/lib/languages/css";
import kotlin from "highlight.js/lib/languages/kotlin";
import json from "highlight.js/lib/languages/json";
import scss from "highlight.js/lib/languages/scss";
import swift from "highlight.js/lib/languages/swift";
import typescript from "highlight.js/lib/languages/typescript";
import xml from "highlight.js/lib/languages/xml";
import { type MouseEvent, useEffect, useMemo, useRef } from "react";

import classes from "./Code.module.css";

/** Languages by the ending of a file's name; whatever else there is is TypeScript. */
const languages: Record<string, string> = { css: "css", json: "json", kt: "kotlin", scss: "scss", swift: "swift", xml: "xml" };
for (const [name, language] of Object.entries({ css, json, kotlin, scss, swift, typescript, xml })) hljs.registerLanguage(name, language);

const languageOf = (path: string) => languages[path.split(".").at(-1) ?? ""] ?? "typescript";

interface Props {
  path: string;
  text: string;
  /** Numbers of lines that stand out, from 1; the first of them is brought into view. */
  marked?: readonly number[];
  /** A line was pressed. */
  onLine?: (number: number) => void;
}

/** As the style sheet has it, px. */
const lineHeight = 20;
const topOf = (line: number) => 12 + (line - 1) * lineHeight;

const none: readonly number[] = [];

/** Source text with numbered lines. The highlighter escapes what it marks up. */
export function Code({ path, text, marked = none, onLine }: Props) {
  const html = useMemo(() => ({ __html: hljs.highlight(text, { language: languageOf(path) }).value }), [path, text]);
  const lines = text.split("\n").length - (text.endsWith("\n") ? 1 : 0);
  const code = useRef<HTMLElement>(null);
  const first = marked[0];
  useEffect(() => {
    const at = code.current;
    if (!at || first === undefined) return;
    const top = topOf(first);
    if (top < at.scrollTop || top + 2 * lineHeight > at.scrollTop + at.clientHeight) at.scrollTop = top - at.clientHeight / 3;
  }, [path, first]);
  const press = (e: MouseEvent<HTMLPreElement>) => {
    if (window.getSelection()?.isCollapsed === false) return; // text is being selected
    const { top, height } = e.currentTarget.getBoundingClientRect();
    onLine?.(Math.floor((e.clientY - top) / (height / lines)) + 1);
  };
  return (
    <section ref={code} className={classes.code} aria-label={path} tabIndex={0}>
      <pre className={classes.numbers} aria-hidden="true">
        {Array.from({ length: lines }, (_, i) => i + 1).join("\n")}
      </pre>
      <div className={classes.text}>
        {marked.map((n) => (
          <span key={n} className={classes.mark} style={{ top: topOf(n) }} />
        ))}
        <pre onClick={onLine && press} data-pressed={onLine && ""}>
          <code dangerouslySetInnerHTML={html} />
        </pre>
      </div>
    </section>
  );
}
