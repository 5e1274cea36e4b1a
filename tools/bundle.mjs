/** Bundles what runs outside Next: the viewer, the terminal, the data maker, the benches. */
import { copyFileSync, existsSync, mkdirSync } from "node:fs";
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

// The workbench opens on the demo report: its files and the viewer are served as they are.
mkdirSync("public/demo", { recursive: true });
for (const file of ["quay-calls.still.yaml", "calls.csv"]) copyFileSync(`examples/quay-calls/${file}`, `public/demo/${file}`);
if (existsSync(".build/viewer.js")) copyFileSync(".build/viewer.js", "public/demo/viewer.js");
