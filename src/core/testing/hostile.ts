import { textCell, workbook } from "./workbook";

/** A small report that asks for far more than it looks like. */
export interface HostileReport {
  name: string;
  sheet: string;
  files: Record<string, Uint8Array | string>;
  /** Codes of findings of which one is expected; none where the report is sound after all. */
  codes: readonly string[];
}

const HEAD = "still: 1\nreport: R\n";
const drawn = (table: string) => `charts: {c: {from: ${table}, draw: table}}\n`;
const figure = (formula: string) =>
  `${HEAD}tables: {t: {rows: "a\\n1\\n"}}\ncharts: {c: {from: t, draw: figure, value: '${formula}'}}\n`;
const reads = (file: string) => `${HEAD}tables: {t: {read: ${file}}}\n${drawn("t")}`;

const doubled = (times: number) =>
  Array.from({ length: times }).reduce<string>((inner) => `replace(${inner}, "a", "aa")`, "word");
const stacks = (times: number) =>
  Array.from({ length: times }, (_, at) => `  t${at + 1}: {from: t${at}, steps: [{stack: [t${at}]}]}\n`).join("");

/**
 * What an attacker would send first: texts that double, tables that stack on themselves, formulas
 * and lists as deep as a file is long, sheets of one cell in the last corner. Each is answered with
 * a finding, or is harmless; a terminal, a server and a workbench that were fed all of them go on.
 */
export const HOSTILE_REPORTS: readonly HostileReport[] = [
  {
    name: "a text doubled thirty times",
    sheet: `${HEAD}tables: {t: {rows: "word\\na\\n", steps: [{add: {x: '${doubled(30)}'}}]}}\n${drawn("t")}`,
    files: {},
    codes: ["too-large"],
  },
  {
    name: "a text doubled in a chart",
    sheet: `${HEAD}tables: {t: {rows: "word\\na\\n"}}\ncharts: {c: {from: t, draw: bars, x: '${doubled(30)}', y: count()}}\n`,
    files: {},
    codes: ["too-large"],
  },
  {
    name: "forty tables stacked on themselves",
    sheet: `${HEAD}tables:\n  t0: {rows: "a\\n1\\n"}\n${stacks(40)}${drawn("t40")}`,
    files: {},
    codes: ["too-large"],
  },
  { name: "ten thousand signs", sheet: figure(`sum(${"-".repeat(10_000)}a)`), files: {}, codes: ["too-deep"] },
  { name: "powers of powers", sheet: figure(`sum(${"a^".repeat(5000)}a)`), files: {}, codes: ["too-deep"] },
  { name: "a sum of thousands", sheet: figure(`sum(${"a + ".repeat(4000)}a)`), files: {}, codes: ["too-deep"] },
  {
    name: "brackets in brackets",
    sheet: figure(`${"(".repeat(9000)}a${")".repeat(9000)}`),
    files: {},
    codes: ["too-deep"],
  },
  {
    name: "a formula longer than a page",
    sheet: figure(`sum(a) + ${"1 + ".repeat(20_000)}1`),
    files: {},
    codes: ["too-long"],
  },
  { name: "lists in lists", sheet: `${HEAD}tables: ${"[".repeat(50_000)}`, files: {}, codes: ["too-deep"] },
  {
    name: "one key thousands of times",
    sheet: `${HEAD}tables:\n${'  t: {rows: "a\\n1\\n"}\n'.repeat(5000)}`,
    files: {},
    codes: ["doubled-key"],
  },
  {
    name: "a pattern of stars",
    sheet: `${HEAD}tables: {t: {read: "${"*a".repeat(300)}.csv"}}\n${drawn("t")}`,
    files: { [`${"a".repeat(90)}.csv`]: "a\n1\n" },
    codes: ["no-such-file"],
  },
  {
    name: "more rows than can be made",
    sheet: `${HEAD}tables: {t: {make: {rows: 1e15}}}\n${drawn("t")}`,
    files: {},
    codes: ["wrong-value", "too-large"],
  },
  {
    name: "a million millions of bins",
    sheet: figure("count()")
      .replace("draw: figure, value: 'count()'", 'draw: bars, x: "bin_width(a, 1e-12)", y: count()')
      .replace("1\\n", "1\\n2\\n"),
    files: {},
    codes: ["too-many-stretches"],
  },
  {
    name: "a cell in the last corner",
    sheet: reads("corner.xlsx"),
    files: { "corner.xlsx": workbook({ A: [[textCell("a"), '<c r="XFD1048576"><v>1</v></c>']] }) },
    codes: [],
  },
  {
    name: "commas without end",
    sheet: reads("commas.csv"),
    files: { "commas.csv": `a${",".repeat(100_000)}\n1\n` },
    codes: ["too-large"],
  },
  {
    name: "a head as long as a book",
    sheet: reads("head.csv"),
    files: { "head.csv": `${"a".repeat(100_000)}\n1\n` },
    codes: ["too-large"],
  },
  {
    name: "objects in objects",
    sheet: reads("deep.json"),
    files: { "deep.json": `[${'{"a":'.repeat(20_000)}1${"}".repeat(20_000)}]` },
    codes: [],
  },
  {
    name: "a column that every object has",
    sheet: `${HEAD}tables: {t: {rows: "constructor,__proto__\\n1,2\\n"}}\ncharts: {c: {from: t, draw: bars, x: constructor, y: sum(__proto__), color: constructor}}\n`,
    files: {},
    codes: [],
  },
];

/** What is asked for after all that: an ordinary build. */
export const ORDINARY_REPORT = {
  sheet: `${HEAD}tables: {t: {read: a.csv}}\ncharts: {c: {from: t, draw: bars, x: berth, y: sum(tonnes)}}\n`,
  files: { "a.csv": "berth,tonnes\nNorth,1\nSouth,2\n" },
};
