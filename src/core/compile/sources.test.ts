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
