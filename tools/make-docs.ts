/** Writes docs/language.md and docs/limits.md from what the code itself goes by. Run with `node tools/bundle.mjs && node .build/make-docs.mjs`. */
import { writeFileSync } from "node:fs";
import { languageReference } from "../src/core/sheet/reference";
import { limitsReference } from "../src/server/limits-reference";

writeFileSync("docs/language.md", languageReference());
writeFileSync("docs/limits.md", limitsReference());
