/**
 * Checks the import direction of the sources. The rules are dependency-cruiser's; since it cannot
 * read this TypeScript by itself, it is given the sources with their types taken off: once with
 * type-only imports turned into plain ones (direction), once without them (circles).
 */
import { spawnSync } from "node:child_process";
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { transformSync } from "esbuild";

const sources = readdirSync("src", { recursive: true }).filter(
  (file) => /\.tsx?$/.test(file) && !/\.test\.ts$/.test(file),
);
let failed = false;
for (const kind of ["direction", "circles"]) {
  const root = `.build/imports/${kind}`;
  rmSync(root, { recursive: true, force: true });
  for (const file of sources) {
    let text = readFileSync(join("src", file), "utf8");
    if (kind === "direction") text = text.replace(/^(?:import|export) type [^;]*? from ("[^"]+");/gm, "import $1;");
    const { code } = transformSync(text, {
      loader: file.endsWith("x") ? "tsx" : "ts",
      tsconfigRaw: { compilerOptions: { verbatimModuleSyntax: kind === "direction", jsx: "react-jsx" } },
    });
    const out = join(root, "src", file.replace(/\.tsx?$/, ".js"));
    mkdirSync(dirname(out), { recursive: true });
    writeFileSync(out, code);
  }
  const run = spawnSync("npx", ["depcruise", "src", "--config", "../../../.dependency-cruiser.cjs"], {
    cwd: root,
    encoding: "utf8",
    env: { ...process.env, IMPORT_RULES: kind },
  });
  const cruised = /\((\d+) modules/.exec(run.stdout);
  if (run.status !== 0 || !cruised || Number(cruised[1]) < sources.length) {
    failed = true;
    process.stderr.write(`${kind}: ${run.stdout}${run.stderr}`);
  }
}
process.exit(failed ? 1 : 0);
