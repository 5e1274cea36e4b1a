/** Bundles what runs outside Next: the viewer, the terminal, the data maker, the benches. */
import { mkdirSync } from "node:fs";
import { build } from "esbuild";

mkdirSync(".build", { recursive: true });
const node = { bundle: true, platform: "node", format: "esm", packages: "external", target: "node20", logLevel: "warning" };
await Promise.all([
  build({
    entryPoints: ["src/viewer/main.ts"],
    bundle: true,
    minify: true,
    format: "iife",
    target: "es2022",
    charset: "ascii",
    legalComments: "none",
    outfile: ".build/viewer.js",
    logLevel: "warning",
  }),
  build({ ...node, entryPoints: ["src/cli/main.ts"], outfile: ".build/cli.mjs" }),
  build({ ...node, entryPoints: ["examples/make/main.ts"], outfile: ".build/make.mjs" }),
]);
