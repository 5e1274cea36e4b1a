/**
 * Bundles the viewer as a core and parts. The core is what `src/viewer/main.ts` reaches; a part is what
 * only one file of `src/viewer/parts/` reaches. What several parts reach becomes a shared part, one for
 * each set of parts that do, so that a dashboard holds it only with one of them. All take what they need
 * of one another from one object, `S`, under names that are given out in a fixed order.
 */
import { readdirSync, writeFileSync } from "node:fs";
import { basename, resolve } from "node:path";
import { build } from "esbuild";
import { minify as shorten } from "terser";

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

/** All files that a file reaches, by what bundling all of them has found. */
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

/** The unit that each file belongs to: `core`, a part by its name, or a shared part by the parts that reach it. */
async function unitsOf(entries, plugins) {
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
    for (const file of reachable(metafile.inputs, entry))
      if (!core.has(file)) owners.set(file, [...(owners.get(file) ?? []), basename(entry, ".ts")]);
  const units = new Map([...core].map((file) => [resolve(file), "core"]));
  for (const [file, own] of owners) units.set(resolve(file), own.join(" "));
  return units;
}

/** Leaves imports of other units' files open, under the file's name. */
const leavingOpen = (units, own) => ({
  name: "leaving-open",
  setup({ onResolve, resolve: find }) {
    onResolve({ filter: /.*/ }, async ({ path, pluginData, ...at }) => {
      if (pluginData === "asked" || at.kind === "entry-point") return undefined;
      const found = await find(path, { ...at, pluginData: "asked" });
      return units.get(found.path) === own ? found : { path: `unit:${found.path}`, external: true };
    });
  },
});

/** The names that a unit asks of each file of others, read from what esbuild itself has written. */
function namesAsked(text) {
  const asked = [];
  for (const [, names, file] of text.matchAll(/import\s*\{([^}]*)\}\s*from\s*"unit:([^"]+)";/g))
    for (const name of names.split(",")) if (name.trim()) asked.push(`${file} ${name.trim().split(/\s+as\s+/)[0]}`);
  const odd = /import\s+(?:\w+|\*[^;]*)\s+from\s*"unit:[^"]+"/.exec(text);
  if (odd) throw new Error(`a part takes a whole module of another: ${odd[0]}`);
  return asked;
}

/** Reads files of other units from `S` where one imports them. */
const readingShared = (units, own, shared) => ({
  name: "reading-shared",
  setup({ onResolve, onLoad, resolve: find }) {
    onResolve({ filter: /.*/ }, async ({ path, pluginData, ...at }) => {
      if (pluginData === "asked" || at.kind === "entry-point") return undefined;
      const found = await find(path, { ...at, pluginData: "asked" });
      return units.get(found.path) === own ? found : { path: found.path, namespace: "shared" };
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

const splitKey = (key) => [key.slice(0, key.lastIndexOf(" ")), key.slice(key.lastIndexOf(" ") + 1)];

/** What a unit without a file of its own does: hand out what others ask of its files. */
function handingOut(shared, isOwn) {
  const lines = [];
  for (const [key, short] of shared) {
    const [file, name] = splitKey(key);
    if (isOwn(file))
      lines.push(`import { ${name} as ${short} } from ${JSON.stringify(file)};`, `S.${short} = ${short};`);
  }
  return lines;
}

/** Which names each unit asks of others: until no unit asks for more, as what is handed out may ask in turn. */
async function namesOf(units, entries, plugins) {
  const byUnit = new Map();
  const shared = [...new Set(units.values())].filter((unit) => unit !== "core" && unit.includes(" "));
  const ask = async (unit, input) => {
    const { outputFiles } = await build({
      ...common,
      plugins: [leavingOpen(units, unit), ...plugins],
      ...input,
      format: "esm",
    });
    byUnit.set(unit, namesAsked(outputFiles[0].text));
  };
  await Promise.all(entries.map((entry) => ask(basename(entry, ".ts"), { entryPoints: [entry] })));
  for (let before = -1; ; ) {
    const all = [...new Set([...byUnit.values()].flat())].sort();
    if (all.length === before) return { byUnit, all, shared };
    before = all.length;
    for (const unit of shared) {
      const lines = handingOut(
        all.map((key, at) => [key, `n${at}`]),
        (file) => units.get(file) === unit,
      );
      await ask(unit, { stdin: { contents: lines.join("\n"), resolveDir: process.cwd(), loader: "ts" } });
    }
  }
}

/** Bundles the viewer into a JSON file of its core and parts. `plugins` go into every bundle. */
export async function bundleViewer(outfile, { plugins = [], minify = true } = {}) {
  const entries = readdirSync(PARTS)
    .filter((file) => file.endsWith(".ts"))
    .sort()
    .map((file) => `${PARTS}/${file}`);
  const units = await unitsOf(entries, plugins);
  const { byUnit, all, shared: groups } = await namesOf(units, entries, plugins);
  const shared = new Map(all.map((key, at) => [key, `a${at.toString(36)}`]));
  const bundle = async (unit, input) => {
    const reading = unit === "core" ? [] : [readingShared(units, unit, shared)];
    const { outputFiles } = await build({
      ...common,
      minify,
      format: "iife",
      plugins: [...reading, ...plugins],
      ...input,
    });
    const text = outputFiles[0].text.trim();
    // Once more over what esbuild has made: a twentieth less after packing.
    return minify ? (await shorten(text, { ecma: 2022, compress: { passes: 2 } })).code : text;
  };
  const made = (lines) => ({ stdin: { contents: lines.join("\n"), resolveDir: process.cwd(), loader: "ts" } });
  const isCore = (file) => units.get(file) === "core";
  const wake = [`import { wake } from ${JSON.stringify(resolve(CORE))};`, "S.wake = wake;"];
  const core = await bundle("core", made([...wake, ...handingOut(shared, isCore)]));
  // What more parts reach stands before what fewer do, which may need it.
  groups.sort((a, b) => b.split(" ").length - a.split(" ").length || (a < b ? -1 : 1));
  const nameOf = new Map(groups.map((unit, at) => [unit, `shared-${String(at).padStart(2, "0")}`]));
  const parts = {};
  for (const unit of groups)
    parts[nameOf.get(unit)] = await bundle(unit, made(handingOut(shared, (file) => units.get(file) === unit)));
  for (const entry of entries)
    parts[basename(entry, ".ts")] = await bundle(basename(entry, ".ts"), { entryPoints: [entry] });
  const needs = {};
  for (const [unit, keys] of byUnit) {
    const wanted = new Set(keys.map((key) => nameOf.get(units.get(splitKey(key)[0]))).filter(Boolean));
    if (wanted.size) needs[nameOf.get(unit) ?? unit] = [...wanted].sort();
  }
  const sorted = Object.fromEntries(Object.entries(needs).sort(([a], [b]) => (a < b ? -1 : 1)));
  writeFileSync(outfile, JSON.stringify({ core, parts, needs: sorted }));
}
