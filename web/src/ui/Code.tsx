import hljs from "highlight.js/lib/core";
import css from "highlight.js/lib/languages/css";
import kotlin from "highlight.js/lib/languages/kotlin";
import json from "highlight.js/lib/languages/json";
import scss from "highlight.js/lib/languages/scss";
import swift from "highlight.js/lib/languages/swift";
import typescript from "highlight.js/lib/languages/typescript";
import xml from "highlight.js/lib/languages/xml";
import { useMemo } from "react";

import classes from "./Code.module.css";

/** Languages by the ending of a file's name; whatever else there is is TypeScript. */
const languages: Record<string, string> = { css: "css", json: "json", kt: "kotlin", scss: "scss", swift: "swift", xml: "xml" };
for (const [name, language] of Object.entries({ css, json, kotlin, scss, swift, typescript, xml })) hljs.registerLanguage(name, language);

const languageOf = (path: string) => languages[path.split(".").at(-1) ?? ""] ?? "typescript";

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
