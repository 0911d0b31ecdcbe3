// What oxlint's React and accessibility rules, and the newest TypeScript with its own defaults, say
// of a library, for core/emit's tests. Standard input: {"files": [{"path", "content"}, …]}; standard
// output: {"lint": [text, …], "types": [text, …]}.
import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

let input = "";
for await (const chunk of process.stdin.setEncoding("utf8")) input += chunk;
const { files } = JSON.parse(input);
const modules = join(dirname(fileURLToPath(import.meta.url)), "..", "node_modules");
const root = mkdtempSync(join(tmpdir(), "cobrik-lint-"));
try {
  for (const { path, content } of files) {
    mkdirSync(dirname(join(root, path)), { recursive: true });
    writeFileSync(join(root, path), content);
  }
  // JSX needs no React in scope since its transform brings its own (react.dev, JSX transform).
  const rules = { "react/react-in-jsx-scope": "off" };
  const categories = { correctness: "error", suspicious: "error" };
  writeFileSync(join(root, "oxlint.json"), JSON.stringify({ plugins: ["react", "jsx-a11y", "typescript"], categories, rules, ignorePatterns: ["node_modules"] }));
  const lint = spawnSync("node", [join(modules, "oxlint", "bin", "oxlint"), "-c", "oxlint.json", "--format=json", "."], { cwd: root, encoding: "utf8" });
  symlinkSync(modules, join(root, "node_modules")); // not before: it would be linted
  const types = spawnSync("node", [join(modules, "typescript-newest", "bin", "tsc"), "-p", "."], { cwd: root, encoding: "utf8" });
  console.log(
    JSON.stringify({
      lint: JSON.parse(lint.stdout).diagnostics.map((d) => `${d.filename}:${d.labels[0]?.span.line} ${d.code} ${d.message}`),
      types: types.status === 0 ? [] : (types.stdout + types.stderr).trim().split("\n"),
    }),
  );
} finally {
  rmSync(root, { recursive: true });
}
