// Rewrites uses of COMPONENT from VERSIONS: node upgrade.mjs src
// It asks for TypeScript, which it takes from the project; with --check it writes nothing. What is for people to choose is
// listed with its place, and the exit code is 1 then.
import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";

const ts = createRequire(join(process.cwd(), "package.json"))("typescript");
const component = COMPONENT_NAME;
const steps = STEPS;

const check = process.argv.includes("--check");
const names = process.argv.slice(2).filter((name) => name !== "--check");
const of = (kind) => steps.filter((s) => s.kind === kind);
const renamed = of("component renamed")[0]?.to;
let left = 0;
let changed = 0;

/** The files of a folder that may use components, those of packages aside. */
function* files(name) {
  if (!statSync(name).isDirectory()) {
    yield name;
    return;
  }
  for (const inside of readdirSync(name))
    if (inside !== "node_modules" && !inside.startsWith(".")) {
      const path = join(name, inside);
      if (statSync(path).isDirectory()) yield* files(path);
      else if (/\.[jt]sx$/.test(inside)) yield path;
    }
}

function upgrade(path) {
  const text = readFileSync(path, "utf8");
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.Latest, true, path.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS);
  const edits = [];
  const edit = (node, to) => edits.push({ from: node.getStart(source), to: node.getEnd(), text: to });
  const ask = (node, what) => {
    const { line, character } = source.getLineAndCharacterOfPosition(node.getStart(source));
    console.log(`${path}:${line + 1}:${character + 1} ${what}`);
    left++;
  };

  // Under which names the component is known in this file, and in which namespaces it may be.
  const locals = new Map();
  const namespaces = new Set();
  for (const statement of source.statements) {
    const bindings = ts.isImportDeclaration(statement) ? statement.importClause?.namedBindings : undefined;
    if (bindings && ts.isNamespaceImport(bindings)) namespaces.add(bindings.name.text);
    if (bindings && ts.isNamedImports(bindings))
      for (const one of bindings.elements) if ((one.propertyName ?? one.name).text === component) locals.set(one.name.text, one);
  }
  const isIts = (tag) =>
    (ts.isIdentifier(tag) && locals.has(tag.text)) ||
    (ts.isPropertyAccessExpression(tag) && tag.name.text === component && ts.isIdentifier(tag.expression) && namespaces.has(tag.expression.text));

  /** Writes an option's other name wherever an expression says it; what cannot be read is asked. */
  const rename = (node, step) => {
    if (ts.isStringLiteralLike(node)) {
      if (node.text === step.value) edit(node, JSON.stringify(step.to));
    } else if (ts.isJsxExpression(node) && node.expression) rename(node.expression, step);
    else if (ts.isParenthesizedExpression(node) || ts.isAsExpression(node) || ts.isSatisfiesExpression(node)) rename(node.expression, step);
    else if (ts.isConditionalExpression(node)) [node.whenTrue, node.whenFalse].forEach((n) => rename(n, step));
    else if (ts.isBinaryExpression(node)) [node.left, node.right].forEach((n) => rename(n, step));
    else ask(node, step.what);
  };
  const says = (attribute, value) => {
    const is = attribute.initializer;
    return is === undefined ? value === true : !ts.isStringLiteral(is) || is.text === value;
  };

  const uses = [];
  const visit = (node) => {
    if ((ts.isJsxOpeningElement(node) || ts.isJsxSelfClosingElement(node)) && isIts(node.tagName)) uses.push(node);
    ts.forEachChild(node, visit);
  };
  visit(source);

  for (const use of uses) {
    const given = new Map();
    let spread = false;
    for (const a of use.attributes.properties) {
      if (ts.isJsxAttribute(a)) given.set(a.name.getText(source), a);
      else spread = true;
    }
    if (spread) ask(use, "Look at what is spread here: " + steps.filter((s) => s.kind !== "component renamed").map((s) => s.what).join(" "));
    for (const step of steps) {
      const attribute = given.get(step.prop);
      switch (step.kind) {
        case "prop renamed":
          if (attribute) edit(attribute.name, step.to);
          break;
        case "option renamed":
          if (attribute?.initializer) rename(attribute.initializer, step);
          break;
        case "default changed":
          if (!attribute && !spread) {
            const at = use.attributes.properties.length > 0 ? use.attributes.getEnd() : use.attributes.pos;
            edits.push({ from: at, to: at, text: " " + step.given });
          }
          break;
        case "prop removed":
        case "prop retyped":
          if (attribute) ask(attribute, step.what);
          break;
        case "option removed":
          if (attribute && says(attribute, step.value)) ask(attribute, step.what);
          break;
        case "prop required":
          if (!attribute && !spread && !(step.prop === "children" && !ts.isJsxSelfClosingElement(use))) ask(use, step.what);
          break;
        case "element removed": {
          const as = given.get("as");
          if (as ? says(as, step.value) : step.default) ask(use, step.what);
          break;
        }
        case "props apart":
          if (attribute && given.has(step.value)) ask(use, step.what);
          break;
      }
    }
  }

  if (renamed)
    for (const [local, specifier] of locals) {
      if (specifier.propertyName) {
        edit(specifier.propertyName, renamed);
        continue;
      }
      const elsewhere = []; // where it is named as anything but an element
      const look = (node) => {
        if (ts.isIdentifier(node) && node.text === local && node !== specifier.name) elsewhere.push(node);
        ts.forEachChild(node, look);
      };
      look(source);
      const tags = elsewhere.filter((n) => ts.isJsxOpeningElement(n.parent) || ts.isJsxSelfClosingElement(n.parent) || ts.isJsxClosingElement(n.parent));
      if (tags.length === elsewhere.length) [specifier.name, ...tags].forEach((n) => edit(n, renamed));
      else edit(specifier.name, `${renamed} as ${local}`);
    }
  if (renamed)
    ts.forEachChild(source, function look(node) {
      if (ts.isPropertyAccessExpression(node) && isIts(node)) edit(node.name, renamed);
      ts.forEachChild(node, look);
    });

  if (edits.length === 0) return;
  changed++;
  edits.sort((a, b) => b.from - a.from);
  let out = text;
  for (const e of edits) out = out.slice(0, e.from) + e.text + out.slice(e.to);
  if (!check) writeFileSync(path, out);
}

if (names.length === 0) {
  console.error("Name the files or folders that use " + component + ".");
  process.exit(2);
}
for (const name of names) for (const path of files(name)) upgrade(path);
console.log(`${changed} ${changed === 1 ? "file" : "files"} ${check ? "would be" : "were"} rewritten, ${left} ${left === 1 ? "place is" : "places are"} for you to decide.`);
if (left > 0) process.exitCode = 1;
