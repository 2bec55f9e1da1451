// Reads a JSON Schema from standard input and writes TypeScript types to standard output.
import { compile } from "json-schema-to-typescript";

let text = "";
for await (const chunk of process.stdin) text += chunk;
const source = await compile(JSON.parse(text), "Everything", {
  bannerComment: "/* Generated from the server's models by python -m eddyfield.web.generate_types; not to be edited. */",
  unreachableDefinitions: true,
  additionalProperties: false,
  format: true,
});
process.stdout.write(source);
