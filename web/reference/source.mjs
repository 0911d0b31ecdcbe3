// What general-purpose tools read of source files, for tests of Cobrik's reading: css-tree the declarations of style
// sheets, TypeScript the props of components.
import { readFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

const task = JSON.parse(readFileSync(0, "utf8"));

async function sheets(files) {
  const { parse, walk } = await import("css-tree");
  return files.map((file) => {
    const out = [];
    const text = readFileSync(file, "utf8");
    const tree = parse(text, { positions: true, parseValue: false, parseCustomProperty: false });
    walk(tree, (node) => {
      if (node.type === "Declaration") {
        const { start, end } = node.value.loc;
        out.push(`${node.property}:${text.slice(start.offset, end.offset).replace(/\/\*[^]*?\*\//g, "").replace(/[ \t\r\n\f]+/g, "")}${node.important ? "!" : ""}`);
      }
    });
    return out;
  });
}

async function props(dirs) {
  const { default: ts } = await import("typescript");
  const modules = path.join(path.dirname(fileURLToPath(import.meta.url)), "..", "node_modules");
  const options = {
    jsx: ts.JsxEmit.ReactJSX, strict: true, noEmit: true, skipLibCheck: true, target: ts.ScriptTarget.ES2022, module: ts.ModuleKind.ESNext, types: [], typeRoots: [],
    moduleResolution: ts.ModuleResolutionKind.Bundler, paths: { react: [path.join(modules, "@types/react")], "react/*": [path.join(modules, "@types/react/*")] },
  };
  const program = ts.createProgram(dirs.flatMap(({ dir, files }) => files.map((f) => path.join(dir, f))), options);
  const checker = program.getTypeChecker();
  return dirs.map(({ dir, files }) => {
    const out = {};
    for (const file of files) {
      const source = program.getSourceFile(path.join(dir, file));
      const symbol = source && checker.getSymbolAtLocation(source);
      if (!symbol) continue;
      for (const exported of checker.getExportsOfModule(symbol)) {
        let name = exported.name;
        const real = exported.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(exported) : exported;
        if (name === "default") name = "default";
        const type = checker.getTypeOfSymbolAtLocation(real, source);
        const signature = type.getCallSignatures()[0];
        if (!signature || !/^[A-Z]/.test(name === "default" ? "D" : name)) continue;
        const given = signature.getParameters()[0];
        if (!given) continue;
        const members = {};
        const of = checker.getTypeOfSymbolAtLocation(given, source);
        const all = of.isUnion() ? of.types.flatMap((t) => checker.getPropertiesOfType(t)) : checker.getPropertiesOfType(of);
        for (const p of all) {
          const own = (p.declarations ?? []).some((d) => path.resolve(d.getSourceFile().fileName).startsWith(path.resolve(dir)));
          if (!own) continue;
          const t = checker.getNonNullableType(checker.getTypeOfSymbolAtLocation(p, source));
          const options = t.isUnion() && t.types.every((o) => o.isStringLiteral()) ? t.types.map((o) => o.value) : [];
          const before = members[p.name];
          members[p.name] = { optional: Boolean(p.flags & ts.SymbolFlags.Optional) || of.isUnion(), options: options.length ? options.sort() : (before?.options ?? []), text: checker.typeToString(t) };
        }
        out[`${file} ${name}`] = members;
      }
    }
    return out;
  });
}

const answer = task.sheets ? await sheets(task.sheets) : await props(task.props);
process.stdout.write(JSON.stringify(answer));
