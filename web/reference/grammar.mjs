// Which values the css-tree library takes for which properties, by the
// specifications' own grammars, for core/css's tests.
// Standard input: {"pairs": [[property, value], …]}; standard output: [true, …].
import { lexer, parse } from "css-tree";
import { readFileSync } from "node:fs";

const taken = ([property, value]) => {
  try {
    return lexer.matchProperty(property, parse(value, { context: "value" })).error === null;
  } catch {
    return false;
  }
};

const { pairs } = JSON.parse(readFileSync(0, "utf8"));
console.log(JSON.stringify(pairs.map(taken)));
