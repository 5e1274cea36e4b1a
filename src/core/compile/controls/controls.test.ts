import { describe, expect, test } from "vitest";
import { Model } from "../../model/model";
import type { ControlPlan } from "../../plan/plan";
import { compileText, sheetOver } from "../../testing/compile-text";

const CSV = `k,v,d,note
a,1,2024-01-01,salt in hold two
b,2,2024-01-02,
c,3,2024-01-03,SALT again
a,,2024-01-04,fuel`;

const CHARTS = "charts:\n  one: {from: calls, draw: figure, value: count()}\n";

function compiled(controls: string, charts = CHARTS) {
  return compileText(sheetOver(CSV, `controls:\n${controls}\n${charts}`));
}

function control(line: string): ControlPlan | undefined {
  return compiled(`  c: ${line}`).plan.controls[0];
}

const problems = (controls: string) =>
  compiled(controls)
    .findings.filter(({ severity }) => severity === "error")
    .map(({ code, message }) => `${code}: ${message}`);

/** How many rows a state of the control leaves. */
function left(line: string, state: Parameters<Model["engine"]["select"]>[1]): number {
  const { plan, tables, findings } = compiled(`  c: ${line}`);
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  const model = new Model(plan, tables);
  model.engine.select("c", state);
  return model.plainAnswer("one")?.answer.counts[0] ?? Number.NaN;
}

describe("controls that pick rows", () => {
  test("look as their column asks, unless the sheet says how", () => {
    expect(control("{pick: k, from: calls}")).toMatchObject({ as: "checkboxes", holds: "values", none: "all" });
    expect(control("{pick: v, from: calls}")).toMatchObject({ as: "range", holds: "range" });
    expect(control("{pick: v, from: calls, as: above}")).toMatchObject({ holds: "bound", end: "low" });
    expect(control("{pick: d, from: calls, as: dates}")).toMatchObject({ as: "dates", holds: "range" });
    expect(control("{pick: k, from: calls, as: menus, most: 2}")).toMatchObject({ as: "menus", most: 2 });
  });
  test("begin full where they start with all, and then nothing ticked means nothing", () => {
    expect(control("{pick: k, from: calls, start: all}")).toMatchObject({ full: true, none: "nothing" });
    expect(compiled("  c: {pick: k, from: calls, start: all}").plan.selections[0]?.start).toBeUndefined();
  });
  test("with none: nothing begin with no row", () => {
    expect(compiled("  c: {pick: k, from: calls, none: nothing}").plan.selections[0]?.start).toEqual({ keys: [] });
  });
  test.each([
    ["at_least", 2, 2],
    ["above", 2, 1],
    ["at_most", 2, 2],
    ["below", 2, 1],
  ])("%s %d leaves %d rows, and missing never", (as, bound, rows) => {
    const most = Number.MAX_VALUE;
    const x: [number, number] = as === "at_least" || as === "above" ? [bound, most] : [-most, bound];
    expect(left(`{pick: v, from: calls, as: ${as}}`, { x })).toBe(rows);
  });
  test("a bound starts where the sheet says, as numbers that survive JSON", () => {
    const { start } = compiled("  c: {pick: v, from: calls, as: at_least, start: 2}").plan.selections[0] ?? {};
    expect(JSON.parse(JSON.stringify(start))).toEqual({ x: [2, Number.MAX_VALUE] });
  });
  test("say what does not go together", () => {
    expect(problems("  c: {pick: k, from: calls, as: range}")[0]).toContain("a range needs numbers or dates");
    expect(problems("  c: {pick: v, from: calls, as: slider}")[0]).toContain("slider sets a value");
    expect(problems("  c: {pick: v, from: calls, as: dates}")[0]).toContain("holds no dates");
    expect(problems("  c: {pick: k, from: calls, step: 2}")[0]).toContain('"step" goes with ranges');
    expect(problems("  c: {pick: k, from: calls, as: menu, most: 2}")[0]).toContain("pick several values");
    expect(problems("  c: {pick: k, from: calls, most: 1, start: [a, b]}")[0]).toContain("at most 1");
    expect(problems("  c: {pick: k, from: calls, set: 3}")[0]).toContain("control-kind");
  });
  test("do something else than filter where the sheet names charts for it", () => {
    const charts =
      "charts:\n  one: {from: calls, draw: bars, x: k, y: count()}\n  two: {from: calls, draw: points, x: v, y: v}\n";
    const { plan } = compiled("  c: {pick: v, from: calls, highlight: [one], zoom: [two]}", charts);
    expect(plan.selections[0]?.effects).toEqual([
      { effect: "highlight", target: "one" },
      { effect: "zoom", target: "two", axis: "x" },
    ]);
  });

  test("zoom the axis that shows what they pick, and refuse what cannot be carried out", () => {
    const charts =
      "charts:\n  one: {from: calls, draw: bars, x: by_month(d), y: sum(v)}\n  two: {from: calls, draw: points, x: d, y: v}\n  list: {from: calls, draw: table}\n";
    const { plan, tables } = compiled("  c: {pick: v, from: calls, zoom: [two]}", charts);
    const model = new Model(plan, tables);
    model.engine.select("c", { x: [2, 3] });
    const input = model.chartInput("two", 400, 300, new Set());
    expect(input?.zoom).toEqual({ y: [2, 3] });
    const said = (control: string) =>
      compiled(`  c: {${control}}`, charts)
        .findings.filter(({ code }) => code === "effect-here")
        .map(({ message }) => message);
    expect(said("pick: d, from: calls, as: range, zoom: [one, two]")).toEqual([]);
    expect(said("pick: v, from: calls, zoom: [one]")).toEqual(["no axis of one shows v"]);
    expect(said("pick: v, from: calls, fade: [list]")).toEqual(["only charts fade; list is a table"]);
    expect(said("pick: k, from: calls, zoom: [two]")[0]).toContain("two ends of a range");
    expect(said("search: [note], from: calls, zoom: [two]")[0]).toContain("two ends of a range");
  });
});

