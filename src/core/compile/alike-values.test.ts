import { expect, test } from "vitest";
import { applyEdits } from "../finding/finding";
import { compileText } from "../testing/compile-text";

const sheet = (cells: readonly string[]) => `still: 1
report: R
tables:
  t:
    rows: |
      k,n
${cells.map((cell, n) => `      "${cell}",${n}`).join("\n")}
charts:
  bars: {from: t, draw: bars, y: k, x: sum(n)}
`;

const told = (text: string) => compileText(text).findings.filter(({ code }) => code === "alike-values");

/** The sheet after the fix, in which nothing is told any more; the names of its bars. */
function mended(text: string): string[] {
  const edits = told(text)[0]?.fix?.edits ?? [];
  const after = applyEdits(text, edits);
  expect(told(after)).toEqual([]);
  const column = compileText(after).stages.get("t")?.tables.at(-1)?.columns.get("k");
  return column?.kind === "text" ? [...new Set(column.codes)].map((code) => column.dictionary[code] as string) : [];
}

test("values that differ in blanks are told with the step that takes these off", () => {
  const text = sheet(["rye", "rye ", "rye", "rye", "oats", " oats", "oats", "oats", "wheat", "wheat"]);
  expect(told(text).map(({ message }) => message)).toEqual([
    'k has "rye " in 1 row beside "rye", and 1 more such values; they differ in blanks or capitals alone',
  ]);
  expect(told(text)[0]?.fix?.title).toContain("trim(k)");
  expect(mended(text).sort()).toEqual(["oats", "rye", "wheat"]);
  // Also where most rows have the blank.
  expect(mended(sheet(["rye ", "rye ", "rye ", "rye", "oats", "oats"])).sort()).toEqual(["oats", "rye"]);
});

test("few other spellings are mended by name, to the one that has the most rows; of many none is", () => {
  const text = sheet(["Rye", "rye", "Rye", "Rye", "Oats", "Oats", "OATS  ", "Oats", "Wheat", "Wheat"]);
  expect(mended(text).sort()).toEqual(["Oats", "Rye", "Wheat"]);
  // One with blanks at its ends is not what the others become.
  expect(mended(sheet(["Rye", "rye ", "rye ", "rye ", "Oats", "Oats"])).sort()).toEqual(["Oats", "Rye"]);
  const many = ["a", "b", "c", "d"].flatMap((name) => [`${name}x`, `${name}x`, `${name}X`, `${name}x`]);
  expect(told(sheet(many))[0]?.fix).toBeUndefined();
});

test("texts of which nearly each row has its own, and values that differ in more, are left alone", () => {
  expect(told(sheet(["one", "One", "two", "three", "four"]))).toEqual([]);
  expect(told(sheet(["rye", "ryes", "rye", "ryes", "r ye", "r ye"]))).toEqual([]);
});
