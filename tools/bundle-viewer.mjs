/**
 * Bundles the viewer as a core and parts. The core is what `src/viewer/main.ts` reaches, and whatever
 * more than one part reaches; a part is what only one file of `src/viewer/parts/` reaches. Parts take
 * what they need of the core from one object, `S`, under names that are given out in a fixed order.
 */
import { readdirSync, writeFileSync } from "node:fs";
import { basename, resolve } from "node:path";
import { build } from "esbuild";

const CORE = "src/viewer/main.ts";
const PARTS = "src/viewer/parts";

const common = {
  bundle: true,
  target: "es2022",
  charset: "ascii",
  legalComments: "none",
  logLevel: "warning",
  write: false,
};

/** All files that each file reaches, by what bundling all of them has found. */
function reachable(inputs, start) {
  const found = new Set();
  const visit = (file) => {
    if (found.has(file)) return;
    found.add(file);
    for (const { path, external } of inputs[file]?.imports ?? []) if (!external) visit(path);
  };
  visit(start);
  return found;
}

/** Which files are core: those of the core's own, and those that two parts share. */
async function coreFiles(entries, plugins) {
  const { metafile } = await build({
    ...common,
    plugins,
    entryPoints: [CORE, ...entries],
    outdir: "unused",
    metafile: true,
    format: "esm",
  });
  const core = reachable(metafile.inputs, CORE);
  const owners = new Map();
  for (const entry of entries)
    for (const file of reachable(metafile.inputs, entry)) owners.set(file, (owners.get(file) ?? 0) + 1);
  for (const [file, count] of owners) if (count > 1) core.add(file);
  return new Set([...core].map((file) => resolve(file)));
}

/** Leaves imports of core files open in a part, under the file's name. */
const leavingOpen = (core) => ({
  name: "leaving-open",
  setup({ onResolve, resolve: find }) {
    onResolve({ filter: /.*/ }, async ({ path, pluginData, ...at }) => {
      if (pluginData === "asked" || at.kind === "entry-point") return undefined;
      const found = await find(path, { ...at, pluginData: "asked" });
      return core.has(found.path) ? { path: `core:${found.path}`, external: true } : found;
    });
  },
});

/** The names that a part asks of each core file, read from what esbuild itself has written. */
function namesAsked(text) {
  const asked = [];
  for (const [, names, file] of text.matchAll(/import\s*\{([^}]*)\}\s*from\s*"core:([^"]+)";/g))
    for (const name of names.split(",")) if (name.trim()) asked.push([file, name.trim().split(/\s+as\s+/)[0]]);
  const odd = /import\s+(?:\w+|\*[^;]*)\s+from\s*"core:[^"]+"/.exec(text);
  if (odd) throw new Error(`a part takes a whole module of the core: ${odd[0]}`);
  return asked;
}

/** Reads core files from `S` where a part imports them. */
const readingShared = (core, shared) => ({
  name: "reading-shared",
  setup({ onResolve, onLoad, resolve: find }) {
    onResolve({ filter: /.*/ }, async ({ path, pluginData, ...at }) => {
      if (pluginData === "asked" || at.kind === "entry-point") return undefined;
      const found = await find(path, { ...at, pluginData: "asked" });
      return core.has(found.path) ? { path: found.path, namespace: "shared" } : found;
    });
    onLoad({ filter: /.*/, namespace: "shared" }, ({ path }) => ({
      contents: [...shared]
        .filter(([key]) => key.startsWith(`${path} `))
        .map(([key, short]) => `export const ${key.slice(path.length + 1)} = S.${short};`)
        .join("\n"),
      loader: "js",
    }));
  },
});

/** Bundles the viewer into a JSON file of its core and parts. `plugins` go into every bundle. */
export async function bundleViewer(outfile, { plugins = [], minify = true } = {}) {
  const entries = readdirSync(PARTS)
    .filter((file) => file.endsWith(".ts"))
    .sort()
    .map((file) => `${PARTS}/${file}`);
  const core = await coreFiles(entries, plugins);
  const open = await Promise.all(
    entries.map((entry) =>
      build({
        ...common,
        plugins: [leavingOpen(core), ...plugins],
        entryPoints: [entry],
        format: "esm",
        treeShaking: true,
      }),
    ),
  );
  const asked = new Set(
    open.flatMap(({ outputFiles }) => namesAsked(outputFiles[0].text).map(([file, name]) => `${file} ${name}`)),
  );
  const shared = new Map([...asked].sort().map((key, at) => [key, `a${at.toString(36)}`]));
  const own = resolve(CORE);
  const lines = [`import { wake } from ${JSON.stringify(own)};`, "S.wake = wake;"];
  for (const [key, short] of shared) {
    const at = key.lastIndexOf(" ");
    lines.push(`import { ${key.slice(at + 1)} as ${short} } from ${JSON.stringify(key.slice(0, at))};`);
    lines.push(`S.${short} = ${short};`);
  }
  const made = { ...common, minify, format: "iife" };
  const whole = await build({
    ...made,
    plugins,
    stdin: { contents: lines.join("\n"), resolveDir: process.cwd(), loader: "ts" },
  });
  const parts = {};
  await Promise.all(
    entries.map(async (entry) => {
      const { outputFiles } = await build({
        ...made,
        plugins: [readingShared(core, shared), ...plugins],
        entryPoints: [entry],
      });
      parts[basename(entry, ".ts")] = outputFiles[0].text.trim();
    }),
  );
  const sorted = Object.fromEntries(Object.entries(parts).sort(([a], [b]) => (a < b ? -1 : 1)));
  writeFileSync(outfile, JSON.stringify({ core: whole.outputFiles[0].text.trim(), parts: sorted }));
}
