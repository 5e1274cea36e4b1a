import fc from "fast-check";
import { afterEach, describe, expect, test } from "vitest";
import { buildDashboard } from "../dashboard/build";
import { applyEdits } from "../finding/finding";
import { accountOf } from "../look/accounting";
import { Model } from "../model/model";
import { channelValues } from "../query/values";
import { type Column, type Scalar, valueAt } from "../table/column";
import type { Table } from "../table/table";
import { compileText } from "./compile-text";

/** What the sheet means, sentence by sentence: each test is named by the sentence that it holds the house to. */

const plain = (table: Table | undefined) =>
  Array.from({ length: table?.rowCount ?? 0 }, (_, row) =>
    [...(table?.columns.values() ?? [])].map((column) => valueAt(column, row)),
  );
const lines = (text: string, indent: string) =>
  text
    .split("\n")
    .map((line) => indent + line)
    .join("\n");

function sheetOf(csv: string, more: { table?: string; steps?: string; rest?: string } = {}) {
  return `still: 1\nreport: T\ntables:\n  t:\n    rows: |\n${lines(csv, "      ")}\n${more.table ?? ""}${more.steps ? `    steps:\n${lines(more.steps, "      ")}\n` : ""}${more.rest ?? ""}`;
}

/** The value of a formula in every row, or the messages of what is wrong with it. */
function value(formula: string, csv: string, within = ""): Scalar[] | string[] {
  const compiled = compileText(sheetOf(csv, { steps: `- add:\n    out: '${formula.replaceAll("'", "''")}'${within}` }));
  const errors = compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message);
  if (errors.length) return errors;
  const table = compiled.stages.get("t")?.tables.at(-1) as Table;
  return Array.from({ length: table.rowCount }, (_, row) => valueAt(table.columns.get("out") as Column, row));
}

const moment = (text: string) => Date.parse(`${text}Z`) / 1000;

