// Holds documents to JSON Schemas with Ajv. Standard input: {"schema": a schema, or "manifest" for that of the Custom Elements Manifest, "documents": […]}; standard
// output: for each document the errors, [] for none.
import { readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import Ajv from "ajv";
import Ajv2020 from "ajv/dist/2020.js";

const { schema, documents } = JSON.parse(await new Response(process.stdin).text());
const manifest = join(dirname(fileURLToPath(import.meta.url)), "..", "node_modules", "custom-elements-manifest", "schema.json");
const ajv = schema === "manifest" ? new Ajv({ allErrors: true, strict: false }) : new Ajv2020({ allErrors: true, strict: true, strictRequired: false, formats: { "uri-reference": true } });
const validate = ajv.compile(schema === "manifest" ? JSON.parse(readFileSync(manifest, "utf8")) : schema);
console.log(JSON.stringify(documents.map((d) => (validate(d) ? [] : validate.errors.map((e) => `${e.instancePath} ${e.message}`)))));
