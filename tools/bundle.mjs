/** Bundles what runs outside Next: the viewer, the terminal, the data maker, the benches. */
import { copyFileSync, mkdirSync, readFileSync } from "node:fs";
import { build } from "esbuild";
import { bundleViewer } from "./bundle-viewer.mjs";
import { makeGuide } from "./make-guide.mjs";

mkdirSync(".build", { recursive: true });

/** d3-array makes a shuffler of random numbers as it loads; nothing here uses it, and marked as pure it is left out. */
const withoutShuffler = {
  name: "without-shuffler",
  setup({ onLoad }) {
    onLoad({ filter: /d3-array[\\/](dist|src)[\\/].*\.m?js$/ }, ({ path }) => ({
      contents: readFileSync(path, "utf8").replaceAll("shuffler(Math.random)", "/* @__PURE__ */ shuffler(Math.random)"),
      loader: "js",
    }));
  },
};

const node = {
  bundle: true,
  platform: "node",
  format: "esm",
  packages: "external",
  target: "node20.10",
  logLevel: "warning",
};
// Processes that are started again and again hold their packages in one file: they begin in two thirds of the time.
const whole = {
  ...node,
  packages: "bundle",
  banner: {
    js: 'import { createRequire as makeRequire } from "node:module"; const require = makeRequire(import.meta.url);',
  },
};
await Promise.all([
  bundleViewer(".build/viewer.json", { plugins: [withoutShuffler], minify: process.env.STILL_PLAIN !== "1" }),
  build({ ...node, entryPoints: ["src/cli/main.ts"], outfile: ".build/cli.mjs" }),
  build({ ...whole, entryPoints: ["src/cli/work.ts"], outfile: ".build/work.mjs" }),
  build({ ...whole, entryPoints: ["src/server/build-process.ts"], outfile: ".build/build-process.mjs" }),
  build({ ...node, entryPoints: ["examples/make/main.ts"], outfile: ".build/make.mjs" }),
  build({
    ...node,
    entryPoints: ["docs", "fonts", "land"].map((made) => `tools/make-${made}.ts`),
    outdir: ".build",
    outExtension: { ".js": ".mjs" },
  }),
  build({ ...node, entryPoints: ["bench/main.ts"], outfile: ".build/bench.mjs" }),
]);

// The workbench opens on the demo report: its files and the viewer are served as they are.
mkdirSync("public/demo", { recursive: true });
for (const file of ["quay-calls.still.yaml", "calls.csv"])
  copyFileSync(`examples/quay-calls/${file}`, `public/demo/${file}`);
copyFileSync(".build/viewer.json", "public/demo/viewer.json");
makeGuide();
