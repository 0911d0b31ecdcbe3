import hljs from "highlight.js/lib/core";
import css from "highlight.js/lib/languages/css";
import json from "highlight.js/lib/languages/json";
import typescript from "highlight.js/lib/languages/typescript";
import { useMemo } from "react";

import classes from "./Code.module.css";

hljs.registerLanguage("css", css);
hljs.registerLanguage("json", json);
hljs.registerLanguage("typescript", typescript);

function languageOf(path: string) {
  if (path.endsWith(".css")) return "css";
  return path.endsWith(".json") ? "json" : "typescript";
}

/** Source text with numbered lines. The highlighter escapes what it marks up. */
export function Code({ path, text }: { path: string; text: string }) {
  const html = useMemo(() => ({ __html: hljs.highlight(text, { language: languageOf(path) }).value }), [path, text]);
  const lines = text.split("\n").length - (text.endsWith("\n") ? 1 : 0);
  return (
    <section className={classes.code} aria-label={path} tabIndex={0}>
      <pre className={classes.numbers} aria-hidden="true">
        {Array.from({ length: lines }, (_, i) => i + 1).join("\n")}
      </pre>
      <pre className={classes.text}>
        <code dangerouslySetInnerHTML={html} />
      </pre>
    </section>
  );
}
