import { expect, test } from "vitest";
import { applyEdits } from "../finding/finding";
import { compileText } from "../testing/compile-text";

const TAGS =
  "n,tags\n1,vip\n2,remote\n3,vip;remote\n4,billing\n5,vip;billing\n6,remote;billing\n7,vip;remote;billing\n";
const sheet = (columns = "") => `still: 1
report: R
tables:
  t:
    read: t.csv
${columns}charts:
  one: {from: t, draw: table}
`;
const severalIn = (text: string) =>
  compileText(text, { "t.csv": TAGS }).findings.filter(({ code }) => code === "several-in-a-cell");

test("cells of several values are offered to be parted, in one press", () => {
  const [found] = severalIn(sheet());
  expect(found).toMatchObject({ severity: "advice", piece: "tables.t" });
  expect(found?.message).toContain('cells of tags hold several values, parted by ";"');
  const mended = applyEdits(sheet(), found?.fix?.edits ?? []);
  expect(mended).toContain("split:");
  expect(severalIn(mended)).toEqual([]);
  const { plan } = compileText(mended.replace("charts:", "controls: {tag: {pick: tags, from: t}}\ncharts:"), {
    "t.csv": TAGS,
  });
  expect(plan.controls[0]).toMatchObject({ split: ";" });
});

test("where the sheet says that it is text, or how it is parted, nothing is offered", () => {
  expect(severalIn(sheet("    columns: {tags: text}\n"))).toEqual([]);
  expect(severalIn(sheet('    columns: {tags: {split: ";"}}\n'))).toEqual([]);
});

test.each([
  ["points in a file of commas", ",", "."],
  ["commas in a file of semicolons", ";", ","],
])("amounts parted by %s are offered to be read a thousand times larger", (_, separator, mark) => {
  const amounts = [901, 1467, 5203, 77, 12001, 640, 8219, 3333, 4547, 99, 61423, 2718];
  const cells = amounts.map((cost) => (cost < 1000 ? String(cost) : `${cost}`.replace(/(\d{3})$/, `${mark}$1`)));
  const csv = ["no", "cost"]
    .join(separator)
    .concat("\n", cells.map((cell, no) => `${no}${separator}${cell}`).join("\n"));
  const offered = (text: string) =>
    compileText(text, { "t.csv": csv }).findings.filter(({ code }) => code === "thousands-as-decimals");
  const text = sheet("    columns:\n      cost: {unit: €}\n");
  const [found] = offered(text);
  expect(found?.message).toContain(`such as 1${mark}467; if that means 1467`);
  const mended = applyEdits(text, found?.fix?.edits ?? []);
  expect(mended).toContain("unit: €");
  expect(offered(mended)).toEqual([]);
  const column = compileText(mended, { "t.csv": csv }).tables.get("t")?.columns.get("cost");
  expect(column?.kind === "number" && [...column.values]).toEqual(amounts);
  // Of several files that are one table it is offered as well.
  const { findings } = compileText(text.replace("read: t.csv", 'read: "t-*.csv"'), { "t-1.csv": csv, "t-2.csv": csv });
  expect(findings.map(({ code }) => code)).toContain("thousands-as-decimals");
});

test("a sheet of a workbook is not looked for in a file that is none", () => {
  const told = (columns: string) =>
    compileText(sheet(columns), { "t.csv": TAGS }).findings.filter(({ code }) => code === "wrong-key");
  const [found] = told("    sheet: First\n");
  expect(found).toMatchObject({
    severity: "warning",
    message: "sheet: names a sheet of a workbook, and t.csv is none",
  });
  expect(told("")).toEqual([]);
});
