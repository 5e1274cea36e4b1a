import { describe, expect, test } from "vitest";
import type { Kind } from "../table/column";
import { checkFormula } from "./check";
import { parseFormula } from "./parse";
import type { CheckedKind, Scope } from "./scope";

const scope: Scope = {
  columns: new Map<string, Kind>([
    ["n", "number"],
    ["t", "text"],
    ["b", "boolean"],
    ["d", "date"],
    ["m", "datetime"],
    ["l", "duration"],
  ]),
  settings: new Map<string, Kind>([
    ["n", "number"],
    ["word", "text"],
  ]),
  tableName: "calls",
  aggregates: "allowed",
};

function check(text: string, more: Partial<Scope> = {}) {
  const parsed = parseFormula(text);
  if (!parsed.ok) throw parsed.problem;
  return checkFormula(parsed.value.formula, { ...scope, ...more });
}

const kindOf = (text: string): CheckedKind | string => {
  const { kind, problems } = check(text);
  return problems[0] ? problems[0].code : kind;
};

describe("kinds of sums and differences", () => {
  test.each<[string, string]>([
    ["n + n", "number"],
    ["b + b", "number"],
    ["n + b", "number"],
    ["l + l", "duration"],
    ["l - l", "duration"],
    ["d - d", "duration"],
    ["m - d", "duration"],
    ["d + l", "datetime"],
    ["m - l", "datetime"],
    ["l + m", "datetime"],
    ["l - d", "wrong-kind"],
    ["d + d", "wrong-kind"],
    ["n + l", "wrong-kind"],
    ["d + n", "wrong-kind"],
    ["t + t", "wrong-kind"],
    ["t + n", "wrong-kind"],
  ])("%s: %s", (text, expected) => expect(kindOf(text)).toBe(expected));
  test("joining texts by plus is told how it is done", () => {
    expect(check("t + t").problems[0]?.message).toContain("concat()");
  });
});

describe("kinds of products, powers and signs", () => {
  test.each<[string, string]>([
    ["n * n", "number"],
    ["l * n", "duration"],
    ["n * l", "duration"],
    ["l / n", "duration"],
    ["l / l", "number"],
    ["n / l", "wrong-kind"],
    ["l * l", "wrong-kind"],
    ["n ^ n", "number"],
    ["l ^ n", "wrong-kind"],
    ["-n", "number"],
    ["-l", "duration"],
    ["-d", "wrong-kind"],
    ["-t", "wrong-kind"],
    ["$n * 2", "number"],
    ["$word * 2", "wrong-kind"],
  ])("%s: %s", (text, expected) => expect(kindOf(text)).toBe(expected));
});

describe("tests", () => {
  test.each<[string, string]>([
    ["n < n", "boolean"],
    ["t < t", "boolean"],
    ["d = m", "boolean"],
    ['l > duration(3, "hours")', "boolean"],
    ["n = t", "wrong-kind"],
    ['d > "2024-01-01"', "wrong-kind"],
    ["n in [1, 2]", "boolean"],
    ['t in ["a"]', "boolean"],
    ["t in [1]", "wrong-kind"],
    ["t in t", "wrong-kind"],
    ["n in [n]", "not-constant"],
    ["n in [$n, 3]", "boolean"],
    ["n between 1 and 2", "boolean"],
    ["n between t and 2", "wrong-kind"],
    ["b and b", "boolean"],
    ["n and b", "wrong-kind"],
    ["not b", "boolean"],
    ["not n", "wrong-kind"],
    ["b and missing", "boolean"],
  ])("%s: %s", (text, expected) => expect(kindOf(text)).toBe(expected));
});

describe("functions", () => {
  test.each<[string, string]>([
    ["round(n)", "number"],
    ["round(l, 1)", "duration"],
    ["least(l, l)", "duration"],
    ["least(n, l)", "wrong-kind"],
    ["coalesce(d, m)", "date"],
    ["coalesce(missing, n)", "number"],
    ["if(b, missing, t)", "text"],
    ["if(n, 1, 2)", "wrong-kind"],
    ["upper(n)", "wrong-kind"],
    ["month(d)", "text"],
    ["year(d)", "number"],
    ["by_day(m)", "date"],
    ["by_hour(m)", "datetime"],
    ['by("month", m)', "date"],
    ['by("moon", m)', "unknown-word"],
    ["hours(l)", "number"],
    ["hours(m)", "wrong-kind"],
    ["bin(l, 4)", "duration"],
    ["bin(t, 4)", "wrong-kind"],
    ['text(d, "%Y")', "text"],
    ["text(d, t)", "not-constant"],
    ["pi()", "number"],
    ["pi(1)", "argument-count"],
    ["greatest(n, n, n, n)", "number"],
  ])("%s: %s", (text, expected) => expect(kindOf(text)).toBe(expected));
});

describe("aggregates", () => {
  test.each<[string, string]>([
    ["sum(n)", "number"],
    ["sum(l)", "duration"],
    ["sum(b)", "number"],
    ["sum(d)", "wrong-kind"],
    ["mean(d)", "datetime"],
    ["mean(b)", "number"],
    ["min(m)", "datetime"],
    ["min(t)", "wrong-kind"],
    ["first(t)", "text"],
    ["distinct(t)", "number"],
    ["quantile(n, 0.5)", "number"],
    ["quantile(n, n)", "not-constant"],
    ["share(count())", "number"],
    ["share(mean(n))", "share-of"],
    ["sum(n) of all", "number"],
    ["n of all", "wrong-kind"],
    ["sum(n) of brushed", "no-selections-here"],
    ["sum(mean(n))", "nested-aggregate"],
    ["picked.n", "no-selections-here"],
  ])("%s: %s", (text, expected) => expect(kindOf(text)).toBe(expected));
  test("are known as such, and refused where none may stand", () => {
    expect(check("sum(n) / count()")).toMatchObject({ aggregate: true, constant: false });
    expect(check("n * 2")).toMatchObject({ aggregate: false, constant: false });
    expect(check("$n * 2")).toMatchObject({ aggregate: false, constant: true });
    expect(check("sum(n)", { aggregates: "none" }).problems[0]?.code).toBe("aggregate-here");
  });
  test("a setting that is written like a column is told to be one", () => {
    const [problem] = check('word = "x"').problems;
    expect(problem?.message).toBe('"word" is a setting and no column of calls: write $word');
    expect(problem?.fix).toMatchObject({ text: "$word", start: 0, end: 4 });
  });
  test("several problems are all told", () => {
    expect(check("tt + nn + sume(x)").problems.map(({ code }) => code)).toEqual([
      "unknown-column",
      "unknown-column",
      "unknown-column",
      "unknown-function",
    ]);
  });
});
