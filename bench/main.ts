/**
 * `./still bench [ROWS]`: measures what the design asks for, as ratios in one run where a ratio can say it.
 * With `--docs` it writes docs/speed.md, and leaves out the laws that take no measure.
 */
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { resolve } from "node:path";
import { deflateSync } from "fflate";
import Papa from "papaparse";
import "../src/core/link/all";
import { buildDashboard } from "../src/core/dashboard/build";
import { PROOF_PART, scriptFor, scriptOf, type ViewerKit } from "../src/core/dashboard/parts";
import { benchAnswers } from "./answers";
import { benchBegin } from "./begin";
import { benchBrowser } from "./browser";
import { benchCompute } from "./compute";
import { benchKeystroke } from "./keystroke";
import { LINKED_SHEET, MIXED_SHEET, POINTS_SHEET } from "./linked";
import { ms, say, table, timed, times } from "./measure";
import { benchShaping } from "./shaping";
import { speedPage } from "./speed-page";

// Parts that run in processes of their own: what others leave in memory would be counted with them.
const APART: Record<string, (csv: Uint8Array, rows: number) => void> = {
  shaping: benchShaping,
  answers: benchAnswers,
  compute: (csv, rows) => benchCompute(csv, rows >= 1e6 ? [1e4, 1e5, 1e6, 1e7] : [rows]),
};
const apart = APART[process.argv[2] ?? ""];
if (apart) {
  apart(new Uint8Array(readFileSync(process.argv[3] as string)), Number(process.argv[4]));
  process.exit(0);
}
const rows = Number(process.argv.slice(2).find((word) => !word.startsWith("-")) ?? 1_000_000);
const folder = resolve(".build/bench");
mkdirSync(folder, { recursive: true });
/** A file of so many calls, made where it is not there yet. */
function callsOf(size: number): string {
  const file = `${folder}/calls-${size}.csv`;
  if (!existsSync(file)) spawnSync("node", [".build/make.mjs", "calls", String(size), file], { stdio: "inherit" });
  return file;
}
const csvFile = callsOf(rows);
const kit = JSON.parse(readFileSync(".build/viewer.json", "utf8")) as ViewerKit;
const gzip = (file: string) =>
  Number(spawnSync("sh", ["-c", 'gzip -6 -c "$1" | wc -c', "sh", file], { encoding: "utf8" }).stdout);

const scriptSize = (script: string) => {
  writeFileSync(`${folder}/viewer.js`, script);
  return `${(gzip(`${folder}/viewer.js`) / 1000).toFixed(1)} kB`;
};
const whole = Object.keys(kit.parts).filter((part) => part !== PROOF_PART);
say("viewer script with every part, gzip", scriptSize(scriptOf(kit, whole)), "110 kB");
const demo = "examples/quay-calls";
buildDashboard(
  {
    text: readFileSync(`${demo}/quay-calls.still.yaml`, "utf8"),
    fileName: "quay-calls.still.yaml",
    readFile: (path) => new Uint8Array(readFileSync(`${demo}/${path}`)),
  },
  {
    viewer: (plan) => {
      const script = scriptFor(kit)(plan);
      say("viewer script of the demo report, gzip", scriptSize(script), "60 kB");
      return script;
    },
  },
);

const [csv, reading] = timed(() => new Uint8Array(readFileSync(csvFile)));
const [, deflating] = timed(() => deflateSync(csv, { level: 6 }));
const [, parsing] = timed(() => {
  let count = 0;
  Papa.parse(readFileSync(csvFile, "utf8"), {
    chunkSize: 1 << 20,
    chunk: (part: { data: unknown[] }) => (count += part.data.length),
  } as Papa.ParseConfig);
  return count;
});
const build = (sheet: string, bytes = csv) =>
  buildDashboard({ text: sheet, fileName: "bench.still.yaml", readFile: () => bytes }, { viewer: scriptFor(kit) });
const [built, building] = timed(() => build(LINKED_SHEET));
if (!built.html) throw new Error(built.findings.map(({ message }) => message).join("\n"));
const size = `${rows / 1e6} million rows, ${(csv.length / 1e6).toFixed(0)} MB`;
say(
  `compile, ${size}`,
  `${ms(building)}, ${times(building / (reading + deflating))} of reading and deflating once (${ms(reading + deflating)})`,
  "3x",
);
say("the CSV parser alone", `${ms(parsing)}, ${times(building / parsing)} of it is the whole compile`);
writeFileSync(`${folder}/linked.html`, built.html);