describe("values", () => {
  test("`x = missing` is an error whose fix is `missing(x)`", () => {
    const text = sheetOf("x\n1\n2", { steps: "- keep: x = missing" });
    const [finding] = compileText(text).findings;
    expect(finding).toMatchObject({ code: "equals-missing", severity: "error" });
    expect(applyEdits(text, finding?.fix?.edits ?? [])).toBe(text.replace("x = missing", "missing(x)"));
    expect(value("x != missing", "x\n1")[0]).toContain("ask known(x)");
  });
  test("arithmetic with missing is missing", () => {
    for (const formula of ["a + b", "a - b", "a * b", "a / b", "a ^ b", "-b", "b ^ 0", "abs(b)", "least(a, b)"])
      expect(value(formula, "a,b\n2,3\n2,")[1]).toBeNull();
  });
  test("`and`/`or` are three-valued", () => {
    const truths = ["true", "false", ""];
    const csv = `p,q\n${truths.flatMap((p) => truths.map((q) => `${p},${q}`)).join("\n")}`;
    expect(value("p and q", csv)).toEqual([true, false, null, false, false, false, null, false, null]);
    expect(value("p or q", csv)).toEqual([true, true, true, true, false, null, true, null, null]);
    expect(value("not q", csv).slice(0, 3)).toEqual([false, true, null]);
  });
  test("division by zero is missing and counted", () => {
    const compiled = compileText(sheetOf("a,b\n1,0\n1,2", { steps: "- add: {r: a / b}" }));
    expect(plain(compiled.stages.get("t")?.tables.at(-1)).map(([, , r]) => r)).toEqual([null, 0.5]);
    expect(compiled.stages.get("t")?.ledger[0]?.notes).toEqual([{ rows: 1, reason: "divided by zero in r" }]);
  });
  test("aggregates skip missing; `sum` and `count` of nothing are 0, every other aggregate missing", () => {
    const csv = "g,x\na,1\na,\na,3\nb,\nb,";
    const within = "\n  within: [g]";
    expect(value("sum(x)", csv, within)).toEqual([4, 4, 4, 0, 0]);
    expect(value("count(x)", csv, within)).toEqual([2, 2, 2, 0, 0]);
    for (const other of [
      "mean(x)",
      "median(x)",
      "quantile(x, 0.5)",
      "min(x)",
      "max(x)",
      "stdev(x)",
      "variance(x)",
      "first(x)",
      "last(x)",
      "corr(x, x)",
      "slope(x, x)",
    ])
      expect(value(other, csv, within)[3]).toBeNull();
    expect(value("mean(x)", csv, within)[0]).toBe(2);
  });
  test("missing sorts last both ways", () => {
    const sorted = (key: string) =>
      plain(
        compileText(sheetOf("x,t\n2,b\n,\n1,a", { steps: `- sort: ${key}` }))
          .stages.get("t")
          ?.tables.at(-1),
      ).map(([x]) => x);
    expect([sorted("x"), sorted("-x"), sorted("t"), sorted("-t")]).toEqual([
      [1, 2, null],
      [2, 1, null],
      [1, 2, null],
      [2, 1, null],
    ]);
  });
  test("as a category it is last; on a continuous axis it is not drawn but counted in the chart's accounting", () => {
    const compiled = compileText(
      sheetOf("x,c\n1,b\n2,\n,a", {
        rest: "charts:\n  bars: {from: t, draw: bars, x: c, y: count()}\n  dots: {from: t, draw: points, x: x, y: x}\n",
      }),
    );
    const model = new Model(compiled.plan, compiled.tables);
    const drawn = model.chartInput("bars", 400, 300, new Set())?.layers[0];
    const keys = drawn?.all.prepared.keys.get("x") as Column;
    expect(
      [0, 1, 2]
        .map((row) => valueAt(keys, row))
        .sort((a, b) => Number(a === null) - Number(b === null) || (String(a) < String(b) ? -1 : 1)),
    ).toEqual(["a", "b", null]);
    expect(accountOf(compiled, model, "dots").find(({ lost }) => lost !== undefined)).toMatchObject({
      count: 2,
      lost: "1 missing a value",
    });
  });
  test("datetimes are wall-clock numbers without a zone; an offset in the text is applied and `zone` says what remains", () => {
    const read = (zone: string) =>
      plain(
        compileText(sheetOf("at\n2025-03-01T06:30:00+05:30\n2025-03-01T06:30:00", { table: zone })).stages.get("t")
          ?.tables[0],
      ).map(([at]) => at);
    expect(read("")).toEqual([moment("2025-03-01T01:00:00"), moment("2025-03-01T06:30:00")]);
    expect(read('    zone: "+02:00"\n')).toEqual([moment("2025-03-01T03:00:00"), moment("2025-03-01T06:30:00")]);
  });
  describe("only UTC calendar code", () => {
    const own = process.env.TZ;
    afterEach(() => {
      if (own === undefined) delete process.env.TZ;
      else process.env.TZ = own;
    });
    test("the reader's own zone never changes a value", () => {
      const csv = "at\n2025-03-30 02:30\n2025-10-26 02:30\n2025-12-31 23:59";
      const all = () =>
        ["by_day(at)", "by_week(at)", "by_month(at)", "hour(at)", 'text(at, "%H:%M %d")', "add_months(at, 2)"].map(
          (formula) => value(formula, csv),
        );
      const clocks = new Set<number>();
      const results = ["UTC", "Pacific/Kiritimati", "America/St_Johns", "Europe/Berlin"].map((zone) => {
        process.env.TZ = zone;
        clocks.add(new Date(0).getHours());
        return all();
      });
      // The machine's own clock did go by these zones meanwhile.
      expect(clocks.size).toBeGreaterThan(1);
      for (const result of results) expect(result).toEqual(results[0]);
    });
  });
  test("weeks start on Monday", () => {
    expect(value("by_week(d)", "d\n2025-03-02\n2025-03-03\n2025-03-09")).toEqual([
      moment("2025-02-24T00:00:00"),
      moment("2025-03-03T00:00:00"),
      moment("2025-03-03T00:00:00"),
    ]);
  });
  test("a datetime compared with a date is cut to its day", () => {
    const csv = "at\n2025-03-01 00:00\n2025-03-01 23:59\n2025-03-02 00:00";
    expect(value('at = date("2025-03-01")', csv)).toEqual([true, true, false]);
    expect(value('at <= date("2025-03-01")', csv)).toEqual([true, true, false]);
    expect(value('at between date("2025-03-01") and date("2025-03-01")', csv)).toEqual([true, true, false]);
  });
  test("durations are seconds: a date minus a date, duration / number, mean(duration); formats `h:mm:ss`", () => {
    expect(value("b - a", "a,b\n2025-03-01,2025-03-03")).toEqual([172800]);
    expect(value("d / 4", "d\n1:00:00")).toEqual([900]);
    expect(value("mean(d)", "d\n1:00:00\n2:00:00")).toEqual([5400, 5400]);
    expect(value('text(d / 4, "h:mm:ss")', "d\n1:00:10")).toEqual(["0:15:03"]);
    expect(value("hours(d)", "d\n1:30:00")).toEqual([1.5]);
  });
  test("`sum` is defined so that taking away is exact: no order of adding can be told from another", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e9, max: 1e9, noNaN: true }), { minLength: 2, maxLength: 12 }),
        (values) => {
          const sum = (own: number[]) => value("sum(x)", `x\n${own.map(String).join("\n")}`)[0];
          expect(sum([...values].reverse())).toBe(sum(values));
        },
      ),
      { numRuns: 40 },
    );
    expect(value("sum(x)", "x\n0.1\n0.2\n0.3")[0]).toBe(0.6);
  });
  test("`mean` is sum over its own known count; `stdev` is by n-1", () => {
    expect(value("mean(x)", "x,y\n1,1\n2,1\n,1")[0]).toBe(1.5);
    expect(value("stdev(x)", "x,y\n1e9,1\n1000000001,1\n,1\n1000000002,1")[0]).toBe(1);
  });
  test("`quantile(x, p)` interpolates linearly at (n-1)p of the sorted known values; median likewise", () => {
    const csv = "x\n4\n1\n\n3\n10";
    expect([
      value("quantile(x, 0)", csv)[0],
      value("quantile(x, 0.5)", csv)[0],
      value("quantile(x, 0.9)", csv)[0],
      value("quantile(x, 1)", csv)[0],
    ]).toEqual([1, 3.5, 8.200000000000001, 10]);
    expect(value("median(x)", csv)[0]).toBe(3.5);
  });
  test("`month` and `weekday` are ordered categories with names", () => {
    const compiled = compileText(
      sheetOf("d\n2025-04-01\n2025-01-06\n2025-12-07", { steps: "- add: {m: month(d), w: weekday(d)}\n- sort: m" }),
    );
    expect(plain(compiled.stages.get("t")?.tables.at(-1)).map(([, m, w]) => [m, w])).toEqual([
      ["January", "Monday"],
      ["April", "Tuesday"],
      ["December", "Sunday"],
    ]);
  });
  test("`+` never joins text", () => {
    expect(value("a + b", "a,b\nx,y")[0]).toContain("joined with concat()");
    expect(value('month(d) + " of it"', "d\n2026-03-04")[0]).toContain("joined with concat()");
  });
  test("months and weekdays are names; where numbers are meant it is said how they are written", () => {
    expect(value("month(d) * 2", "d\n2026-03-04")[0]).toContain('its number is number(text(d, "%m"))');
    expect(value("weekday(d) = 3", "d\n2026-03-04")[0]).toContain('its number is number(text(d, "%u"))');
    expect(value('number(text(d, "%m")) * 2', "d\n2026-03-04")[0]).toBe(6);
    expect(value('number(text(d, "%u")) = 3', "d\n2026-03-04")[0]).toBe(true);
    expect(value('month(d) = "March"', "d\n2026-03-04")[0]).toBe(true);
  });
  test("booleans sum as 0 and 1", () => {
    expect(value("sum(p)", "p\ntrue\nfalse\n\ntrue")[0]).toBe(2);
    expect(value("sum(x > 1)", "x\n1\n2\n3")[0]).toBe(2);
  });
  test("`previous` over an aggregate counts filled periods", () => {
    const compiled = compileText(
      sheetOf("d,c,x\n2025-01-10,a,1\n2025-02-10,b,5\n2025-03-10,a,4\n2025-03-11,a,2", {
        rest: "charts:\n  lines: {from: t, draw: line, x: by_month(d), y: sum(x) - previous(sum(x)), color: c}\n",
      }),
    );
    expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
    const model = new Model(compiled.plan, compiled.tables);
    const layer = model.chartInput("lines", 400, 300, new Set())?.layers[0];
    const answer = layer?.all;
    if (!answer) throw new Error("no answer");
    const keys = [...answer.prepared.keys.values()];
    const rows = Array.from({ length: answer.prepared.groupCount }, (_, group) =>
      keys.map((column) => valueAt(column, group)),
    );
    const march = moment("2025-03-01T00:00:00");
    expect(rows.some(([month]) => month === moment("2025-02-01T00:00:00"))).toBe(true);
    // In March a has 6; the month before it had nothing, which is 0 and not January's 1.
    const group = rows.findIndex(([month, color]) => month === march && color === "a");
    expect(valueAt(channelOf(answer), group)).toBe(6);
  });
  test("the same sheet and tables give the same bytes", () => {
    const build = () =>
      buildDashboard(
        {
          text: sheetOf("c,x\nb,1\na,2\n,3", { rest: "charts:\n  bars: {from: t, draw: bars, x: c, y: sum(x)}\n" }),
          fileName: "x",
          readFile: () => undefined,
        },
        { viewer: () => "0" },
      ).html;
    expect(build()).toBe(build());
  });
  test("text sorts by code unit; sorts are stable", () => {
    const sorted = plain(
      compileText(sheetOf("t,n\nb,1\nB,2\né,3\na,4\nb,5\nz,6", { steps: "- sort: t" }))
        .stages.get("t")
        ?.tables.at(-1),
    );
    expect(sorted).toEqual([
      ["B", 2],
      ["a", 4],
      ["b", 1],
      ["b", 5],
      ["z", 6],
      ["é", 3],
    ]);
  });
});

