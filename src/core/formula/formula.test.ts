import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { isoDate } from "../table/calendar";
import { type Column, type Kind, type Scalar, textColumn, valueAt } from "../table/column";
import { makeTable } from "../table/table";
import { AGGREGATES } from "./aggregate-names";
import { checkFormula } from "./check";
import { evaluate, frameOf } from "./evaluate";
import { functionPartOf } from "./functions/all";
import { OTHER_NAMES, otherName } from "./other-names";
import { parseFormula, parseNamed } from "./parse";
import { printFormula } from "./print";
import { FUNCTION_NAMES, SIGNATURES, signatureOf } from "./signatures";
import { type Formula, withoutPlaces } from "./tree";
import { columnOf } from "./vector";

const N = Number.NaN;
const DAY0 = Date.UTC(2024, 2, 6, 14, 35) / 1000;
const table = makeTable(4, [
  ["n", { kind: "number", values: Float64Array.of(1, 2, N, -4) }],
  ["m", { kind: "number", values: Float64Array.of(0, 2, 3, N) }],
  ["t", textColumn(["ab", "Cd", null, "a"], 4)],
  ["u", textColumn(["ab", "x", "y", null], 4)],
  ["yes", { kind: "boolean", values: Float64Array.of(1, 0, N, 1) }],
  ["when", { kind: "datetime", values: Float64Array.of(DAY0, DAY0 + 86400, N, DAY0) }],
  ["day", { kind: "date", values: Float64Array.of(DAY0 - (DAY0 % 86400), 0, 0, N) }],
  ["long", { kind: "duration", values: Float64Array.of(3600, 90, N, 0) }],
] as [string, Column][]);

function parse(text: string): Formula {
  const parsed = parseFormula(text);
  if (!parsed.ok) throw parsed.problem;
  return parsed.value.formula;
}

const scope = {
  columns: new Map([...table.columns].map(([name, column]) => [name, column.kind as Kind])),
  settings: new Map<string, Kind>([
    ["bins", "number"],
    ["grain", "text"],
  ]),
  tableName: "calls",
  aggregates: "allowed" as const,
};

function run(text: string, settings: Record<string, Scalar> = {}): Scalar[] {
  const formula = parse(text);
  expect(checkFormula(formula, scope).problems.map(({ message }) => message)).toEqual([]);
  const column = columnOf(
    evaluate(
      formula,
      frameOf(table, (name) => settings[name] ?? null),
    ),
    4,
  );
  return [0, 1, 2, 3].map((row) => valueAt(column, row));
}

const problems = (text: string) => {
  const parsed = parseFormula(text);
  if (!parsed.ok) return [parsed.problem];
  return checkFormula(parsed.value.formula, scope).problems;
};

