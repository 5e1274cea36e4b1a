import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { valueAt } from "../table/column";
import { CellColumn } from "./cell-column";
import { readCsv } from "./csv";
import { inferColumn } from "./infer";

/** Rows enough that a column of different values is read as it comes. */
const MANY = 6000;

/** The column `x` of a file of one column, with a second that keeps empty cells from being empty lines. */
function read(cells: readonly string[], columns = new Map()) {
  const { table, report } = readCsv(
    "x.csv",
    `x,y\n${cells.map((cell) => `${/[",\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell},1`).join("\n")}\n`,
    { columns },
  );
  const column = table.columns.get("x");
  if (!column) throw new Error("no column");
  return { column, report: report.columns[0] };
}

const moment = (row: number) =>
  new Date(Date.UTC(2024, 0, 1) + row * 61_000).toISOString().slice(0, 16).replace("T", " ");

describe("what is read while it streams by", () => {
  test("is coded: each different text once, in the order of coming", () => {
    const column = new CellColumn(true);
    for (const text of ["b", "a", "b", "", "a"]) column.push(text);
    expect(column.finish()).toEqual({ codes: Int32Array.of(0, 1, 0, 2, 1), dictionary: ["b", "a", ""] });
  });
  test("numbers and moments that are nearly all different are read at once, with their odd cells", () => {
    const column = new CellColumn(true);
    for (let row = 0; row < MANY; row++) column.push(row === 5000 ? "n/a" : row % 100 === 7 ? "" : String(row / 4));
    const found = column.finish();
    if (!("odd" in found)) throw new Error("not quick");
    expect([found.kind, found.values.length, found.empty, [...found.odd]]).toEqual([
      "number",
      MANY,
      60,
      [[5000, "n/a"]],
    ]);
    expect([found.values[8], found.values[7]]).toEqual([2, Number.NaN]);
  });
  test("a column that turns out otherwise further down is read once more, and says so to nobody", () => {
    const numbers = Array.from({ length: MANY }, (_, row) => String(row));
    const later = [...numbers, ...Array.from({ length: MANY }, (_, row) => `code ${row}`)];
    const { column } = read(later);
    expect([column.kind, valueAt(column, 3), valueAt(column, MANY + 1)]).toEqual(["text", "3", "code 1"]);
  });
  test("one leading zero far down keeps all of it as text, with every digit as it stood", () => {
    const { column } = read([...Array.from({ length: MANY }, (_, row) => `${row + 1000}.50`), "007"]);
    expect([column.kind, valueAt(column, 0), valueAt(column, MANY)]).toEqual(["text", "1000.50", "007"]);
  });
  test("signs, offsets and marks far down are seen as if the whole had been looked at", () => {
    const priced = read([...Array.from({ length: MANY }, (_, row) => String(row)), "€ 12", "1,500"]);
    expect([priced.column.kind, valueAt(priced.column, MANY), valueAt(priced.column, MANY + 1)]).toEqual([
      "number",
      12,
      1500,
    ]);
    expect(priced.report?.note).toContain("€");
    const shifted = read([...Array.from({ length: MANY }, (_, row) => moment(row)), "2024-01-01T06:30:00+02:00"]);
    expect([shifted.column.kind, valueAt(shifted.column, MANY)]).toEqual([
      "datetime",
      Date.UTC(2024, 0, 1, 4, 30) / 1000,
    ]);
    expect(shifted.report?.note).toContain("UTC");
  });
  test("what the sheet asks for wins", () => {
    const { column } = read(
      Array.from({ length: MANY }, (_, row) => String(row)),
      new Map([["x", { type: "text" }]]),
    );
    expect([column.kind, valueAt(column, 12)]).toEqual(["text", "12"]);
  });
  test("times are read by the letters that the sheet gives, at once and to the last cell", () => {
    const cells = Array.from({ length: MANY }, (_, row) =>
      row % 500 === 3 ? "-" : row % 500 === 4 ? "soon" : moment(row).replace(" ", "/"),
    );
    const { table, report } = readCsv("x.csv", `x\n${cells.join("\n")}\n`, {
      columns: new Map([["x", { type: "datetime", read: "%Y-%m-%d/%H:%M" }]]),
      missingAs: ["-"],
    });
    expect(report.columns[0]).toMatchObject({
      kind: "datetime",
      missing: 12,
      unread: 12,
      odd: ["soon"],
      examples: [
        { row: 5, text: "soon" },
        { row: 505, text: "soon" },
        { row: 1005, text: "soon" },
        { row: 1505, text: "soon" },
        { row: 2005, text: "soon" },
      ],
    });
    const slow = inferColumn("x", cells, { type: "datetime", read: "%Y-%m-%d/%H:%M" }, undefined, new Set(["-"]));
    expect([...(table.columns.get("x") as { values: Float64Array }).values]).toEqual([
      ...(slow.column as { values: Float64Array }).values,
    ]);
  });
  const cell = fc.oneof(
    { weight: 60, arbitrary: fc.integer({ min: -9999, max: 9999 }).map((value) => String(value / 4)) },
    {
      weight: 2,
      arbitrary: fc.constantFrom("", " ", "n/a", "1,234", "0042", "12 %", "€ 5", "1e3", "+4", "3 Mar 2025"),
    },
  );
  test("quick or not, the same comes of it", () => {
    fc.assert(
      fc.property(fc.array(cell, { minLength: 1, maxLength: 40 }), (some) => {
        // Real cells among many plain ones, so that the quick way is taken.
        const cells = Array.from({ length: MANY }, (_, row) =>
          row % 149 === 148 ? (some[(row / 149) | 0] ?? "7") : `${row % 3000}.25`,
        );
        const quick = read(cells);
        const slow = inferColumn("x", cells);
        expect(quick.column.kind).toBe(slow.column.kind);
        expect({ ...quick.report, note: quick.report?.note ?? "" }).toEqual({
          ...slow.report,
          note: slow.report.note ?? "",
        });
        const values = (column: typeof slow.column) => Array.from({ length: MANY }, (_, row) => valueAt(column, row));
        expect(values(quick.column)).toEqual(values(slow.column));
      }),
      { numRuns: 30 },
    );
  });
});
