import fc from "fast-check";
import Papa from "papaparse";
import { describe, expect, test } from "vitest";
import { valueAt } from "../table/column";
import type { Table } from "../table/table";
import { readCsv } from "./csv";
import { type CellTaker, RowCutter } from "./row-cutter";

/** All rows of a text, each cell both asked for and given. */
function cut(text: string, separator = ",", from = 0, to = text.length): string[][] {
  const cutter = new RowCutter(text, separator, from, to);
  const rows: string[][] = [];
  while (cutter.next()) {
    const given: string[] = [];
    const taker: CellTaker = {
      push: (cell) => given.push(cell),
      take: (source, start, end) => given.push(source.slice(start, end)),
    };
    for (let place = 0; place < cutter.count; place++) {
      cutter.giveTo(taker, place);
      expect(cutter.cell(place)).toBe(given[place]);
      expect(cutter.is(place, given[place] as string)).toBe(true);
      expect(cutter.is(place, `${given[place]}x`)).toBe(false);
    }
    rows.push(given);
  }
  return rows;
}

const valuesOf = (table: Table, name: string) =>
  Array.from({ length: table.rowCount }, (_, row) => valueAt(table.columns.get(name) as never, row));

const quoted = (cell: string) => `"${cell.replaceAll('"', '""')}"`;

describe("cutting rows without making texts of them", () => {
  test("cells, empty cells, quoted cells, line breaks of both sorts", () => {
    expect(cut('a,b\r\n1,"x, ""y"""\n,\n"two\nlines",')).toEqual([
      ["a", "b"],
      ["1", 'x, "y"'],
      ["", ""],
      ["two\nlines", ""],
    ]);
  });
  test("nothing holds no row; a line break holds two empty ones", () => {
    expect(cut("")).toEqual([]);
    expect(cut("\n")).toEqual([[""], [""]]);
  });
  test("only what lies between two places is cut", () => {
    expect(cut('"a,b\nc,d"', ",", 1, 8)).toEqual([
      ["a", "b"],
      ["c", "d"],
    ]);
    expect(cut('a,"b"c', ",", 0, 5)).toEqual([["a", "b"]]);
  });
  test("rows wider than any before", () => {
    const wide = Array.from({ length: 300 }, (_, place) => (place === 200 ? quoted('say "so"') : String(place)));
    expect(cut(wide.join(";"), ";")?.[0]).toEqual(wide.map((cell, place) => (place === 200 ? 'say "so"' : cell)));
  });
  test("a quote within a cell is a sign like any other", () => {
    expect(cut('5" pipe,x')).toEqual([['5" pipe', "x"]]);
  });
  test.each([
    [
      '1,"open,x\n2,y',
      [
        ["1", '"open', "x"],
        ["2", "y"],
      ],
      "a quote that is never closed",
    ],
    [
      '1,"x" y\n2,"z"',
      [
        ["1", '"x" y'],
        ["2", "z"],
      ],
      "text behind the closing quote",
    ],
    [
      '1,"x""\n2,"z"',
      [
        ["1", '"x""'],
        ["2", "z"],
      ],
      "a last quote that was written twice",
    ],
  ])("%j takes the cell as it stands and nothing else with it: %s", (text, rows) => {
    expect(cut(text)).toEqual(rows);
  });
  test("a carriage return alone breaks lines only where nothing else does", () => {
    expect(cut('a,b\r"1\r",2')).toEqual([
      ["a", "b"],
      ["1\r", "2"],
    ]);
    expect(cut("a\rb,c\n1,2")).toEqual([
      ["a\rb", "c"],
      ["1", "2"],
    ]);
  });

  const cell = fc.oneof(fc.string({ maxLength: 6 }), fc.constantFrom("", " ", ",", '"', '""', "a\nb", "1.5", "é"));
  const rows = fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 6 });
  test("what was written is what is read, whatever stands in the cells", () => {
    fc.assert(
      fc.property(
        rows,
        fc.constantFrom(",", ";", "\t", "|"),
        fc.constantFrom("\n", "\r\n"),
        (cells, separator, lineBreak) => {
          const text = cells.map((row) => row.map(quoted).join(separator)).join(lineBreak);
          expect(cut(text, separator)).toEqual(cells);
        },
      ),
    );
  });
  const scrap = fc
    .array(fc.constantFrom("a", "12", ",", ",", "\n", "\n", '"', '""', " ", '","'), { maxLength: 24 })
    .map((parts) => parts.join(""));
  test("where all quotes close, it cuts as another parser does", () => {
    let compared = 0;
    fc.assert(
      fc.property(scrap, (text) => {
        const { data, errors } = Papa.parse<string[]>(text, { delimiter: ",", newline: "\n" });
        const cutter = new RowCutter(text, ",");
        while (cutter.next());
        if (errors.some(({ type }) => type === "Quotes")) return;
        expect(cutter.oddCount).toBe(0);
        expect(cut(text)).toEqual(data);
        compared += 1;
      }),
      { numRuns: 2000 },
    );
    expect(compared).toBeGreaterThan(500);
  });
});

describe("files that are not well-formed", () => {
  test("lose nothing, and it is said where they are odd and what to do", () => {
    const { table, findings } = readCsv("t.csv", 'a,b\n1,"two\nlines"\n2,"x" y\n3,z\n');
    expect(findings).toMatchObject([{ code: "odd-quotes", severity: "warning", file: "t.csv" }]);
    expect(findings[0]?.message).toContain('line 4, column 3: "x" y');
    expect([table.rowCount, valuesOf(table, "b")]).toEqual([3, ["two\nlines", '"x" y', "z"]]);
  });
  test("many odd quotes are counted and the first are shown", () => {
    const { findings } = readCsv("t.csv", `a,b\n${'1,"x" y\n'.repeat(50)}`);
    expect(findings).toHaveLength(1);
    expect(findings[0]?.message).toMatch(/50 cells .* line 4, column 3: "x" y; …/);
  });
  test("lines that end with a carriage return alone are lines", () => {
    const { table, findings } = readCsv("t.csv", "a,b\r1,x\r2,y\r");
    expect([findings, valuesOf(table, "a"), valuesOf(table, "b")]).toEqual([[], [1, 2], ["x", "y"]]);
  });
});
