import { describe, expect, test } from "vitest";
import { modelOf } from "../testing/shown";

const sheet = (tables: string, charts: string, rest = "") =>
  `still: 1\nreport: R\ntables:\n${tables}charts:\n${charts}${rest}`;

/** Values of a chart's colours with their paints, or the ends of its ramp. */
function colorsIn(text: string, chart: string): Record<string, string> | [number, number] {
  const scale = modelOf(text).colorScale(chart);
  if (scale?.type === "categories")
    return Object.fromEntries(scale.names.map((name, at) => [String(name), scale.paints[at] as string]));
  return scale ? [scale.low, scale.high] : {};
}

const KINDS = '  t: {rows: "k,n\\nred,1\\ngreen,2\\nblue,3\\nteal,4\\n"}\n';
const bars = (name: string, table: string, more = "") =>
  `  ${name}: {from: ${table}, draw: bars, x: k, y: n, color: k${more}}\n`;

describe("colours of tables that are made from one another", () => {
  const part = "  part: {from: t, steps: [{keep: n > 2}]}\n";
  const best = "  best: {from: t, steps: [{group: {by: [k], get: {n: sum(n)}}}, {sort: [-n]}, {first: 2}]}\n";

  test("are the same for a value in all, whichever is drawn first, and of each its own values are told", () => {
    const text = sheet(KINDS + part + best, bars("one", "part") + bars("two", "t") + bars("three", "best"));
    const whole = colorsIn(text, "two") as Record<string, string>;
    expect(Object.keys(whole)).toEqual(["blue", "green", "red", "teal"]);
    expect(new Set(Object.values(whole)).size).toBe(4);
    for (const chart of ["one", "three"]) expect(colorsIn(text, chart)).toEqual({ blue: whole.blue, teal: whole.teal });
  });
  test("are those of all rows where a step that runs in the dashboard cuts them", () => {
    const links = "links: [click on two -> filter three]\n";
    const text = sheet(KINDS + best, bars("three", "best") + bars("two", "t"), links);
    expect(colorsIn(text, "three")).toEqual(colorsIn(text, "two"));
    const setting = "controls: {n: {set: 1, as: slider, range: [1, 4]}}\n";
    const cut = '  t: {rows: "k,n\\nred,1\\ngreen,2\\nblue,3\\n", steps: [{first: $n}]}\n';
    const follows = sheet(cut, bars("one", "t"), setting);
    expect(Object.keys(colorsIn(follows, "one"))).toEqual(["blue", "green", "red"]);
  });
});

describe("colours of tables that have nothing to do with one another", () => {
  const trees = (kinds: string, said = "") => `  trees: {rows: "k,n\\n${kinds}\\n"${said}}\n`;
  const charts = bars("one", "t") + bars("two", "trees");
  test("begin anew where no value is in both", () => {
    const text = sheet(KINDS + trees("oak,1\\nash,2", ", columns: {k: {colors: {oak: '#00aa00'}}}"), charts);
    expect(colorsIn(text, "two")).toEqual({ ash: "quay:0", oak: "#00aa00" });
  });
  test("are the same for a value that is in both", () => {
    const text = sheet(KINDS + trees("amber,1\\nteal,2", ", columns: {k: {colors: {teal: '#00aa00'}}}"), charts);
    const [one, two] = [colorsIn(text, "one"), colorsIn(text, "two")] as Record<string, string>[];
    expect(two?.teal).toBe("#00aa00");
    expect(one?.teal).toBe("#00aa00");
    expect(Object.keys(two ?? {})).toEqual(["amber", "teal"]);
    expect(Object.values(one ?? {})).not.toContain(two?.amber);
  });
  test("have ends of their own where they are numbers of one name", () => {
    const by = (name: string, key: string) =>
      `  ${name}: {from: t, steps: [{group: {by: [${key}], get: {m: sum(n)}}}]}\n`;
    const dots = (name: string, table: string) => `  ${name}: {from: ${table}, draw: points, x: m, y: m, color: m}\n`;
    const tables = '  t: {rows: "k,g,n\\na,u,1\\nb,u,2\\nc,u,30\\n"}\n';
    const text = sheet(tables + by("kinds", "k") + by("groups", "g"), dots("one", "kinds") + dots("two", "groups"));
    expect(colorsIn(text, "one")).toEqual([1, 30]);
    expect(colorsIn(text, "two")).toEqual([33, 33]);
  });
});
