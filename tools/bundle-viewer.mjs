/**
 * Bundles the viewer as a core and parts. All of it is bundled as one script of one scope and then cut: the core is
 * what `src/viewer/main.ts` reaches, a part what only one file of `src/viewer/parts/` reaches. What several parts
 * reach becomes a shared part, one for each set of parts that do, so that a dashboard holds it only with one of them.
 */
import { readdirSync, writeFileSync } from "node:fs";
import { basename } from "node:path";
import { build } from "esbuild";
import { minify as shorten } from "terser";
import { cutScript, ownersOf } from "./cut-script.mjs";

const CORE = "src/viewer/main.ts";
const PARTS = "src/viewer/parts";
/** What starts a dashboard; the one name that is the same before and after shortening. */
const START = "wake";

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

/** The whole viewer as one script of one scope, and the files that esbuild has found in it. */
async function bundled(entries, plugins) {
  const lines = [`export { ${START} } from "./${CORE}";`, ...entries.map((file) => `import "./${file}";`)];
  const { outputFiles, metafile } = await build({
    bundle: true,
    target: "es2022",
    tsconfigRaw: { compilerOptions: { useDefineForClassFields: false } },
    charset: "ascii",
    legalComments: "none",
    logLevel: "warning",
    write: false,
    metafile: true,
    outdir: "unused",
    format: "esm",
    plugins,
    stdin: { contents: lines.join("\n"), resolveDir: process.cwd(), loader: "ts" },
  });
  return { text: outputFiles[0].text, inputs: metafile.inputs };
}

/** Where the core and each part begin: the start, and all statements that act in files that they reach. */
function beginningsOf(statements, inputs, entries) {
  const core = reachable(inputs, CORE);
  const starting = statements.flatMap(({ acts, file, gives }, place) =>
    gives.includes(START) || (acts && core.has(file)) ? [place] : [],
  );
  const beginnings = new Map([["core", starting]]);
  for (const entry of entries) {
    const own = reachable(inputs, entry);
    const acting = statements.flatMap(({ acts, file }, place) =>
      acts && own.has(file) && !core.has(file) ? [place] : [],
    );
    beginnings.set(basename(entry, ".ts"), acting);
  }
  return beginnings;
}

/**
 * The units that statements are put together in, in the order of a script: the core, shared parts (what more parts
 * reach before what fewer do, which may need it), parts. Each as `name`, the `places` of its statements, the names
 * that it `gives` to other units and, for a part, the shared parts that it `needs`: all that it reaches, also what
 * only acts and is named by nobody.
 */
function unitsOf(statements, owners, entries) {
  const keys = owners.map((own) => (own.has("core") ? "core" : [...own].sort().join(" ")));
  const count = (key) => (key === "core" ? Number.POSITIVE_INFINITY : key.split(" ").length);
  const given = new Set([...keys, ...entries.map((entry) => basename(entry, ".ts"))].filter((key) => key !== ""));
  const sorted = [...given].sort((a, b) => count(b) - count(a) || (a < b ? -1 : 1));
  const shared = sorted.filter((key) => key.includes(" "));
  const nameOf = (key) => (key.includes(" ") ? `shared-${String(shared.indexOf(key)).padStart(3, "0")}` : key);
  const asked = new Set(keys.flatMap((key, place) => [...statements[place].needs].filter((at) => keys[at] !== key)));
  return sorted.map((key) => {
    const places = [...keys.keys()].filter((place) => keys[place] === key);
    const gives = places.filter((place) => asked.has(place)).flatMap((place) => statements[place].gives);
    if (key === "core") gives.push(START);
    return {
      name: nameOf(key),
      places,
      gives: [...new Set(gives)],
      needs: key.includes(" ") ? [] : shared.filter((one) => one.split(" ").includes(key)).map(nameOf),
    };
  });
}

/** A unit made shorter by itself, all names left as they are: those that it gives are kept. */
async function folded(text, gives) {
  const kept = gives.length ? `\nexport{${gives.join(",")}};` : "";
  const { code } = await shorten(text + kept, { ecma: 2022, module: true, compress: { passes: 2 }, mangle: false });
  return code.replace(/export\{[^}]*\};?$/, "");
}

/** Texts that stand in one scope, with short names in place of long ones. */
async function renamed(texts) {
  const mark = "__next__();";
  const { code } = await shorten(texts.join(`\n${mark}\n`), {
    ecma: 2022,
    compress: false,
    mangle: { toplevel: true, reserved: [START] },
  });
  const parts = code.split(mark);
  if (parts.length !== texts.length) throw new Error("the shortened viewer cannot be cut where its parts end");
  return parts;
}

/** Bundles the viewer into a JSON file of its core and parts. `plugins` go into the bundle. */
export async function bundleViewer(outfile, { plugins = [], minify = true } = {}) {
  const entries = readdirSync(PARTS)
    .filter((file) => file.endsWith(".ts"))
    .sort()
    .map((file) => `${PARTS}/${file}`);
  const { text, inputs } = await bundled(entries, plugins);
  const statements = cutScript(text);
  const owners = ownersOf(statements, beginningsOf(statements, inputs, entries));
  const units = unitsOf(statements, owners, entries);
  const plain = units.map(({ places }) => places.map((place) => statements[place].text).join("\n"));
  const texts = minify
    ? await renamed(await Promise.all(units.map(({ gives }, at) => folded(plain[at], gives))))
    : plain.map((one, at) => `// ${units[at].name}\n${one}`);
  const [core, ...rest] = texts;
  const named = units.slice(1);
  const parts = Object.fromEntries(named.map(({ name }, at) => [name, rest[at]]));
  const needs = Object.fromEntries(
    named
      .filter((unit) => unit.needs.length)
      .map((unit) => [unit.name, unit.needs.sort()])
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  );
  writeFileSync(outfile, JSON.stringify({ core, parts, needs }));
}
