// General-purpose readers of what Cobrik writes, for its tests: css-tree, sass
// and TypeScript. Standard input: {"task", …}; standard output: JSON.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";

const tasks = {
  // Every declaration with the rule and at-rules it stands in; errors thrown.
  css: async ({ text }) => {
    const csstree = await import("css-tree");
    const errors = [];
    const tree = csstree.parse(text, { positions: true, parseCustomProperty: true, onParseError: (e) => errors.push(e.message) });
    const declarations = [];
    csstree.walk(tree, {
      visit: "Declaration",
      enter(node) {
        declarations.push({
          selector: this.rule ? csstree.generate(this.rule.prelude) : "",
          within: this.atrule ? `@${this.atrule.name} ${csstree.generate(this.atrule.prelude)}` : "",
          property: node.property,
          value: csstree.generate(node.value),
        });
      },
    });
    return { errors, declarations };
  },
  sass: async ({ text }) => {
    const sass = await import("sass");
    const dir = mkdtempSync(join(tmpdir(), "cobrik-sass-"));
    try {
      writeFileSync(join(dir, "_tokens.scss"), text);
      const { css } = sass.compileString('@use "tokens"; @each $k, $v in tokens.$tokens { x { key: $k; value: inspect($v); } }'.replace("inspect", "meta.inspect").replace("@use", '@use "sass:meta"; @use'), {
        loadPaths: [dir],
        style: "expanded",
      });
      const out = {};
      for (const m of css.matchAll(/key: "(.*)";\s+value: (.*);/g)) out[m[1]] = m[2];
      return out;
    } finally {
      rmSync(dir, { recursive: true });
    }
  },
  // Several modules at once: what the strict compiler says, what each exports.
  typescript: async ({ texts }) => {
    const { default: ts } = await import("typescript");
    const dir = mkdtempSync(join(tmpdir(), "cobrik-ts-"));
    try {
      const files = texts.map((text, i) => {
        const file = join(dir, `tokens${i}.ts`);
        writeFileSync(file, text);
        return file;
      });
      const shared = { target: ts.ScriptTarget.ES2022, module: ts.ModuleKind.ESNext };
      const program = ts.createProgram(files, { ...shared, strict: true, noEmit: true, types: [], lib: ["lib.es5.d.ts"], skipLibCheck: true });
      const errors = ts.getPreEmitDiagnostics(program).map((d) => ts.flattenDiagnosticMessageText(d.messageText, "\n"));
      const tokens = [];
      for (const [i, text] of texts.entries()) {
        const js = join(dir, `tokens${i}.mjs`);
        writeFileSync(js, ts.transpileModule(text, { compilerOptions: shared }).outputText);
        tokens.push((await import(pathToFileURL(js).href)).tokens);
      }
      return { errors, tokens };
    } finally {
      rmSync(dir, { recursive: true });
    }
  },
};

const input = JSON.parse(readFileSync(0, "utf8"));
process.stdout.write(JSON.stringify(await tasks[input.task](input)));
