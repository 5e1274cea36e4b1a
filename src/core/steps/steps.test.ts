import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { valueAt } from "../table/column";
import type { Table } from "../table/table";
import { compileText } from "../testing/compile-text";

const CALLS = `id,berth,cargo,tonnes,day
1,A,grain,10,2024-01-05
2,A,fuel,20,2024-01-06
2,A,fuel,20,2024-01-06
3,B,grain,,2024-02-01
4,,fuel,5,2024-02-03
5,B,grain,30,2024-02-04`;

/** The rows of a table as plain lists, and its ledger, after some steps. */
function afterSteps(steps: string, csv = CALLS) {
  const text = `still: 1\nreport: T\ntables:\n  calls:\n    read: calls.csv\n    steps:\n${steps
    .split("\n")
    .map((line) => `      ${line}`)
    .join("\n")}\ncharts:\n  shown: {draw: table, from: calls}\n`;
  const compiled = compileText(text, { "calls.csv": csv });
  const account = compiled.accounts[0];
  const table = compiled.tables.get("calls");
  return {
    compiled,
    rows: table ? plain(table) : [],
    names: table ? [...table.columns.keys()] : [],
    ledger: account?.ledger ?? [],
    errors: compiled.findings.filter(({ severity }) => severity === "error"),
  };
}

function plain(table: Table) {
  return Array.from({ length: table.rowCount }, (_, row) =>
    [...table.columns.values()].map((column) => valueAt(column, row)),
  );
}

describe("keep", () => {
  test("false and missing leave, and are counted apart", () => {
    const { rows, ledger } = afterSteps("- keep: tonnes > 10\n  why: only large ones");
    expect(rows.map(([id]) => id)).toEqual([2, 2, 5]);
    expect(ledger).toEqual([
      {
        step: "keep tonnes > 10",
        rowsIn: 6,
        rowsOut: 3,
        losses: [
          { rows: 2, reason: "not true" },
          { rows: 1, reason: "missing" },
        ],
        why: "only large ones",
      },
    ]);
  });
  test("an aggregate spreads within its group", () => {
    expect(afterSteps("- keep: count() >= 3\n  within: [berth]").rows.map(([id]) => id)).toEqual([1, 2, 2]);
  });
});

describe("add", () => {
  test("each column sees those above it", () => {
    const { rows, names } = afterSteps("- add: {double: tonnes * 2, more: double + 1}\n- only: [id, more]");
    expect(names).toEqual(["id", "more"]);
    expect(rows.map(([, more]) => more)).toEqual([21, 41, 41, null, 11, 61]);
  });
  test("shares within a group", () => {
    const { rows } = afterSteps(
      "- unique: all\n- add: {part: sum(tonnes) / 100}\n  within: [cargo]\n- only: [cargo, part]",
    );
    expect(rows).toEqual([
      ["grain", 0.4],
      ["fuel", 0.25],
      ["grain", 0.4],
      ["fuel", 0.25],
      ["grain", 0.4],
    ]);
  });
});

describe("columns", () => {
  test("only, drop, patterns, all but", () => {
    expect(afterSteps('- only: [tonnes, "*d*"]').names).toEqual(["tonnes", "id", "day"]);
    expect(afterSteps('- drop: ["c*", id]').names).toEqual(["berth", "tonnes", "day"]);
    expect(afterSteps("- only: {all_but: [id, day]}").names).toEqual(["berth", "cargo", "tonnes"]);
    expect(afterSteps("- only: [{all_but: [id, day]}]").names).toEqual(["berth", "cargo", "tonnes"]);
    expect(afterSteps("- only: [day, {all_but: [id, cargo]}]").names).toEqual(["day", "berth", "tonnes"]);
  });
  test("rename keeps the place", () => {
    expect(afterSteps("- rename: {cargo: goods}").names).toEqual(["id", "berth", "goods", "tonnes", "day"]);
  });
  test("a taken name is an error", () => {
    expect(afterSteps("- rename: {cargo: berth}").errors[0]).toMatchObject({ code: "doubled-column" });
  });
});