const packed = built.packing.reduce((sum, { bytes }) => sum + bytes, 0);
const used = new Set(["arrived", "berth", "cargo", "waited", "alongside", "weight", "tonnes"]);
const { data } = Papa.parse<Record<string, string>>(readFileSync(csvFile, "utf8"), {
  header: true,
  skipEmptyLines: true,
});
writeFileSync(
  `${folder}/used.csv`,
  Papa.unparse(data.map((row) => Object.fromEntries(Object.entries(row).filter(([name]) => used.has(name))))),
);
data.length = 0;
const zipped = gzip(`${folder}/used.csv`);
say(
  "packed data against gzip -6 of the same CSV columns",
  `${times((packed * 0.75) / zipped)} as bytes, ${times(packed / zipped)} as base64 (${(packed / 1e6).toFixed(1)} MB in a file of ${(statSync(`${folder}/linked.html`).size / 1e6).toFixed(1)} MB)`,
  "0.6x",
);

for (const part of Object.keys(APART)) {
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    ["--expose-gc", "--max-old-space-size=8192", process.argv[1] as string, part, csvFile, String(rows)],
    { encoding: "utf8" },
  );
  if (status !== 0) throw new Error(stderr);
  for (const line of stdout.trim().split("\n")) {
    const [, what, figure, goal] = /^(.*?): ((?:.(?! \(goal ))*.)(?: \(goal (.*)\))?$/.exec(line) ?? [];
    if (what && figure) say(what, figure, goal);
  }
}
for (const size of rows >= 1e6 ? [10_000, 100_000, rows] : [rows]) {
  const bytes = size === rows ? csv : new Uint8Array(readFileSync(callsOf(size)));
  for (const [name, sheet, goals] of [
    ["eight views that sum or count", LINKED_SHEET, { ready: "1.5 s", frame: "16 ms" }],
    ["medians, boxes, different values, a group below, lists", MIXED_SHEET, {}],
    ["points", POINTS_SHEET, { frame: "32 ms" }],
  ] as const) {
    const { html } = build(sheet, bytes);
    if (!html) throw new Error(`${name} cannot be built`);
    const file = `${folder}/views.html`;
    writeFileSync(file, html);
    await benchBrowser(file, `${name}, ${size.toLocaleString("en")} rows`, size >= 1e6 ? goals : {});
  }
}
const typed = [1000, 100_000, rows].map((size) => [size, callsOf(size)] as const);
await benchKeystroke(typed);
await benchBegin(typed);
const start = performance.now();
const small = spawnSync(
  "node",
  [".build/cli.mjs", "build", "examples/quay-calls/quay-calls.still.yaml", "-o", `${folder}/quay.html`],
  { encoding: "utf8" },
);
if (small.status === 0) say("the demo report from the terminal, all of it", ms(performance.now() - start));
/** Laws that hold or do not, however fast. */
function sayLaws() {
  const [model, modelling] = timed(() =>
    spawnSync("npx", ["vitest", "run", "src/core/testing/reference.test.ts"], {
      encoding: "utf8",
      env: { ...process.env, CASES: "10000" },
    }),
  );
  say(
    "10,000 reports as the plain reading of the language answers them",
    model.status === 0 ? `all agree, ${ms(modelling)}` : `BROKEN:\n${model.stdout.slice(-4000)}`,
  );
  const [fuzz, fuzzing] = timed(() =>
    spawnSync("npx", ["vitest", "run", "src/core"], { encoding: "utf8", env: { ...process.env, FREE_SEEDS: "1" } }),
  );
  say(
    "fuzzing and laws with free seeds",
    fuzz.status === 0
      ? `all hold, ${ms(fuzzing)}`
      : `BROKEN:\n${fuzz.stdout
          .split("\n")
          .filter((line) => /FAIL|Counterexample|seed/.test(line))
          .join("\n")}`,
  );
  const [bytes, comparing] = timed(() =>
    spawnSync("npx", ["playwright", "test", "bytes.spec.ts", "server.spec.ts", "--project=side by side"], {
      encoding: "utf8",
      env: { ...process.env, FREE_SEEDS: "1" },
    }),
  );
  say(
    "every example by browser, server and terminal, byte for byte",
    bytes.status === 0 ? `all the same, ${ms(comparing)}` : `BROKEN:\n${bytes.stdout.slice(-4000)}`,
  );
}

const isForDocs = process.argv.includes("--docs");
if (!isForDocs) sayLaws();
console.log(`\n${table()}`);
if (isForDocs) writeFileSync("docs/speed.md", speedPage(rows, table()));
