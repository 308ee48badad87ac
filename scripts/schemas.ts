/** Writes the JSON Schemas (draft 2020-12) of the open formats to schemas/. Run: npm run schemas */
import { mkdirSync, writeFileSync } from "node:fs";
import { jsonSchemas } from "@/core/formats/json-schema";

mkdirSync("schemas", { recursive: true });
for (const [name, schema] of Object.entries(jsonSchemas()))
  writeFileSync(`schemas/${name}.json`, `${JSON.stringify(schema, null, 2)}\n`);
