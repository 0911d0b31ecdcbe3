// What prettier makes of files at width 100, and what strict TypeScript says of them, for
// core/emit's tests. Standard input: {"files": [{"path", "content"}, …]}, a folder a
// component; standard output: {"unformatted": [{"path", "want"}, …], "errors": [text, …]}.
import prettier from "prettier";
import ts from "typescript";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

let input = "";
for await (const chunk of process.stdin.setEncoding("utf8")) input += chunk;
const { files } = JSON.parse(input);
const unformatted = [];
for (const { path, content } of files) {
  if (!/\.(tsx?|css)$/.test(path)) continue;
  try {
    const want = await prettier.format(content, { filepath: path, printWidth: 100 });
    if (want !== content) unformatted.push({ path, want });
  } catch (e) {
    unformatted.push({ path, want: String(e) });
  }
}

// The files as if they stood beside node_modules.
const root = join(dirname(fileURLToPath(import.meta.url)), "..", "emitted-question");
const text = new Map(files.map((f) => [join(root, f.path), f.content]));
const folders = new Set([...text.keys()].map((p) => dirname(p)));
const options = {
  target: ts.ScriptTarget.ES2022, module: ts.ModuleKind.ESNext, moduleResolution: ts.ModuleResolutionKind.Bundler, jsx: ts.JsxEmit.ReactJSX,
  lib: ["lib.es2022.d.ts", "lib.dom.d.ts"], strict: true, noUncheckedIndexedAccess: true, exactOptionalPropertyTypes: true, noUncheckedSideEffectImports: true, verbatimModuleSyntax: true, skipLibCheck: true, noEmit: true, types: [],
};
const host = ts.createCompilerHost(options);
const { getSourceFile, fileExists, readFile, directoryExists } = host;
host.getSourceFile = (name, version, ...rest) => (text.has(name) ? ts.createSourceFile(name, text.get(name), version, true) : getSourceFile(name, version, ...rest));
host.fileExists = (name) => text.has(name) || fileExists(name);
host.readFile = (name) => text.get(name) ?? readFile(name);
host.directoryExists = (name) => name === root || folders.has(name) || directoryExists(name);
const program = ts.createProgram([...text.keys()].filter((p) => /\.tsx?$/.test(p)), options, host);
const errors = ts.getPreEmitDiagnostics(program).map((d) => {
  const at = d.file ? `${d.file.fileName.slice(root.length + 1)}:${d.file.getLineAndCharacterOfPosition(d.start).line + 1} ` : "";
  return at + ts.flattenDiagnosticMessageText(d.messageText, "\n");
});
console.log(JSON.stringify({ unformatted, errors }));