describe("controls that ask", () => {
  test("search in every column named, in whatever case", () => {
    expect(left("{search: [note, k], from: calls}", { search: "salt" })).toBe(2);
    expect(left("{search: [note, k], from: calls}", { search: "A" })).toBe(3);
    expect(problems("  c: {search: [not], from: calls}")).toEqual([
      'unknown-column: calls has no column "not"; did you mean note?',
    ]);
  });
  test("hold conditions that must all be met", () => {
    const any = "{pick: any, from: calls, of: [k, v]}";
    const one = (column: string, test: "is" | "is_not" | "at_least" | "at_most" | "contains", value: string | number) =>
      ({ column, test, value }) as const;
    expect(left(any, { conditions: [one("k", "is", "a")] })).toBe(2);
    expect(left(any, { conditions: [one("k", "is_not", "a")] })).toBe(2);
    expect(left(any, { conditions: [one("v", "at_least", 2), one("k", "contains", "B")] })).toBe(1);
    expect(left(any, { conditions: [one("v", "at_most", 2)] })).toBe(2);
  });
});

describe("settings", () => {
  test("look as their start asks", () => {
    expect(control("{set: 3}")).toMatchObject({ as: "stepper" });
    expect(control("{set: 3, range: [1, 9]}")).toMatchObject({ as: "slider", range: [1, 9], step: 0.01 });
    expect(control("{set: true}")).toMatchObject({ as: "switch" });
    expect(control("{set: words}")).toMatchObject({ as: "text" });
    expect(control('{set: "#a07f1a", as: color}')).toMatchObject({ as: "color" });
    expect(problems("  c: {set: red, as: color}")[0]).toContain("is no colour");
    expect(problems("  c: {set: tomorrow, as: date}")[0]).toContain("is no day");
  });
  test("take their list from the sheet with words of its own, or from a table", () => {
    expect(control("{set: x, of: {x: Ex, y: Why}}")).toMatchObject({
      of: [
        { value: "x", label: "Ex" },
        { value: "y", label: "Why" },
      ],
    });
    expect(control("{set: v, of: 'columns(calls, number)'}")).toMatchObject({ of: [{ value: "v" }] });
    expect(control("{set: b, of: 'values(calls, k)'}")).toMatchObject({
      of: [{ value: "a" }, { value: "b" }, { value: "c" }],
    });
    expect(problems("  c: {set: b, of: 'rows(calls)'}")[0]).toContain("a list is written as");
  });

  test.each([
    ["2", "v", "v", [1, 2, 3], 1],
    ["2024-01-03", "d", "d", ["2024-01-01", "2024-01-02", "2024-01-03", "2024-01-04"], 1],
    ["true", "v > 1", "big", ["false", "true"], 2],
    ["b", "k", "k", ["a", "b", "c"], 1],
  ])("that start with %s may be any value of %s, in its own kind", (start, of, column, values, count) => {
    const text = sheetOver(
      CSV,
      `  more: {from: calls, steps: [{add: {big: v > 1}}]}
controls:
  c: {set: ${start}, of: "values(more, ${column})"}
charts:
  one: {from: more, draw: figure, keep: ${of === "v > 1" ? "big" : of} = $c, value: count()}
`,
    );
    const { plan, tables, findings } = compileText(text);
    expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
    expect(plan.controls[0]).toMatchObject({ as: "menu", of: values.map((value) => ({ value: String(value) })) });
    expect(new Model(plan, tables).plainAnswer("one")?.answer.counts[0]).toBe(count);
    expect(problems(`  c: {set: none, of: "values(calls, ${column === "big" ? "k" : column})"}`)[0]).toContain(
      '"none" is not one of',
    );
  });

  test("know dates by their words, keep the order of the column, and take no moments of the day", () => {
    expect(control("{set: 2024-01-03, of: 'values(calls, d)'}")).toMatchObject({
      of: [{ label: "1 Jan 2024" }, { label: "2 Jan 2024" }, { label: "3 Jan 2024" }, { label: "4 Jan 2024" }],
    });
    const of = (columns: string) =>
      compileText(
        `still: 1\nreport: R\ntables:\n  t: {rows: [{k: a, at: "2024-01-01 08:00"}, {k: b, at: "2024-01-01 09:30"}], columns: {${columns}}}\ncontrols: {c: {set: a, of: "values(t, k)"}, e: {set: a, of: "values(t, at)"}}\ncharts: {one: {from: t, draw: table}}\n`,
      );
    const { plan, findings } = of("k: {order: [b, a]}");
    expect(plan.controls[0]).toMatchObject({ of: [{ value: "b" }, { value: "a" }] });
    expect(findings.map(({ message }) => message)).toContainEqual(expect.stringContaining("at holds datetime"));
  });
});

