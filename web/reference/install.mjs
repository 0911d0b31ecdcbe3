// Installs a package with npm into an empty Vite app, checks its types and builds it. Standard input: {"tarball": base64, "files": {path: content}}; standard output:
// {"errors": [what tsc says], "built": {path: content}}.
import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const { tarball, files } = JSON.parse(await new Response(process.stdin).text());
const modules = join(dirname(fileURLToPath(import.meta.url)), "..", "node_modules");
const root = mkdtempSync(join(tmpdir(), "cobrik-install-"));
const run = (command, args) => {
  const done = spawnSync(command, args, { cwd: root, encoding: "utf8" });
  return { ok: done.status === 0, says: (done.stdout ?? "") + (done.stderr ?? "") };
};
try {
  writeFileSync(join(root, "package.tgz"), Buffer.from(tarball, "base64"));
  writeFileSync(join(root, "package.json"), JSON.stringify({ name: "app", private: true, type: "module" }));
  // Its peers are those of the front end, which are there; nothing else is asked for.
  const installed = run("npm", ["install", "--offline", "--legacy-peer-deps", "--no-audit", "--no-fund", "--ignore-scripts", "./package.tgz"]);
  if (!installed.ok) throw new Error(installed.says);
  for (const name of ["react", "react-dom", "scheduler", "vite", "@vitejs", "@types", "csstype"]) {
    try {
      symlinkSync(join(modules, name), join(root, "node_modules", name));
    } catch (e) {
      if (e.code !== "EEXIST") throw e;
    }
  }
  for (const [path, content] of Object.entries(files)) {
    mkdirSync(dirname(join(root, path)), { recursive: true });
    writeFileSync(join(root, path), content);
  }
  const types = run("node", [join(modules, "typescript", "bin", "tsc"), "-p", "tsconfig.json"]);
  const built = run("node", [join(modules, "vite", "bin", "vite.js"), "build", "--base", "./", "--logLevel", "warn"]);
  if (!built.ok) throw new Error(built.says);
  const out = {};
  const read = (dir, at) => {
    for (const entry of readdirSync(dir, { withFileTypes: true }))
      if (entry.isDirectory()) read(join(dir, entry.name), `${at}${entry.name}/`);
      else out[at + entry.name] = readFileSync(join(dir, entry.name), "utf8");
  };
  read(join(root, "dist"), "");
  console.log(JSON.stringify({ errors: types.ok ? [] : types.says.trim().split("\n"), built: out }));
} finally {
  rmSync(root, { recursive: true });
}