describe("grammar", () => {
  const structure = (text: string) => printFormula(parse(text));
  test.each([
    ["1 + 2 * 3", "1 + 2 * 3"],
    ["(1 + 2) * 3", "(1 + 2) * 3"],
    ["-2^2", "-2 ^ 2"],
    ["2^3^2", "2 ^ 3 ^ 2"],
    ["(2^3)^2", "(2 ^ 3) ^ 2"],
    ["not a and b or c", "not a and b or c"],
    ["not (a and b)", "not (a and b)"],
    ["a - (b - c)", "a - (b - c)"],
    ["x between 1 and 2 and y", "x between 1 and 2 and y"],
    ['cargo not in ["a", "b"]', 'not cargo in ["a", "b"]'],
    ["sum(t) of all", "sum(t) of all"],
    ["trend.hover.x", "trend.hover.x"],
    ["`odd name` + $bins", "`odd name` + $bins"],
    ["date", "date"],
    ["date(x)", "date(x)"],
  ])("%s is read as %s", (text, printed) => {
    expect(structure(text)).toBe(printed);
  });
  test("FORMULA as name", () => {
    const parsed = parseNamed("by_month(arrived) as month");
    expect(parsed.ok && parsed.value.name).toBe("month");
    expect(parseFormula("a as b").ok).toBe(false);
  });
  test("-2^2 is -4, and power binds to the right", () => {
    expect(run("-2^2")[0]).toBe(-4);
    expect(run("2^3^2")[0]).toBe(512);
  });
  const leaf = fc.oneof(
    fc.nat(1000).map((value): Formula => ({ type: "number", value })),
    fc.string({ maxLength: 6 }).map((value): Formula => ({ type: "text", value })),
    fc.constantFrom("n", "odd name", "and", "größe").map((name): Formula => ({ type: "column", name })),
    fc.constant<Formula>({ type: "setting", name: "bins" }),
    fc.boolean().map((value): Formula => ({ type: "boolean", value })),
    fc.constant<Formula>({ type: "missing" }),
  );
  const tree: fc.Arbitrary<Formula> = fc.letrec<{ node: Formula }>((tie) => ({
    node: fc.oneof(
      { maxDepth: 4 },
      leaf,
      fc.record({
        type: fc.constant("binary" as const),
        operator: fc.constantFrom("+", "-", "*", "/", "^", "=", "<", "and", "or"),
        left: tie("node"),
        right: tie("node"),
      }) as fc.Arbitrary<Formula>,
      fc.record({ type: fc.constant("minus" as const), operand: tie("node") }),
      fc.record({ type: fc.constant("not" as const), operand: tie("node") }),
      fc.record({
        type: fc.constant("call" as const),
        name: fc.constantFrom("if", "sum"),
        arguments: fc.array(tie("node"), { maxLength: 3 }),
      }),
      fc.record({ type: fc.constant("between" as const), value: tie("node"), low: tie("node"), high: tie("node") }),
    ),
  })).node;
  test("every tree is written as a text that is read as the same tree", () => {
    fc.assert(
      fc.property(tree, (formula) => {
        expect(withoutPlaces(parse(printFormula(formula)))).toEqual(formula);
      }),
    );
  });
  test("no text makes the reader throw", () => {
    fc.assert(
      fc.property(
        fc.string({
          unit: fc.constantFrom(..."ab1.()[]\"`'$+-*/^=<>, and or not in of as \\".split("")),
          maxLength: 30,
        }),
        (text) => {
          expect(typeof parseNamed(text).ok).toBe("boolean");
        },
      ),
    );
  });
  test("thousands of brackets are refused, not run out of stack", () => {
    expect(parseFormula("(".repeat(5000)).ok).toBe(false);
  });
});

describe("problems have a place and a way out", () => {
  test.each([
    ["tonns > 1", "unknown-column", 0],
    ["n = missing", "equals-missing", 0],
    ["n + t", "wrong-kind", 0],
    ["sun(n)", "unknown-function", 0],
    ["1 < n < 3", "chained-comparison", 6],
    ['if(yes, 1, "a")', "kinds-differ", 0],
    ["n > 'a'", "single-quotes", 4],
    ["round(n", "unbalanced", 5],
    ["n == 1", "bad-sign", 2],
    ["n % 2", "bad-sign", 2],
    ["sum(sum(n))", "nested-aggregate", 4],
    ["bin(n, m)", "not-constant", 7],
    ["$bin", "unknown-setting", 0],
    ['duration(3, "dys")', "unknown-word", 12],
    ["picked(n)", "no-selections-here", 7],
    ["part()", "argument-count", 0],
    ["", "empty-formula", 0],
  ])("%s: %s at %i", (text, code, at) => {
    expect(problems(text)[0]).toMatchObject({ code, start: at });
  });
  test("a percent sign is told by what is meant: the rest of a division, or a hundredth", () => {
    expect(problems("n % 2")[0]?.message).toContain("mod(a, b)");
    expect(problems("n > 50%")[0]?.message).toContain("half of it is 0.5");
  });
  test("a name that a function has elsewhere is told by what it is called here", () => {
    expect(problems("avg(n)")[0]).toMatchObject({
      message: 'there is no function "avg"; here it is mean()',
      fix: { text: "mean", start: 0, end: 3 },
    });
    expect(problems("COUNTIF(yes)")[0]).toMatchObject({
      message: 'there is no function "COUNTIF"; sum(TEST) counts the rows where a test is true',
    });
    expect(problems("countif(yes)")[0]?.fix).toBeUndefined();
  });
  test("no name is told for one that is a function here, and every name that is told is one", () => {
    for (const other of OTHER_NAMES.keys()) {
      const name = otherName(other)?.name;
      expect(FUNCTION_NAMES, other).not.toContain(other);
      if (name !== undefined) expect(FUNCTION_NAMES, other).toContain(name);
    }
  });
  test("what is no column says what it may be", () => {
    const told = (text: string) => [problems(text)[0]?.message, problems(text)[0]?.fix?.text];
    expect(told("count")).toEqual([expect.stringContaining("count is a function"), "count()"]);
    expect(told("Red")[1]).toMatch(/^"#[0-9a-f]{6}"$/);
    expect(told("sum n")).toEqual(["brackets are missing: sum(n)", "sum(n)"]);
    expect(told("count(distinct n)")).toEqual(["different values are counted by distinct(n)", "distinct(n)"]);
    expect(told("by(month, day)")).toEqual([expect.stringContaining("a grain stands in quotes"), '"month"']);
    expect(told("n > 1 && yes")).toEqual(["write and in place of &&", " and "]);
    expect(told("not yes || !yes")[0]).toBe("write or in place of ||");
    expect(told("t is not null and yes")).toEqual(["here that is said known(t)", "known(t)"]);
    expect(told("t is missing")[1]).toBe("missing(t)");
    expect(told("n desc")[1]).toBe("-n");
    expect(told('t in ("a", "b")')[1]).toBe('["a", "b"]');
    expect(told("t = xyzzy")).toEqual(['a text stands in quotes: "xyzzy"', '"xyzzy"']);
    expect(told("t in [xyzzy]")[1]).toBe('"xyzzy"');
    // A number is no text, and a slip of the pen is no value.
    expect(told("n = xyzzy")[0]).toContain('has no column "xyzzy"');
    expect(told("t = lon")[1]).toBe("long");
    // What needs something in its brackets is not written with none.
    expect(told("mean")[1]).not.toBe("mean()");
  });
  test("a name after as is one word", () => {
    const parsed = parseNamed("mean(n) as per  game");
    expect(!parsed.ok && parsed.problem).toMatchObject({
      message: "a name after as is one word",
      fix: { text: "per_game", start: 11, end: 20 },
    });
    expect(parseNamed("n as a + b")).toMatchObject({ ok: false, problem: { fix: undefined } });
    expect(parseNamed("n as Number of things")).toMatchObject({ problem: { fix: { text: "Number_of_things" } } });
  });
  test("fixes are texts to take", () => {
    expect(problems("n = missing")[0]?.fix?.text).toBe("missing(n)");
    expect(problems("n != missing")[0]?.fix?.text).toBe("known(n)");
    expect(problems("lon > 1")[0]?.fix?.text).toBe("long");
    expect(problems("count(*)")[0]?.fix).toMatchObject({ text: "count()", start: 0, end: 8 });
    expect(problems("sume(n)")[0]?.fix).toMatchObject({ text: "sum", start: 0, end: 4 });
  });
});

