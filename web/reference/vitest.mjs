// Runs the tests of emitted components. Standard input: {"files": [{"path", "content"}, …]}; standard output: [{file, name, passed, says}, …], a file that cannot be run as a
// test of no name.
import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";

const { files } = JSON.parse(await new Response(process.stdin).text());
const modules = join(dirname(fileURLToPath(import.meta.url)), "..", "node_modules");
const root = mkdtempSync(join(tmpdir(), "cobrik-vitest-"));
try {
  for (const { path, content } of files) {
    mkdirSync(dirname(join(root, path)), { recursive: true });
    writeFileSync(join(root, path), content);
  }
  symlinkSync(modules, join(root, "node_modules"));
  const run = spawnSync("node", [join(modules, "vitest", "vitest.mjs"), "run", "--root", root, "--pool=threads", "--no-isolate", "--reporter=json", "--outputFile=out.json"], { cwd: root, encoding: "utf8" });
  let out;
  try {
    out = JSON.parse(readFileSync(join(root, "out.json"), "utf8"));
  } catch {
    throw new Error(run.stdout + run.stderr);
  }
  console.log(
    JSON.stringify(
      out.testResults.flatMap(({ name, assertionResults, message }) => {
        const file = relative(root, name);
        if (assertionResults.length === 0) return [{ file, name: "", passed: false, says: message }];
        return assertionResults.map((a) => ({ file, name: a.title, passed: a.status === "passed", says: a.failureMessages.join("\n").slice(0, 1500) }));
      }),
    ),
  );
} finally {
  rmSync(root, { recursive: true });
}