describe("unique, sort, first, last", () => {
  test("unique keeps the first of each", () => {
    const { rows, ledger } = afterSteps("- unique: [id]");
    expect(rows.map(([id]) => id)).toEqual([1, 2, 3, 4, 5]);
    expect(ledger[0]?.losses).toEqual([{ rows: 1, reason: "duplicate" }]);
  });
  test("missing equals missing for unique", () => {
    expect(afterSteps("- unique: [berth]").rows.map(([, berth]) => berth)).toEqual(["A", "B", null]);
  });
  test("sort by several, missing last both ways", () => {
    expect(afterSteps("- sort: [-tonnes, id]").rows.map(([id]) => id)).toEqual([5, 2, 2, 1, 4, 3]);
    expect(afterSteps("- sort: [berth, -id]").rows.map(([id]) => id)).toEqual([2, 2, 1, 5, 3, 4]);
    expect(afterSteps("- sort: -berth").rows.map(([id]) => id)).toEqual([3, 5, 1, 2, 2, 4]);
  });
  test("a minus turns the whole item around", () => {
    expect(afterSteps("- sort: -tonnes + 1").rows.map(([id]) => id)).toEqual([5, 2, 2, 1, 4, 3]);
  });
  test("first and last, also within", () => {
    expect(afterSteps("- first: 2").rows.map(([id]) => id)).toEqual([1, 2]);
    expect(afterSteps("- last: 1\n  within: [cargo]").rows.map(([id]) => id)).toEqual([4, 5]);
    expect(afterSteps("- first: 0").rows).toEqual([]);
  });
});

describe("group", () => {
  test("one row per group in order of first appearance, missing a group of its own", () => {
    const { rows, names } = afterSteps(
      "- group: {by: [berth], get: {n: count(), total: sum(tonnes), mid: mean(tonnes), all: sum(tonnes) / count()}}",
    );
    expect(names).toEqual(["berth", "n", "total", "mid", "all"]);
    expect(rows).toEqual([
      ["A", 3, 50, 50 / 3, 50 / 3],
      ["B", 2, 30, 30, 15],
      [null, 1, 5, 5, 5],
    ]);
  });
  test("by formulas with names", () => {
    const { rows } = afterSteps('- group: {by: ["by_month(day) as month"], get: {n: distinct(cargo)}}');
    expect(rows).toEqual([
      [Date.UTC(2024, 0, 1) / 1000, 2],
      [Date.UTC(2024, 1, 1) / 1000, 2],
    ]);
  });
  test("a bare column is an error that says what to do", () => {
    expect(afterSteps("- group: {by: [berth], get: {x: tonnes}}").errors[0]).toMatchObject({ code: "bare-column" });
    expect(afterSteps("- group: {by: [berth], get: {x: sum(tonnes) + id}}").errors[0]).toMatchObject({
      code: "bare-column",
    });
  });
  test("a table without rows has no groups", () => {
    expect(afterSteps("- keep: id > 99\n- group: {by: [berth], get: {n: count()}}").rows).toEqual([]);
  });
});

describe("against a plain model, row by row", () => {
  const rowsOf = fc.array(
    fc.record({
      k: fc.constantFrom("a", "b", "c", ""),
      v: fc.option(fc.integer({ min: -20, max: 20 }), { nil: null }),
    }),
    { minLength: 1, maxLength: 30 },
  );
  const csv = (rows: { k: string; v: number | null }[]) =>
    `k,v\n${rows.map(({ k, v }) => `${k},${v ?? ""}`).join("\n")}\n`;
  const steps = (text: string, rows: { k: string; v: number | null }[]) => {
    // A first row decides the kinds, whatever the drawn rows hold.
    const result = afterSteps(`- keep: k != "kind"\n${text}`, csv([{ k: "kind", v: 1 }, ...rows]));
    expect(result.errors).toEqual([]);
    return result.rows;
  };
  test("keep, sort and group", () => {
    fc.assert(
      fc.property(rowsOf, (rows) => {
        const known = rows.filter(({ k }) => k !== "");
        expect(steps("- keep: v >= 0", rows)).toEqual(
          known.filter(({ v }) => v !== null && v >= 0).map(({ k, v }) => [k, v]),
        );
        const sorted = [...known].sort((a, b) =>
          a.v === null || b.v === null ? Number(a.v === null) - Number(b.v === null) : b.v - a.v,
        );
        expect(steps("- sort: -v", rows)).toEqual(sorted.map(({ k, v }) => [k, v]));
        const groups = new Map<string, { n: number; total: number; values: number[] }>();
        for (const { k, v } of known) {
          const group = groups.get(k) ?? { n: 0, total: 0, values: [] };
          groups.set(k, group);
          group.n += 1;
          group.total += v ?? 0;
          if (v !== null) group.values.push(v);
        }
        const expected = [...groups].map(([k, { n, total, values }]) => [
          k,
          n,
          total,
          values.length ? Math.max(...values) : null,
        ]);
        expect(steps("- group: {by: k, get: {n: count(), total: sum(v), top: max(v)}}", rows)).toEqual(expected);
      }),
      { numRuns: 60 },
    );
  });
});
