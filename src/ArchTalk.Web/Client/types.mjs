// Makes the types of what players read from the JSON Schema in docs/formats, so that the client can't drift from the format.
import { writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { compileFromFile } from "json-schema-to-typescript";

const client = dirname(fileURLToPath(import.meta.url));
const types = await compileFromFile(join(client, "../../../docs/formats/timeline.schema.json"), {
  additionalProperties: false,
  bannerComment: "// Made by types.mjs from docs/formats/timeline.schema.json; not to be changed by hand.",
  unreachableDefinitions: true,
});
writeFileSync(join(client, "timeline/files.ts"), types);
