/** Writes docs/language.md from the schema. Run with `node tools/bundle.mjs && node .build/make-docs.mjs`. */
import { writeFileSync } from "node:fs";
import { languageReference } from "../src/core/sheet/reference";

writeFileSync("docs/language.md", languageReference());
