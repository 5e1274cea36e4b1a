/** Writes docs/language.md, docs/sheet.schema.json and docs/limits.md from what the code itself goes by. Run with `node tools/bundle.mjs && node .build/make-docs.mjs`. */
import { writeFileSync } from "node:fs";
import { languageReference, publishedSchema } from "../src/core/sheet/reference";
import { limitsReference } from "../src/server/limits-reference";

writeFileSync("docs/language.md", languageReference());
writeFileSync("docs/sheet.schema.json", `${JSON.stringify(publishedSchema(), null, 2)}\n`);
writeFileSync("docs/limits.md", limitsReference());
