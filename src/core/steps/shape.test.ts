import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { Model } from "../model/model";
import { kindOf, valueAt } from "../table/column";
import type { Table } from "../table/table";
import { compileText } from "../testing/compile-text";

const plain = (table: Table | undefined) =>
  Array.from({ length: table?.rowCount ?? 0 }, (_, row) =>
    [...(table?.columns.values() ?? [])].map((column) => valueAt(column, row)),
  );

/** Table `t` of rows in the sheet after its steps, with other tables beside it. */
function shaped(csv: string, steps: string, others: Record<string, string> = {}, more = "") {
  const block = (text: string) =>
    text
      .trim()
      .split("\n")
      .map((line) => `      ${line}`)
      .join("\n");
  const tables = Object.entries(others).map(([name, rows]) => `  ${name}:\n    rows: |\n${block(rows)}\n`);
  const text = `still: 1\nreport: T\n${more}tables:\n  t:\n    rows: |\n${block(csv)}\n    steps:\n${block(steps)}\n${tables.join("")}`;
  const compiled = compileText(text);
  const stages = compiled.stages.get("t");
  const table = stages?.tables.at(-1);
  return {
    compiled,
    table,
    names: [...(table?.columns.keys() ?? [])],
    kinds: [...(table?.columns.values() ?? [])].map(kindOf),
    rows: plain(table),
    ledger: stages?.ledger ?? [],
    errors: compiled.findings.filter(({ severity }) => severity === "error"),
  };
}

const WIDE = "berth,2023,2024\nA,10,20\nB,,40";

describe("unpivot", () => {
  test("one row for each column, heads as text in their order, missing stays", () => {
    const { names, rows, ledger } = shaped(WIDE, '- unpivot: {columns: ["20*"], name: year, value: tonnes}');
    expect(names).toEqual(["berth", "year", "tonnes"]);
    expect(rows).toEqual([
      ["A", "2023", 10],
      ["A", "2024", 20],
      ["B", "2023", null],
      ["B", "2024", 40],
    ]);
    expect(ledger[0]).toMatchObject({ step: "unpivot 2 columns into year, tonnes", rowsIn: 2, rowsOut: 4 });
  });
  test("heads read as numbers or dates", () => {
    expect(
      shaped(WIDE, "- unpivot: {columns: {all_but: [berth]}, name: {year: number}, value: tonnes}").rows.map(
        ([, year]) => year,
      ),
    ).toEqual([2023, 2024, 2023, 2024]);
    const spelt = "b,Mar 24,Sept 2024,2024 Q3,2024-12,2025 May\nA,1,2,3,4,5";
    expect(
      shaped(spelt, "- unpivot: {columns: {all_but: [b]}, name: {month: date}, value: v}").rows.map(([, month]) =>
        new Date(Number(month) * 1000).toISOString().slice(0, 10),
      ),
    ).toEqual(["2024-03-01", "2024-09-01", "2024-07-01", "2024-12-01", "2025-05-01"]);
    expect(
      shaped("b,2024-03,2024-04\nA,1,2", '- unpivot: {columns: ["20*"], name: {month: date}, value: v}').rows.map(
        ([, month]) => month,
      ),
    ).toEqual([Date.UTC(2024, 2, 1) / 1000, Date.UTC(2024, 3, 1) / 1000]);
    expect(
      shaped("b,total,2024\nA,1,2", '- unpivot: {columns: [total, "2024"], name: {year: number}, value: v}').rows.map(
        ([, year]) => year,
      ),
    ).toEqual([null, 2024]);
  });
  test("heads that cannot be read so are said, and where none can there is no step", () => {
    const { compiled } = shaped(
      "b,Mai 24,Mar 24\nA,1,2",
      "- unpivot: {columns: ['* 24'], name: {month: date}, value: v}",
    );
    expect(compiled.findings.find(({ code }) => code === "unread-heads")).toMatchObject({
      severity: "warning",
      message: '1 of 2 heads cannot be read as a date: "Mai 24"; their rows have none',
    });
    expect(shaped("b,p,q\nA,1,2", "- unpivot: {columns: [p, q], name: {n: number}, value: v}").errors).toMatchObject([
      { message: '2 of 2 heads cannot be read as a number: "p", "q"; as text they are kept: name: n' },
    ]);
  });
  test("columns of several kinds, a name that is taken, a column that is not there", () => {
    expect(shaped("a,b\n1,x", "- unpivot: {columns: [a, b], name: n, value: v}").errors[0]?.message).toContain(
      "number and text",
    );
    expect(shaped(WIDE, '- unpivot: {columns: ["20*"], name: berth, value: v}').errors[0]?.code).toBe("doubled-column");
    expect(shaped(WIDE, "- unpivot: {columns: [berths], name: n, value: v}").errors[0]?.message).toContain(
      "did you mean berth?",
    );
  });
  test("no rows", () => {
    expect(shaped("a,2023\n", '- unpivot: {columns: ["2023"], name: y, value: v}').rows).toEqual([]);
  });
});