function channelOf(answer: Parameters<typeof channelValues>[1]): Column {
  return channelValues("y", answer, answer);
}

describe("steps", () => {
  test("in `add` and `keep` an aggregate spreads over its `within` group", () => {
    expect(value("x / sum(x)", "g,x\na,1\na,3\nb,4", "\n  within: [g]")).toEqual([0.25, 0.75, 1]);
    expect(
      plain(
        compileText(sheetOf("g,x\na,1\na,3\nb,4", { steps: "- keep: x = max(x)\n  within: [g]" }))
          .stages.get("t")
          ?.tables.at(-1),
      ),
    ).toEqual([
      ["a", 3],
      ["b", 4],
    ]);
  });
  test("in a channel, a bare column that is not a key beside an aggregate is an error", () => {
    const text = sheetOf("g,x\na,1", { rest: "charts:\n  bars: {from: t, draw: bars, x: g, y: x + sum(x)}\n" });
    expect(compileText(text).findings.find(({ severity }) => severity === "error")?.code).toBe("bare-column");
  });
  test("a row function over an aggregate runs after grouping, along x, per colour", () => {
    const compiled = compileText(
      sheetOf("k,c,x\n2,a,1\n1,a,2\n2,b,10\n1,b,20\n1,a,3", {
        rest: "charts:\n  lines: {from: t, draw: line, x: k, y: running_total(sum(x)), color: c}\n",
      }),
    );
    const model = new Model(compiled.plan, compiled.tables);
    const answer = model.chartInput("lines", 400, 300, new Set())?.layers[0]?.all;
    if (!answer) throw new Error("no answer");
    const [k, c] = [answer.prepared.keys.get("x") as Column, answer.prepared.keys.get("color") as Column];
    const totals = Array.from({ length: answer.prepared.groupCount }, (_, group) => [
      valueAt(k, group),
      valueAt(c, group),
      valueAt(channelOf(answer), group),
    ]);
    expect(totals.sort((a, b) => String(a[1]).localeCompare(String(b[1])) || Number(a[0]) - Number(b[0]))).toEqual([
      [1, "a", 5],
      [2, "a", 6],
      [1, "b", 20],
      [2, "b", 30],
    ]);
  });
  test("a row function inside an aggregate is an error", () => {
    expect(value("sum(previous(x))", "x\n1")[0]).toContain("cannot stand inside an aggregate");
  });

  const linkedSheet = (steps: string) =>
    sheetOf("id,g,x\n1,a,1\n2,a,2\n3,b,3\n4,b,4", {
      rest: `  below:\n    from: t\n    steps:\n${lines(steps, "      ")}\ncharts:\n  dots: {from: t, draw: points, x: id, y: x}\n  shown: {draw: table, from: below}\nlinks:\n  - brush x on dots -> filter shown\n`,
    });
  /** The rows that a table below shows while ids from 2 up to, not including, 4 are brushed. */
  function brushed(steps: string): Scalar[][] {
    const compiled = compileText(linkedSheet(steps));
    expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
    const model = new Model(compiled.plan, compiled.tables);
    model.engine.select("dots", { x: [2, 4] });
    const { answer } = model.plainAnswer("shown") as { answer: Parameters<typeof channelValues>[1] };
    const names = Object.keys(answer.prepared.query.channels);
    const groups = [...answer.counts.keys()].filter((group) => (answer.counts[group] as number) > 0);
    return groups.map((group) => names.map((name) => valueAt(channelValues(name, answer, answer), group)));
  }
  test("selections enter just above the first merging step", () => {
    expect(brushed("- group: {by: [g], get: {n: count(), total: sum(x)}}")).toEqual([
      ["a", 1, 2],
      ["b", 1, 3],
    ]);
  });
  test("row-for-row steps and row functions above keep values computed from all rows", () => {
    expect(brushed("- add: {before: previous(x), so_far: running_total(x), whole: sum(x)}")).toEqual([
      [2, "a", 2, 1, 3, 10],
      [3, "b", 3, 2, 6, 10],
    ]);
    expect(brushed("- add: {so_far: running_total(x)}\n- group: {by: [g], get: {last: last(so_far)}}")).toEqual([
      ["a", 3],
      ["b", 6],
    ]);
  });
  test("`first`/`last` run again only below a merge", () => {
    // Above a merge the first two of all rows are meant; of these one is brushed.
    expect(brushed("- first: 2")).toEqual([[2, "a", 2]]);
    // Below one, the first of the groups that are left.
    expect(brushed("- group: {by: [id], get: {x: sum(x)}}\n- first: 1")).toEqual([[2, 2]]);
  });
});
