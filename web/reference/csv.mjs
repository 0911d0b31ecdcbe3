// Reads comma-separated values with csv-parse (RFC 4180). Standard input: {"texts": […]}; standard output: for each the rows, or null where it is refused.
import { parse } from "csv-parse/sync";

const { texts } = JSON.parse(await new Response(process.stdin).text());
const read = (text) => {
  try {
    return parse(text, { bom: true, relax_column_count: true });
  } catch {
    return null;
  }
};
console.log(JSON.stringify(texts.map(read)));
