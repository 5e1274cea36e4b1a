/**
 * Makes the outlines of land from the package that has them. Run with `node .build/make-land.mjs`; what it writes is
 * committed.
 */
import { writeFileSync } from "node:fs";
import fine from "world-atlas/land-50m.json" with { type: "json" };
import coarse from "world-atlas/land-110m.json" with { type: "json" };

writeFileSync(
  "src/core/compile/land-outlines.ts",
  `// Made by tools/make-land.ts from the package of outlines; not edited by hand.

/**
 * The outlines of land as texts of TopoJSON, in two finenesses. As texts, as they are large: a program that draws no
 * map of the world reads past them at once.
 */
export const LAND_OUTLINES = {
  fine: '${JSON.stringify(fine)}',
  coarse: '${JSON.stringify(coarse)}',
};
`,
);
