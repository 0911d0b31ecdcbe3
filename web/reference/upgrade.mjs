// Runs emitted programs that rewrite code. Standard input: {"tasks": [{"program", "files": {path: content}}, …]}; standard output: [{files, says, code}, …].
import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const { tasks } = JSON.parse(await new Response(process.stdin).text());
const root = mkdtempSync(join(tmpdir(), "cobrik-upgrade-"));
try {
  symlinkSync(join(dirname(fileURLToPath(import.meta.url)), "..", "node_modules"), join(root, "node_modules"));
  writeFileSync(join(root, "package.json"), "{}");
  const out = tasks.map(({ program, files }, i) => {
    const dir = join(root, String(i));
    for (const [path, content] of Object.entries(files)) {
      mkdirSync(dirname(join(dir, path)), { recursive: true });
      writeFileSync(join(dir, path), content);
    }
    writeFileSync(join(root, `${i}.mjs`), program);
    const run = spawnSync("node", [join(root, `${i}.mjs`), String(i)], { cwd: root, encoding: "utf8" });
    if (run.stderr) throw new Error(run.stderr);
    return { files: Object.fromEntries(Object.keys(files).map((path) => [path, readFileSync(join(dir, path), "utf8")])), says: run.stdout, code: run.status };
  });
  console.log(JSON.stringify(out));
} finally {
  rmSync(root, { recursive: true });
}
