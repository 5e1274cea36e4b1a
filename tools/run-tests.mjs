/** Runs every check and test and closes with `N passed, N failed`. */
import { execFile, spawnSync } from "node:child_process";
import { mkdirSync, readFileSync, rmSync } from "node:fs";

mkdirSync(".build", { recursive: true });
let passed = 0;
let failed = 0;
const started = Date.now();

const told = (name, good, stdout, stderr) => {
  const seconds = Math.round((Date.now() - started) / 1000);
  console.log(`[${seconds}s] ${name}: ${good ? "ok" : "failed"}`);
  if (!good) console.log(`${stdout}\n${stderr}`.slice(-12000));
};

function run(name, command, args, env = {}) {
  const result = spawnSync(command, args, { encoding: "utf8", env: { ...process.env, ...env }, maxBuffer: 1 << 28 });
  told(name, result.status === 0, result.stdout, result.stderr);
  return result;
}

/** A check without numbers of its own counts as one test. */
const check = (name, command, args) =>
  new Promise((done) => {
    execFile(command, args, { encoding: "utf8", maxBuffer: 1 << 28 }, (problem, stdout, stderr) => {
      told(name, !problem, stdout, stderr);
      if (problem) failed += 1;
      else passed += 1;
      done();
    });
  });

/** A test runner that writes a report; a report that cannot be read counts as a failure. */
function suite(name, args, report, count, env) {
  rmSync(report, { force: true });
  const { status } = run(name, "npx", args, env);
  try {
    const [good, bad] = count(JSON.parse(readFileSync(report, "utf8")));
    passed += good;
    failed += bad;
    if (good + bad === 0 || (status !== 0 && bad === 0)) failed += 1;
  } catch (problem) {
    console.log(`${name}: no report (${problem.message})`);
    failed += 1;
  }
}

// Each of them works on one core alone.
await Promise.all([
  check("types", "npx", ["tsc", "-p", ".", "--incremental", "false"]),
  check("lint and format", "npx", ["biome", "check", "."]),
  check("import direction", "node", ["tools/check-imports.mjs"]),
  check("unused code", "npx", ["knip"]),
]);
suite(
  "unit tests",
  ["vitest", "run", "--reporter=json", "--reporter=default", "--outputFile.json=.build/unit.json"],
  ".build/unit.json",
  (report) => [
    report.numPassedTests,
    report.numFailedTests +
      report.testResults.filter(({ status, assertionResults }) => status === "failed" && assertionResults.length === 0)
        .length,
  ],
);
for (const [project, file, prepared] of [
  ["side by side", ".build/e2e.json", "0"],
  ["alone", ".build/e2e-alone.json", "1"],
])
  suite(
    `browser tests, ${project}`,
    ["playwright", "test", `--project=${project}`],
    file,
    ({ stats }) => [stats.expected, stats.unexpected + stats.flaky],
    { STILL_E2E_REPORT: file, STILL_E2E_PREPARED: prepared },
  );
// Whatever was installed, built and tested: a checkout stays as it was checked out.
if (process.env.STILL_LEAVES_TREE === "1")
  await check("the checkout is unchanged", "node", [
    "-e",
    'const { status, stdout } = require("node:child_process").spawnSync("git", ["status", "--porcelain"], { encoding: "utf8" }); process.stdout.write(stdout); process.exit(status || stdout !== "" ? 1 : 0)',
  ]);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
