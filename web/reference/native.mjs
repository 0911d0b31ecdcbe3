// The attributes that React's types give each element, out of the types themselves, for
// core/emit/react. Standard input: {"tags": ["div", …]}; standard output: {"*": [name, …], "button": […], …},
// each tag's without those of all tags but svg.
import ts from "typescript";
import { readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const { tags } = JSON.parse(readFileSync(0, "utf8"));
const root = join(dirname(fileURLToPath(import.meta.url)), "..");
const file = join(root, "native-question.ts");
const text = `import type { ComponentPropsWithRef } from "react";\n` + tags.map((t, i) => `export type T${i} = ComponentPropsWithRef<"${t}">;`).join("\n");
const options = { target: ts.ScriptTarget.ES2022, moduleResolution: ts.ModuleResolutionKind.Bundler, module: ts.ModuleKind.ESNext, strict: true, noEmit: true, types: [] };
const host = ts.createCompilerHost(options);
const read = host.getSourceFile;
host.getSourceFile = (name, ...rest) => (name === file ? ts.createSourceFile(name, text, ts.ScriptTarget.ES2022, true) : read(name, ...rest));
const exists = host.fileExists;
host.fileExists = (name) => name === file || exists(name);
const program = ts.createProgram([file], options, host);
const checker = program.getTypeChecker();
const exported = checker.getExportsOfModule(checker.getSymbolAtLocation(program.getSourceFile(file)));
const reserved = ["key", "ref", "children", "style", "className", "dangerouslySetInnerHTML"];
const of = exported.map((s) =>
  checker
    .getDeclaredTypeOfSymbol(s)
    .getProperties()
    .map((p) => p.name)
    .filter((n) => /^[a-zA-Z]+$/.test(n) && !reserved.includes(n)),
);
const html = tags.map((_, i) => i).filter((i) => tags[i] !== "svg");
const all = of[html[0]].filter((n) => html.every((i) => of[i].includes(n))).sort();
const answer = { "*": all };
tags.forEach((t, i) => {
  const own = of[i].filter((n) => !all.includes(n)).sort();
  if (own.length > 0) answer[t] = own;
});
console.log(JSON.stringify(answer, null, 1));
