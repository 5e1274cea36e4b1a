import { describe, expect, test } from "vitest";
import type { ChartPlan, DataTablePlan } from "../chart/plan";
import { compileText } from "../testing/compile-text";

const CALLS = `still: 1
report: T
tables:
  calls:
    rows: |
      call_id,berth,year,day,tonnes,hours,share
      7,North,2024,2024-01-03,12,4,0.5
      8,South,2025,2024-02-03,30,5,0.5
    columns: {share: {format: ".0%"}}
    steps:
      - add: {rate: tonnes / hours, half: tonnes / 2, month: by_month(day), place: rank(tonnes)}
  months:
    from: calls
    steps:
      - group: {by: [berth, month, by_year(day) as since], get: {n: count(), t: sum(tonnes), mid: median(tonnes)}}
      - rename: {mid: middle}
charts:
`;

function columnsOf(chart: string) {
  const { plan, findings } = compileText(`${CALLS}  c: ${chart}\n`);
  expect(findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  const piece = plan.pieces[0]?.plan;
  if (piece?.type !== "table") throw new Error("no table");
  return piece.columns.map(({ key, channel, adds }) => ({ key, adds, format: piece.query.channels[channel]?.format }));
}

const added = (chart: string) => columnsOf(chart).flatMap(({ key, adds }) => (adds ? [key] : []));

describe("totals of a data table", () => {
  test("are of numbers that add up: no rates, ranks, years, shares or names of things", () => {
    expect(added("{from: calls, draw: table, totals: true}")).toEqual(["tonnes", "hours", "half"]);
  });
  test("of groups are of sums and counts, under any name", () => {
    expect(added("{from: months, draw: table, totals: true}")).toEqual(["n", "t"]);
    const own = "[berth, sum(tonnes), mean(tonnes), 'round(mean(tonnes), 1) as m', count()]";
    expect(added(`{from: calls, draw: table, totals: true, columns: ${own}}`)).toEqual(["sum(tonnes)", "count()"]);
  });
  test("follow what a column is made of anew, under an old name too", () => {
    const again = "{from: again, draw: table, totals: true}";
    const text = CALLS.replace(
      "charts:",
      "  again:\n    from: calls\n    steps: [{group: {by: [berth], get: {rate: sum(tonnes), hours: mean(hours)}}}]\ncharts:",
    );
    const { plan } = compileText(`${text}  c: ${again}\n`);
    const piece = plan.pieces[0]?.plan as DataTablePlan;
    expect(piece.columns.flatMap(({ key, adds }) => (adds ? [key] : []))).toEqual(["rate"]);
  });
  test("leave out numbers by which rows are put together", () => {
    const own = "[hours, sum(tonnes)]";
    expect(added(`{from: calls, draw: table, totals: true, columns: ${own}}`)).toEqual(["sum(tonnes)"]);
  });
  test("are of the columns that the author names, whatever these hold, and of no others", () => {
    const own = "[berth, sum(tonnes), mean(hours), count() as n]";
    expect(added(`{from: calls, draw: table, totals: [mean(hours), n], columns: ${own}}`)).toEqual([
      "mean(hours)",
      "n",
    ]);
    const messages = (totals: string) =>
      compileText(`${CALLS}  c: {from: calls, draw: table, totals: ${totals}, columns: ${own}}\n`).findings.map(
        ({ message }) => message,
      );
    expect(messages("[m]")).toContain('this table has no column "m"; did you mean n?');
    const [told] = compileText(
      `${CALLS}  c: {from: calls, draw: table, cells: {tonnes: {bar: true}}, columns: ${own}}\n`,
    ).findings;
    expect(told?.message).toBe('this table has no column "tonnes"; did you mean sum(tonnes)?');
    expect(told?.fix?.edits[0]?.text).toBe("sum(tonnes)");
    expect(messages("[berth]")).toContain("sums are of numbers or lengths of time, and berth holds text");
  });
  test("are not there where nothing adds up", () => {
    const { plan } = compileText(`${CALLS}  c: {from: calls, draw: table, totals: true, columns: [berth, day]}\n`);
    expect(plan.pieces[0]?.plan).toMatchObject({ totals: false });
  });
  test("are there where they are asked for", () => {
    expect(added("{from: calls, draw: table}")).toEqual([]);
  });
});

test("days that stand for a month, a quarter or a year are written as one", () => {
  const formats = Object.fromEntries(columnsOf("{from: months, draw: table}").map(({ key, format }) => [key, format]));
  expect(formats).toMatchObject({ month: "%b %Y", since: "%Y", berth: undefined });
  const { plan: quarters } = compileText(
    `${CALLS}  c: {from: calls, draw: bars, y: by_quarter(day), x: sum(tonnes), color: by_quarter(day)}\n`,
  );
  const bars = quarters.pieces[0]?.plan as ChartPlan;
  expect(bars.layers[0]?.query.channels.color?.format).toBe("Q%q %Y");
  const said = CALLS.replace('share: {format: ".0%"}', 'share: {format: ".0%"}, month: {format: "%Y-%m"}');
  const { plan } = compileText(`${said}  c: {from: calls, draw: table, columns: [month, day]}\n`);
  const piece = plan.pieces[0]?.plan as DataTablePlan;
  expect(Object.values(piece.query.channels).map(({ format }) => format)).toEqual(["%Y-%m", undefined]);
});