describe("missing", () => {
  test("arithmetic with missing is missing", () => expect(run("n + m")).toEqual([1, 4, null, null]));
  test("division by zero is missing", () => expect(run("n / m")).toEqual([null, 1, null, null]));
  test("and, or and not are three-valued", () => {
    expect(run("yes and false")).toEqual([false, false, false, false]);
    expect(run("yes or true")).toEqual([true, true, true, true]);
    expect(run("yes and true")).toEqual([true, false, null, true]);
    expect(run("not yes")).toEqual([false, true, null, false]);
  });
  test("comparisons with missing are missing", () => expect(run("n > 0")).toEqual([true, true, null, false]));
  test("known, missing, coalesce", () => {
    expect(run("known(n)")).toEqual([true, true, false, true]);
    expect(run("missing(t)")).toEqual([false, false, true, false]);
    expect(run("coalesce(n, m, 9)")).toEqual([1, 2, 3, -4]);
    expect(run('coalesce(t, "none")')).toEqual(["ab", "Cd", "none", "a"]);
  });
  test("a missing test chooses neither", () => expect(run("if(yes, 1, 0)")).toEqual([1, 0, null, 1]));
});

describe("functions", () => {
  test.each<[string, Scalar[]]>([
    ["abs(n)", [1, 2, null, 4]],
    ["round(m / 3, 2)", [0, 0.67, 1, null]],
    ["round(-2.5)", [-3, -3, -3, -3]],
    ["mod(n, 3)", [1, 2, null, 2]],
    ["least(n, m)", [0, 2, null, null]],
    ["clamp(n, 0, 1)", [1, 1, null, 0]],
    ["sqrt(n)", [1, Math.SQRT2, null, null]],
    ["ln(m)", [null, Math.LN2, 1.0986122886681098, null]],
    ["upper(t)", ["AB", "CD", null, "A"]],
    ["length(t)", [2, 2, null, 1]],
    ['contains(t, "a")', [true, false, null, true]],
    ["starts(t, u)", [true, false, null, null]],
    ['glob(t, "?b")', [true, false, null, false]],
    ["part(t, 2, 1)", ["b", "d", null, ""]],
    ['replace(t, "a", "--")', ["--b", "Cd", null, "--"]],
    ['concat(t, "/", n)', ["ab/1", "Cd/2", null, "a/−4"]],
    ["t = u", [true, false, null, null]],
    ['t < "b"', [true, true, null, true]],
    ['t in ["a", "ab"]', [true, false, null, true]],
    ["n in [1, -4]", [true, false, null, true]],
    ["n between 1 and 2", [true, true, null, false]],
    ["hours(long)", [1, 0.025, null, 0]],
    ["long / 2", [1800, 45, null, 0]],
    ["long / long", [1, 1, null, null]],
    ["text(long)", ["1:00:00", "0:01:30", null, "0:00:00"]],
    ["year(when)", [2024, 2024, null, 2024]],
    ["month(when)", ["March", "March", null, "March"]],
    ["weekday(when)", ["Wednesday", "Thursday", null, "Wednesday"]],
    ["week(when)", [10, 10, null, 10]],
    ["hour(when)", [14, 14, null, 14]],
    ["when = day", [true, false, null, null]],
    ['when >= date("2024-03-07")', [false, true, null, false]],
    ['text(when, "%Y/%m")', ["2024/03", "2024/03", null, "2024/03"]],
    ["when - when", [0, 0, null, 0]],
    ["bin_width(n, 3)", [0, 0, null, -6]],
    ["bin(n, 2)", [-1, -1, null, -4]],
    ["number(u)", [null, null, null, null]],
  ])("%s", (text, expected) => expect(run(text)).toEqual(expected));

  test("periods, also by a setting", () => {
    expect(
      run("by_month(when)")
        .slice(0, 1)
        .map((value) => isoDate(value as number)),
    ).toEqual(["2024-03-01"]);
    expect(
      run("by($grain, when)", { grain: "year" })
        .slice(0, 1)
        .map((value) => isoDate(value as number)),
    ).toEqual(["2024-01-01"]);
  });
  test("aggregates spread over the rows, skipping missing", () => {
    expect(run("sum(n)")).toEqual([-1, -1, -1, -1]);
    expect(run("mean(n)")[0]).toBeCloseTo(-1 / 3, 15);
    expect(run("n - min(n)")).toEqual([5, 6, null, 0]);
    expect(run("count()")).toEqual([4, 4, 4, 4]);
    expect(run("count(n)")[0]).toBe(3);
    expect(run("distinct(t)")[0]).toBe(3);
    expect(run("median(n)")[0]).toBe(1);
    expect(run("quantile(n, 0.25)")[0]).toBe(-1.5);
    expect(run("stdev(n)")[0]).toBeCloseTo(Math.sqrt(31 / 3), 12);
    expect(run("first(t)")[0]).toBe("ab");
    expect(run("last(t)")[0]).toBe("a");
    expect(run("sum(yes)")[0]).toBe(2);
    expect(run("max(when)")[0]).toBe(DAY0 + 86400);
  });
  test("bins are equal over the whole extent and the last holds the largest", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.integer({ min: -1e9, max: 1e9 }).map((value) => value / 1000),
          { minLength: 2, maxLength: 40 },
        ),
        fc.integer({ min: 1, max: 30 }),
        (values, count) => {
          const rows = makeTable(values.length, [["x", { kind: "number", values: Float64Array.from(values) }]]);
          const column = columnOf(evaluate(parse(`bin(x, ${count})`), frameOf(rows)), values.length);
          const [low, high] = [Math.min(...values), Math.max(...values)];
          const width = (high - low) / count || 1;
          values.forEach((value, row) => {
            const start = valueAt(column, row) as number;
            expect(start).toBeLessThanOrEqual(value);
            expect(value).toBeLessThanOrEqual(start + width * (1 + 1e-9) + Math.abs(high) * 1e-12);
          });
          expect(new Set(column.kind === "text" ? [] : column.values).size).toBeLessThanOrEqual(count);
        },
      ),
    );
  });
});

describe("help and code say the same", () => {
  test("every function has help, and every help a function", () => {
    const called = [...functionPartOf.keys()].filter((name) => name !== "^");
    expect(SIGNATURES.map(({ name }) => name).sort()).toEqual(
      [...new Set([...called, ...AGGREGATES, "chosen", "agg", "picked"])].sort(),
    );
  });
  test("every example can be read", () => {
    for (const { example, name } of SIGNATURES) {
      expect(parseFormula(example), name).toMatchObject({ ok: true });
      expect(printFormula(parse(example)), name).toContain(`${name}(`);
    }
  });
  test("examples take as many arguments as they may", () => {
    for (const { example, name } of SIGNATURES) {
      const messages = problems(example).filter(({ code }) => code === "argument-count");
      expect(messages, `${name}: ${example}`).toEqual([]);
    }
    expect(signatureOf("nothing")).toBeUndefined();
  });
});
