import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { valueAt } from "../table/column";
import { compileText } from "../testing/compile-text";
import { readJson } from "./json";
import { jsonProblemAt } from "./json-place";

/** A table as plain rows, in the order of its columns. */
function plain(text: string, options: Parameters<typeof readJson>[2] = {}) {
  const { table, findings, report } = readJson("t.json", text, options);
  const rows = Array.from({ length: table.rowCount }, (_, row) =>
    [...table.columns.values()].map((column) => valueAt(column, row)),
  );
  return {
    heads: [...table.columns].map(([name, { kind }]) => `${name}: ${kind}`),
    rows,
    codes: findings.map(({ code }) => code),
    message: findings[0]?.message,
    notes: report.notes,
    missing: report.columns.map(({ missing }) => missing),
  };
}

describe("JSON as a table", () => {
  it("is a list of objects, with columns in the order in which they come up", () => {
    const { heads, rows, missing } = plain(
      '[{"berth":"Granary","ships":3,"open":true},{"ships":4.5,"berth":null,"late":"2024-03-01"}]',
    );
    expect(heads).toEqual(["berth: text", "ships: number", "open: boolean", "late: date"]);
    expect(rows.map((row) => row.slice(0, 3))).toEqual([
      ["Granary", 3, true],
      [null, 4.5, null],
    ]);
    expect(missing).toEqual([1, 0, 1, 1]);
  });

  it("is an object of lists", () => {
    const { heads, rows, notes } = plain('{"day":["2024-01-01","2024-01-02"],"n":[1]}');
    expect(heads).toEqual(["day: date", "n: number"]);
    expect(rows.map((row) => row[1])).toEqual([1, null]);
    expect(notes).toEqual(["its lists are not equally long; what is not there is missing"]);
  });

  it("is one object a line, and says which lines are none", () => {
    const { rows, codes, message } = plain('{"n":1}\n\n{"n":2}\nnot json\n{"n":3}\n');
    expect(rows).toEqual([[1], [2], [3]]);
    expect(codes).toEqual(["bad-json-lines"]);
    expect(message).toContain("line 4");
    expect(plain('{"n":1}\r\n{"n":2}\r\n').rows).toEqual([[1], [2]]);
  });

  it("is a list found in an object around it, and one object alone is one row", () => {
    expect(plain('{"made":"2024","data":[{"n":1},{"n":2}]}')).toMatchObject({
      rows: [[1], [2]],
      notes: ['the rows were found under "data"'],
    });
    expect(plain('{"n":1,"k":"a"}').rows).toEqual([[1, "a"]]);
  });

  it("gives objects within objects dotted names, and lists of plain values one text", () => {
    const { heads, rows } = plain(
      '[{"at":{"lat":1.5,"lon":2,"sea":{"name":"Merrow"}},"tags":["a","b"],"legs":[{"km":1}],"none":{}}]',
    );
    expect(heads.map((head) => head.split(":")[0])).toEqual([
      "at.lat",
      "at.lon",
      "at.sea.name",
      "tags",
      "legs",
      "none",
    ]);
    expect(rows[0]).toEqual([1.5, 2, "Merrow", "a, b", '[{"km":1}]', "{}"]);
  });

  it("finds kinds by looking at all values, as in any table: numbers in quotes, leading zeros, wishes", () => {
    expect(plain('[{"n":"12","code":"007"},{"n":"3.5","code":"010"}]').heads).toEqual(["n: number", "code: text"]);
    expect(plain('[{"n":12}]', { columns: new Map([["n", { type: "text" }]]) }).rows).toEqual([["12"]]);
    expect(plain('[{"n":"-"},{"n":"1"}]', { missingAs: ["-"] }).missing).toEqual([1]);
  });

  it("keeps whole numbers beyond 2^53 apart, as text with all their digits", () => {
    const { heads, rows } = plain(
      '[{"id":9007199254740993,"n":"9007199254740993"},{"id":-9007199254740995,"n":"\\"12345678901234567890"},{"id":9007199254740992,"n":"x"}]',
    );
    expect(heads[0]).toBe("id: text");
    expect(rows.map(([id]) => id)).toEqual(["9007199254740993", "-9007199254740995", "9007199254740992"]);
    expect(plain('{"id":[123456789012345678901,1]}').rows).toEqual([["123456789012345678901"], ["1"]]);
    expect(plain('{"id":9007199254740993}\n{"id":9007199254740994}\n').rows).toEqual([
      ["9007199254740993"],
      ["9007199254740994"],
    ]);
    expect(plain('[{"ids":[9007199254740993,5]}]').rows).toEqual([["9007199254740993, 5"]]);
  });

  it("reads large numbers as numbers", () => {
    const { heads, rows } = plain('[{"n":1e20},{"n":2.5},{"n":1e21},{"n":-1.5e300},{"n":1234567890123456.5}]');
    expect(heads).toEqual(["n: number"]);
    expect(rows.map(([n]) => n)).toEqual([1e20, 2.5, 1e21, -1.5e300, 1234567890123456.5]);
  });

  it("has columns of any name", () => {
    const { heads, rows } = plain('[{"__proto__":1,"constructor":2,"toString":"a"}]');
    expect(heads).toEqual(["__proto__: number", "constructor: number", "toString: text"]);
    expect(rows).toEqual([[1, 2, "a"]]);
    expect(plain('{"__proto__":[1,2],"hasOwnProperty":[3,4]}').rows).toEqual([
      [1, 3],
      [2, 4],
    ]);
  });

  it.each([
    ["broken text", '[{"n":1},\n{"n":}]', "bad-json", /t\.json cannot be read as JSON: line 2, column 6 does not fit/],
    ["a plain list", "[1,2]", "json-shape", /list of plain values/],
    ["a mixed list", '[{"n":1},2]', "json-shape", /objects and other things/],
    ["one value", '"words"', "json-shape", /single value/],
    ["several tables", '{"a":[{"n":1}],"b":[{"n":2}]}', "json-shape", /2 lists of objects/],
    ["nothing in a list", "[]", "empty-file", /empty list/],
    ["objects without keys", "[{},{}]", "empty-file", /without keys/],
    ["no text at all", "", "bad-json", /cannot be read/],
  ])("refuses %s in words", (_, text, code, words) => {
    const { codes, message } = plain(text);
    expect(codes).toEqual([code]);
    expect(message).toMatch(words);
  });

  it("takes names that mean something to a program for names", () => {
    const { heads, rows } = plain('[{"__proto__":1,"constructor":2,"":3," a ":4}]');
    expect(heads).toEqual(["__proto__: number", "constructor: number", "column_3: number", "a: number"]);
    expect(rows).toEqual([[1, 2, 3, 4]]);
  });

  it("gives back what was written, whatever the values", () => {
    const cell = fc.oneof(fc.constant(null), fc.integer({ min: -1e9, max: 1e9 }));
    fc.assert(
      fc.property(fc.array(fc.record({ a: cell, b: cell }), { minLength: 1, maxLength: 20 }), (rows) => {
        const lines = rows.map((row) => JSON.stringify(row)).join("\n");
        for (const text of [
          JSON.stringify(rows),
          lines,
          JSON.stringify({ a: rows.map(({ a }) => a), b: rows.map(({ b }) => b) }),
        ]) {
          const { table } = readJson("t.json", text);
          expect(
            rows.map((_, row) => ({
              a: valueAt(table.columns.get("a") as never, row),
              b: valueAt(table.columns.get("b") as never, row),
            })),
          ).toEqual(rows);
        }
      }),
    );
  });

  it("finds the very place at which a text stops being JSON", () => {
    for (const [text, at] of [
      ["", 0],
      ["{", 1],
      ['{"a" 1}', 5],
      ["[1,]", 3],
      ["[1 2]", 3],
      ['["a\nb"]', 1],
      ["01", 1],
      ["{'a':1}", 1],
      ["[1]]", 3],
      ["nul", 0],
      ["  x", 2],
    ] as const)
      expect(jsonProblemAt(text), text).toBe(at);
  });

  it("reads every sound text to its end", () => {
    fc.assert(
      fc.property(fc.json(), fc.constantFrom("", " ", "\n\t"), (json, space) => {
        expect(jsonProblemAt(space + json + space)).toBe((space + json + space).length);
      }),
    );
  });

  it("keeps the columns of an object of lists that are all empty, as a week without calls has them", () => {
    const { table, findings } = readJson("t.json", '{"berth":[],"":[]}');
    expect([table.rowCount, [...table.columns.keys()], findings]).toEqual([0, ["berth", "column_2"], []]);
  });

  it("never throws, and its columns are equally long, whatever the text", () => {
    const piece = fc.constantFrom(
      "{",
      "}",
      "[",
      "]",
      '"a"',
      ":",
      ",",
      "1",
      "null",
      "true",
      "\n",
      " ",
      '{"a":1}',
      "\\",
      "[".repeat(50),
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.array(piece, { maxLength: 30 }).map((pieces) => pieces.join("")),
          fc.json(),
        ),
        (text) => {
          const { table, findings } = readJson("t.json", text);
          for (const column of table.columns.values())
            expect(column.kind === "text" ? column.codes.length : column.values.length).toBe(table.rowCount);
          if (table.columns.size === 0) expect(findings.length).toBeGreaterThan(0);
        },
      ),
      { numRuns: 400 },
    );
    expect(readJson("t.json", "[".repeat(100_000)).findings.length).toBe(1);
  });

  it("is read by a sheet like any other table", () => {
    const sheet =
      "still: 1\nreport: R\ntables:\n  t: {read: calls.json}\ncharts:\n  c: {from: t, draw: bars, y: at.berth, x: count()}\n";
    const compiled = compileText(sheet.replace("at.berth", "'`at.berth`'"), {
      "calls.json": '[{"at":{"berth":"a"}},{"at":{"berth":"b"}}]',
    });
    expect(compiled.findings).toEqual([]);
    expect(compiled.accounts[0]?.rowCount).toBe(2);
  });
});