describe("what a control starts with", () => {
  const state = (line: string, csv = CSV) => {
    const { plan, findings } = compileText(sheetOver(csv, `controls:\n  c: ${line}\n${CHARTS}`));
    expect(findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
    return plan.selections[0]?.start;
  };
  const TOOK = "k,took\na,0:05:00\nb,0:20:00\nc,1:10:00";

  test("may leave an end of a range open, and be written by the clock", () => {
    expect(state("{pick: v, from: calls, start: {from: 2}}")).toEqual({ x: [2, 3] });
    expect(state("{pick: v, from: calls, start: {to: 2}}")).toEqual({ x: [1, 2] });
    expect(state("{pick: v, from: calls, start: {from: 1}}")).toBeUndefined();
    const day = 86_400;
    const [from, to] = state("{pick: d, from: calls, as: dates, start: {from: 2024-01-03}}")?.x ?? [0, 0];
    expect((to - from) / day).toBe(1);
    expect(state('{pick: took, from: calls, start: ["0:10:00", "1:00:00"]}', TOOK)).toEqual({ x: [600, 3600] });
    expect(state('{pick: took, from: calls, as: at_least, start: "0:15:00"}', TOOK)?.x?.[0]).toBe(900);
  });
  test("is a text for a search, and conditions where readers ask freely", () => {
    expect(state("{search: [note], from: calls, start: salt}")).toEqual({ search: "salt" });
    const asked = "{pick: any, from: calls, start: [{column: v, at_least: 2}, {column: d, is: 2024-01-03}]}";
    expect(state(asked)).toEqual({
      conditions: [
        { column: "v", test: "at_least", value: 2 },
        { column: "d", test: "is", value: "2024-01-03" },
      ],
    });
    const wrong = (start: string) => problems(`  c: {pick: any, from: calls, start: ${start}}`)[0];
    expect(wrong("[{column: v, contains: 2}]")).toContain("it can be asked is, is_not, at_least, at_most");
    expect(wrong("[{column: v, at_least: many}]")).toContain('"many" is no number');
    expect(wrong("[{column: w, is: 2}]")).toContain("the columns of c are k, v, d, note");
    expect(wrong("many")).toContain("a condition is {column: berth,");
    expect(problems("  c: {search: [note], from: calls, start: [salt]}")[0]).toContain("starts with the text");
  });
  test("leaves out values that are not there, saying so", () => {
    const { plan, findings } = compiled("  c: {pick: k, from: calls, start: [a, bb]}");
    expect(plan.selections[0]?.start).toEqual({ keys: [{ k: "a" }] });
    expect(findings.map(({ code, message }) => [code, message])).toContainEqual([
      "unknown-value",
      'k has no value "bb"; did you mean b?',
    ]);
    expect(compiled("  c: {pick: k, from: calls, start: q}").plan.selections[0]?.start).toBeUndefined();
  });
  test("and the ends of a rail may be dates", () => {
    expect(control("{pick: d, from: calls, range: [2024-01-01, 2024-12-31]}")).toMatchObject({
      range: [1704067200, 1735603200],
    });
    expect(problems("  c: {pick: d, from: calls, range: [2024-12-31, 2024-01-01]}")[0]).toContain(
      "not two ends for a date",
    );
    expect(problems("  c: {set: 3, range: [2024-01-01, 5]}")[0]).toContain("two numbers");
  });
});

describe("buttons", () => {
  test("make controls wait that they apply", () => {
    const { plan } = compiled("  c: {pick: k, from: calls}\n  go: {button: Show, does: apply, to: [c]}");
    expect(plan.controls.map(({ name, waitsFor }) => [name, waitsFor])).toEqual([
      ["c", "go"],
      ["go", undefined],
    ]);
  });
  test("name what is there", () => {
    expect(problems("  go: {button: Show, does: apply, to: [d]}")).toEqual(['unknown-name: there is no control "d"']);
    expect(problems("  go: {button: Show}")[0]).toContain("does: apply, reset, redraw or export");
  });
  test("say nothing of a table or chart that is refused with words of its own", () => {
    const codes = (to: string) =>
      compiled(
        `  go: {button: Take, does: export, to: [${to}]}`,
        "charts:\n  one: {from: calls, draw: bars, x: k, y: count(), most: 3}\n",
      ).findings.map(({ code }) => code);
    expect(codes("one")).toEqual(["unknown-key"]);
    expect(codes("two")).toEqual(["unknown-key", "unknown-name"]);
  });
  test("that redraw give the draws of their table another seed each time, the same each time", () => {
    const sheet = `still: 1
report: R
tables:
  made:
    make: {rows: 4, seed: 3}
    steps: [{add: {x: "uniform(0, 1)"}}]
controls:
  again: {button: Draw again, does: redraw, to: [made]}
charts:
  one: {from: made, draw: figure, value: sum(x)}
`;
    const { plan, tables, findings } = compileText(sheet);
    expect(findings).toEqual([]);
    const model = new Model(plan, tables);
    const shown = () => model.plainAnswer("one")?.answer.values[0]?.[0];
    const first = shown();
    model.engine.setSetting("again", 1);
    const second = shown();
    expect(second).not.toBe(first);
    model.engine.setSetting("again", 0);
    expect(shown()).toBe(first);
    model.engine.setSetting("again", 1);
    expect(shown()).toBe(second);
  });
});
