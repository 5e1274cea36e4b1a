import { existsSync, mkdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { expect, test } from "@playwright/test";
import { OUT, still } from "./prepare";

// Each worker has a folder of its own: what stands here is done in all of them.
const folder = `${OUT}/terminal-${process.env.TEST_PARALLEL_INDEX ?? "none"}`;
mkdirSync(folder, { recursive: true });
writeFileSync(`${folder}/a.csv`, "berth,tonnes\nA,1\nB,2\n");

const HEAD = "still: 1\nreport: R\n";
const TABLE = "tables: {t: {read: a.csv}}\n";

function sheet(name: string, text: string): string {
  const path = `${folder}/${name}.still.yaml`;
  writeFileSync(path, text);
  return path;
}

/** Every kind of mistake: what the author wrote, where it is found, and the right name. */
const MISTAKES: [string, string, RegExp][] = [
  ["key", `${HEAD}tabels: {}\n`, /:3:1 error unknown-key: .*did you mean "tables"/],
  [
    "inner-key",
    `${HEAD}${TABLE}charts: {a: {from: t, draw: bars, x: berth, y: count(), colour: berth}}\n`,
    /:4:57 error unknown-key: .*did you mean "color"/,
  ],
  [
    "column",
    `${HEAD}${TABLE}charts: {a: {from: t, draw: bars, x: berth, y: sum(tonns)}}\n`,
    /:4:52 error unknown-column: t has no column "tonns"; did you mean tonnes\?/,
  ],
  [
    "type",
    `${HEAD}${TABLE}charts: {a: {from: t, draw: bars, x: berth, y: count(), axes: {x: {ticks: tall}}}}\n`,
    /:4:75 error wrong-value: a number or a setting such as \$bins is expected, not "tall"/,
  ],
  [
    "mark",
    `${HEAD}${TABLE}charts: {a: {from: t, draw: barz}}\n`,
    /:4:29 error wrong-value: "barz" is not one of .*fix: write bars/,
  ],
  ["cycle", `${HEAD}tables: {a: {from: b}, b: {from: a}}\ncharts: {c: {from: a, draw: table}}\n`, /error cycle/],
  ["file", `${HEAD}tables: {t: {read: b.csv}}\n`, /:3:20 error no-such-file: there is no file "b.csv"/],
  ["outside", `${HEAD}tables: {t: {read: ../../quay.html}}\n`, /:3:20 error file-outside/],
  ["link", `${HEAD}tables: {t: {read: sub.csv}}\n`, /:3:20 error no-such-file/],
  [
    "swallowed",
    `${HEAD}${TABLE}charts:\n  a: {from: t, draw: table}\n  b:\n    from: t\n    draw: bars\n    keep: contains(berth, "x #1")\n    x: berth\n    y: count()\n`,
    /:9:11 error swallowed-text: .*fix: quote it/,
  ],
  [
    "split",
    `${HEAD}${TABLE}charts: {a: {from: t, draw: bars, x: if(berth = "A", 1, 2), y: count()}}\n`,
    /:4:38 error split-text: .*fix: quote it/,
  ],
  [
    "refused",
    `${HEAD}tables:\n  t:\n    read: a.csv\n    steps:\n      - keep: "A" = berth\ncharts: {a: {from: t, draw: table}}\n`,
    /:7:\d+ error yaml: .*fix: quote it/,
  ],
  ["anchor", `${HEAD}tables: {t: &x {read: a.csv}}\n`, /:3:\d+ error yaml-extra/],
  [
    "alias",
    `${HEAD}tables:\n  t:\n    read: a.csv\n    steps:\n      - keep: &b berth = "A"\n      - keep: *b\n`,
    /:7:\d+ error yaml-extra: an anchor[\s\S]*:8:\d+ error yaml-extra: an alias/,
  ],
  ["directive", `%YAML 1.2\n---\n${HEAD}`, /:1:1 error yaml-extra: a directive/],
  ["tag", `${HEAD}tables:\n  t:\n    read: !file a.csv\n`, /:5:\d+ error yaml-extra/],
  [
    "missing",
    `${HEAD}${TABLE}charts: {a: {from: t, draw: table, keep: tonnes = missing}}\n`,
    /:4:42 error equals-missing: .*fix: write missing\(tonnes\)/,
  ],
  [
    "empty",
    `${HEAD}${TABLE}charts: {a: {from: t, draw: bars, x: , y: count()}}\n`,
    /:4:35 error empty-value: "x" has no value/,
  ],
  ["nothing", "", /:1:1 error not-a-sheet/],
  ["binary", "\u0000\u0001\ufffd{{{{", /error/],
];

// A link that leads out of the sheet's folder is no file of the sheet's.
rmSync(`${folder}/sub.csv`, { force: true });
symlinkSync("/etc/hostname", `${folder}/sub.csv`);

for (const [name, text, expected] of MISTAKES) {
  test(`a mistake of kind ${name} ends with 1, its place and no trace`, () => {
    const path = sheet(name, text);
    const { status, stderr, stdout } = still("build", path);
    expect(status).toBe(1);
    expect(stderr).toMatch(expected);
    expect(stderr).not.toMatch(/^\s+at .*:\d+:\d+\)?$/m);
    expect(stdout).toBe("");
    expect(existsSync(`${folder}/${name}.html`)).toBe(false);
  });
}