describe("pivot", () => {
  const LONG = "berth,cargo,tonnes\nA,salt,1\nA,grain,2\nB,grain,4\nA,grain,8\nB,,16";
  test("one column for each value, by code unit; sums of nothing are 0", () => {
    const { names, rows, ledger } = shaped(LONG, "- pivot: {by: berth, name: cargo, value: sum(tonnes)}");
    expect(names).toEqual(["berth", "grain", "salt"]);
    expect(rows).toEqual([
      ["A", 10, 1],
      ["B", 4, 0],
    ]);
    expect(ledger[0]?.notes).toEqual([{ rows: 1, reason: "have no cargo and stand in no column" }]);
  });
  test("other aggregates of nothing are missing", () => {
    expect(shaped(LONG, "- pivot: {by: [berth], name: cargo, value: max(tonnes)}").rows).toEqual([
      ["A", 8, 1],
      ["B", 4, null],
    ]);
    expect(shaped(LONG, "- pivot: {by: [berth], name: cargo, value: first(cargo)}").rows).toEqual([
      ["A", "grain", "salt"],
      ["B", "grain", null],
    ]);
  });
  test("numbers as heads by value, and refusals", () => {
    expect(shaped("k,y,v\na,10,1\na,9,2", "- pivot: {by: k, name: y, value: sum(v)}").names).toEqual(["k", "9", "10"]);
    expect(shaped(LONG, "- pivot: {by: berth, name: cargo, value: tonnes}").errors[0]?.message).toContain(
      "one aggregate",
    );
    expect(shaped(LONG, "- pivot: {by: berth, name: carg, value: count()}").errors[0]?.message).toContain(
      "did you mean cargo?",
    );
  });
  test("there and back again keeps every value", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            a: fc.option(fc.integer({ min: -50, max: 50 }), { nil: null }),
            b: fc.integer({ min: -50, max: 50 }),
          }),
          { minLength: 1, maxLength: 8 },
        ),
        (rows) => {
          const csv = `k,a,b\n${rows.map(({ a, b }, at) => `k${String(at).padStart(2, "0")},${a ?? ""},${b}`).join("\n")}\nzz,1,1`;
          const { rows: found } = shaped(
            csv,
            "- unpivot: {columns: [a, b], name: n, value: v}\n- pivot: {by: k, name: n, value: first(v)}",
          );
          expect(found).toEqual([
            ...rows.map(({ a, b }, at) => [`k${String(at).padStart(2, "0")}`, a, b]),
            ["zz", 1, 1],
          ]);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe("join", () => {
  const CALLS = "id,berth\n1,A\n2,B\n3,C\n4,\n5,A";
  const BERTHS = { berths: "code,lat,berth\nA,54.1,x\nB,54.2,y\nA,99,z\n,7,q" };
  test("rows that find none are kept with missing, of several the first; both are counted", () => {
    const { names, rows, ledger } = shaped(CALLS, "- join: {table: berths, on: {berth: code}, get: [lat]}", BERTHS);
    expect(names).toEqual(["id", "berth", "lat"]);
    expect(rows.map(([id, , lat]) => [id, lat])).toEqual([
      [1, 54.1],
      [2, 54.2],
      [3, null],
      [4, null],
      [5, 54.1],
    ]);
    expect(ledger[0]).toMatchObject({
      losses: [],
      notes: [
        { rows: 2, reason: "found none in berths" },
        { rows: 2, reason: "found several in berths; the first counts" },
      ],
    });
  });
  test("or dropped, which is a loss", () => {
    const { rows, ledger } = shaped(
      CALLS,
      "- join: {table: berths, on: {berth: code}, get: {north: lat}, unmatched: drop}",
      BERTHS,
    );
    expect(rows.map(([id]) => id)).toEqual([1, 2, 5]);
    expect(ledger[0]).toMatchObject({ rowsOut: 3, losses: [{ rows: 2, reason: "found none in berths" }] });
  });
  test("by several columns, and by numbers", () => {
    expect(
      shaped("y,m,v\n1,1,a\n1,2,b\n2,1,c", "- join: {table: o, on: [y, m], get: [w]}", {
        o: "y,m,w\n1,2,9\n2,1,8",
      }).rows.map(([, , , w]) => w),
    ).toEqual([null, 9, 8]);
  });
  test("what is wrong is said with its place", () => {
    expect(shaped(CALLS, "- join: {table: berth, on: berth, get: [lat]}", BERTHS).errors[0]?.message).toContain(
      "did you mean berths?",
    );
    expect(
      shaped(CALLS, "- join: {table: berths, on: {berth: lat}, get: [code]}", BERTHS).errors[0]?.message,
    ).toContain("berth holds text and lat of berths holds number");
    expect(shaped(CALLS, "- join: {table: berths, on: {berth: code}, get: [berth]}", BERTHS).errors[0]?.code).toBe(
      "doubled-column",
    );
    expect(
      shaped(CALLS, "- join: {table: berths, on: {berth: code}, get: [lot]}", BERTHS).errors[0]?.message,
    ).toContain("did you mean lat?");
    expect(shaped(CALLS, "- join: {table: t, on: id, get: [berth]}").errors[0]?.code).toBe("cycle");
  });
  test("as a plain look-up has it", () => {
    const key = fc.option(fc.integer({ min: 0, max: 4 }), { nil: null });
    fc.assert(
      fc.property(
        fc.array(key, { minLength: 1, maxLength: 12 }),
        fc.array(fc.tuple(key, fc.integer({ min: 0, max: 99 })), { minLength: 1, maxLength: 8 }),
        (left, right) => {
          const { rows } = shaped(
            `n,k\n0,4\n${left.map((k, at) => `${at},${k ?? ""}`).join("\n")}`,
            "- join: {table: o, on: k, get: [v]}",
            { o: `k,v\n4,100\n${right.map(([k, v]) => `${k ?? ""},${v}`).join("\n")}` },
          );
          const all: [number | null, number][] = [[4, 100], ...right];
          expect(rows.map(([, , v]) => v)).toEqual(
            [4, ...left].map((k) => (k === null ? null : (all.find(([own]) => own === k)?.[1] ?? null))),
          );
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe("stack", () => {
  test("rows under rows, by the names of columns", () => {
    expect(shaped("a,b\n1,x", "- stack: [o, p]", { o: "b,a\ny,2", p: "a,b\n,x" }).rows).toEqual([
      [1, "x"],
      [2, "y"],
      [null, "x"],
    ]);
  });
  test("other columns, other kinds", () => {
    expect(shaped("a,b\n1,x", "- stack: o", { o: "a\n2" }).errors[0]?.message).toContain("o lacks b");
    expect(shaped("a\n1", "- stack: o", { o: "a,c\n2,3" }).errors[0]?.message).toContain("o also has c");
    expect(shaped("a\n1", "- stack: o", { o: "a\nx" }).errors[0]?.message).toContain(
      "a holds number here and text in o",
    );
  });
});

describe("fill", () => {
  test("values in place of missing, counted", () => {
    const { rows, ledger } = shaped("a,b\n1,x\n,\n3,", "- fill: {a: 0, b: none}");
    expect(rows).toEqual([
      [1, "x"],
      [0, "none"],
      [3, "none"],
    ]);
    expect(ledger[0]?.notes).toEqual([
      { rows: 1, reason: "filled in a" },
      { rows: 2, reason: "filled in b" },
    ]);
  });
  test("from another column, of its own kind only", () => {
    expect(shaped("a,b\n,5\n1,6", "- fill: {a: b * 2}").rows).toEqual([
      [10, 5],
      [1, 6],
    ]);
    expect(shaped("a\n1\n", '- fill: {a: date("2024-01-01")}').errors[0]?.message).toContain(
      "cannot be filled with a date",
    );
  });
  test("the last known forward, in an order, within groups", () => {
    const csv = "g,t,v\na,1,10\nb,1,\na,3,\na,2,20\nb,2,7\nb,3,";
    expect(shaped(csv, "- fill_forward: [v]\n  within: [g]\n  order: t").rows.map(([, , v]) => v)).toEqual([
      10,
      null,
      20,
      20,
      7,
      7,
    ]);
    expect(shaped(csv, "- fill_forward: [v]").rows.map(([, , v]) => v)).toEqual([10, 10, 10, 20, 7, 7]);
  });
});

describe("sample, words", () => {
  const many = `n\n${Array.from({ length: 300 }, (_, row) => row).join("\n")}`;
  test("a sample is as large as asked, in order, the same again, another by another seed", () => {
    const one = shaped(many, "- sample: {rows: 40, seed: 7}").rows.map(([n]) => n as number);
    expect(one).toHaveLength(40);
    expect(one).toEqual([...new Set(one)].sort((a, b) => a - b));
    expect(shaped(many, "- sample: {rows: 40, seed: 7}").rows.map(([n]) => n)).toEqual(one);
    expect(shaped(many, "- sample: {rows: 40, seed: 8}").rows.map(([n]) => n)).not.toEqual(one);
    expect(shaped("n\n1\n2", "- sample: {rows: 9}").rows).toHaveLength(2);
  });
  test("words: small letters, split where no letter stands, the most frequent first", () => {
    const csv = 'r\n"The crane broke, the CRANE!"\n"Fog; crane2go isn\'t"\n""';
    expect(shaped(csv, "- words: {of: r}").rows).toEqual([
      ["crane", 3],
      ["the", 2],
      ["broke", 1],
      ["fog", 1],
      ["go", 1],
      ["isn't", 1],
    ]);
    expect(shaped(csv, "- words: {of: r, skip: english}").rows.map(([word]) => word)).toEqual([
      "crane",
      "broke",
      "fog",
      "go",
      "isn't",
    ]);
  });
});

describe("make, and steps switched off", () => {
  test("so many rows to add to, the same draws in every build", () => {
    const build = (seed: number) =>
      compileText(
        `still: 1\nreport: T\ntables:\n  t:\n    make: {rows: 5, seed: ${seed}}\n    steps:\n      - add: {n: row(), x: "uniform(0, 1)"}\n`,
      );
    const rows = plain(build(7).stages.get("t")?.tables.at(-1));
    expect(rows.map(([n]) => n)).toEqual([1, 2, 3, 4, 5]);
    expect(plain(build(7).stages.get("t")?.tables.at(-1))).toEqual(rows);
    expect(plain(build(8).stages.get("t")?.tables.at(-1))).not.toEqual(rows);
    expect(compileText("still: 1\nreport: T\ntables:\n  t:\n    make: {rows: 2.5}\n").findings[0]?.code).toBe(
      "wrong-value",
    );
  });
  test("a step that is off lets rows pass, keeps its line and warns", () => {
    const { rows, ledger, compiled } = shaped("a\n1\n2", "- keep: a > 1\n  off: true\n- add: {b: a * 2}");
    expect(rows).toEqual([
      [1, 2],
      [2, 4],
    ]);
    expect(ledger[0]).toMatchObject({ off: true, rowsIn: 2, rowsOut: 2 });
    expect(compiled.findings.find(({ code }) => code === "step-off")?.severity).toBe("warning");
  });
  test("division by zero is missing and counted", () => {
    const { rows, ledger } = shaped("a,b\n6,2\n1,0\n,0", "- add: {r: a / b}");
    expect(rows.map(([, , r]) => r)).toEqual([3, null, null]);
    expect(ledger[0]?.notes).toEqual([{ rows: 1, reason: "divided by zero in r" }]);
  });
  test("every division by zero is found, alone, in company and at the ends", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat({ max: 40 }), fc.boolean()), { maxLength: 12 }), (runs) => {
        // Stretches of ones with zeros between them, some side by side.
        const divisors = runs.flatMap(([ones, alone]) => [
          ...Array.from({ length: ones }, () => 1),
          ...(alone ? [0] : [0, 0]),
        ]);
        if (divisors.length === 0) return;
        const { ledger } = shaped(`a,b\n${divisors.map((divisor) => `5,${divisor}`).join("\n")}`, "- add: {r: a / b}");
        expect(ledger[0]?.notes).toEqual([
          { rows: divisors.filter((divisor) => divisor === 0).length, reason: "divided by zero in r" },
        ]);
      }),
      { numRuns: 60 },
    );
  });
  test("texts that cannot be read are missing and counted", () => {
    const { rows, ledger } = shaped('a,b\n"12",x1\nten,x2\n,x3', '- add: {n: "number(a)", day: "date(b)"}');
    expect(rows.map(([, , n]) => n)).toEqual([12, null, null]);
    expect(ledger[0]?.notes).toEqual([
      { rows: 1, reason: "unreadable as a number in n" },
      { rows: 3, reason: "unreadable as a date in day" },
    ]);
  });
  test("what a test loses is told beside the rows that leave", () => {
    const { ledger } = shaped("a,b\n6,2\n1,0\n,1\n4,4", "- keep: a / b > 2");
    expect(ledger[0]).toMatchObject({
      rowsOut: 1,
      losses: [
        { rows: 1, reason: "not true" },
        { rows: 2, reason: "missing" },
      ],
      notes: [{ rows: 1, reason: "divided by zero in the test" }],
    });
  });
  test("what groups lose is counted in rows before and in groups after they are put together", () => {
    const { rows, ledger } = shaped(
      'g,a,b\nx,6,2\nx,1,0\ny,0,0\ny,3,"3"\nz,5,0',
      "- group: {by: g, get: {r: mean(a / b), s: sum(a) / sum(b)}}",
    );
    expect(rows).toEqual([
      ["x", 3, 3.5],
      ["y", 1, 1],
      ["z", null, null],
    ]);
    expect(ledger[0]?.notes).toEqual([
      { rows: 3, reason: "divided by zero in r" },
      { rows: 1, reason: "divided by zero in s" },
    ]);
  });
  test("within and order only where they mean something", () => {
    expect(shaped("a\n1", "- sort: a\n  within: [a]").errors[0]?.message).toContain("not with sort");
    expect(shaped("a\n1", "- first: 1\n  order: a").errors[0]?.message).toContain("not with first");
  });
});

describe("steps that follow a setting run in the dashboard too", () => {
  const sheet = (steps: string) => `still: 1
report: T
controls:
  n: {set: 2, as: slider, range: [0, 9], step: 1}
tables:
  t:
    rows: |
      k,v
      a,1
      b,2
      c,3
    steps:
${steps
  .split("\n")
  .map((line) => `      ${line}`)
  .join("\n")}
  o:
    rows: |
      k,w,unused
      a,10,0
      c,30,0
  q: {rows: [{k: x}]}
charts:
  shown: {draw: table, from: t}
`;
  const shown = (steps: string, n: number) => {
    const compiled = compileText(sheet(steps));
    expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
    const model = new Model(compiled.plan, compiled.tables);
    model.engine.setSetting("n", n);
    return { rows: plain(model.engine.tableOf("t")), packed: compiled.tables };
  };
  test("a look-up below the setting takes its table along, without what nothing needs", () => {
    const { rows, packed } = shown("- keep: v <= $n\n- join: {table: o, on: k, get: [w]}", 3);
    expect(rows).toEqual([
      ["a", 1, 10],
      ["b", 2, null],
      ["c", 3, 30],
    ]);
    expect([...(packed.get("o")?.columns.keys() ?? [])]).toEqual(["k", "w"]);
    expect(shown("- keep: v <= $n\n- join: {table: o, on: k, get: [w]}", 1).rows).toEqual([["a", 1, 10]]);
  });
  test("stack, fill, functions over rows, a share of what is left", () => {
    expect(shown('- add: {d: "v - previous(v, $n)"}', 1).rows).toEqual([
      ["a", 1, null],
      ["b", 2, 1],
      ["c", 3, 1],
    ]);
    expect(shown("- first: $n\n- only: [k]\n- stack: q", 1).rows).toEqual([["a"], ["x"]]);
  });
});