test("findings as JSON carry place and fix", () => {
  const { status, stdout } = still("check", sheet("json", MISTAKES[0]?.[1] ?? ""), "--json");
  expect(status).toBe(1);
  expect(JSON.parse(stdout)).toEqual([
    expect.objectContaining({
      line: 3,
      column: 1,
      severity: "error",
      code: "unknown-key",
      fix: { title: "write tables", edits: [{ start: 19, end: 25, text: "tables" }] },
    }),
  ]);
});

test("warnings let a build pass, unless they are counted as errors", () => {
  const path = sheet(
    "warned",
    `${HEAD}tables: {t: {read: a.csv}, u: {read: a.csv}}\ncharts: {a: {from: t, draw: table}}\n`,
  );
  const soft = still("build", path);
  expect([soft.status, soft.stderr.includes("warning unused-table")]).toEqual([0, true]);
  expect(readFileSync(`${folder}/warned.html`, "utf8")).toContain("<!doctype html>");
  expect(still("check", path, "--strict").status).toBe(1);
});

test("wrong use ends with 2", () => {
  expect(still("build", `${folder}/nobody.still.yaml`).status).toBe(2);
  expect(still("build").status).toBe(2);
  expect(still("check", `${folder}/a.csv`).status).toBe(2);
  expect(still("dance").status).toBe(2);
});

test("a table that came anew is held against the file that was sent last time", () => {
  const path = sheet("sent", `${HEAD}tables: {t: {read: sent.csv}}\ncharts: {a: {from: t, draw: table}}\n`);
  const [table, sent] = [`${folder}/sent.csv`, `${folder}/sent.html`];
  writeFileSync(table, "berth,tonnes\nA,1\nB,2\n");
  expect(still("build", path, "-o", sent).status).toBe(0);
  const changes = () => {
    const { status, stderr } = still("check", path, "--against", sent);
    return { status, said: stderr.match(/changed: .*/g) ?? [] };
  };
  expect(changes()).toEqual({
    status: 0,
    said: [`changed: t has 2 rows, 2 in ${sent}; its columns and values are alike`],
  });
  writeFileSync(table, "berth,tons\nA,1\nB,2\nC,2\n");
  expect(changes()).toEqual({
    status: 0,
    said: [
      `changed: t has 3 rows, 2 in ${sent}`,
      `changed: t since ${sent}: tonnes seems to be called tons now`,
      `changed: t since ${sent}: berth has new values: C`,
    ],
  });
});
