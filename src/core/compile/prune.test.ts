import { describe, expect, test } from "vitest";
import type { Formula } from "../formula/tree";
import { neededBefore } from "../steps/run";
import type { Step } from "../steps/step";
import { compileText, sheetOver } from "../testing/compile-text";

const column = (name: string): Formula => ({ type: "column", name });
const needs = (step: Step, ...names: string[]) => [...neededBefore(step, new Set(names))].sort();

describe("what a step needs of the columns before it", () => {
  test("keep: what is wanted, its test and its groups", () => {
    expect(
      needs(
        {
          do: "keep",
          test: { type: "binary", operator: ">", left: column("x"), right: column("y") },
          within: ["g"],
          order: [],
        },
        "a",
      ),
    ).toEqual(["a", "g", "x", "y"]);
  });
  test("add: only what the wanted columns are made of, through each other", () => {
    const step: Step = {
      do: "add",
      columns: [
        { name: "p", formula: column("x") },
        { name: "q", formula: column("p") },
        { name: "r", formula: column("z") },
      ],
      within: [],
      order: [],
    };
    expect(needs(step, "q", "a")).toEqual(["a", "x"]);
    expect(needs(step, "a")).toEqual(["a"]);
  });
  test("add: a column replaced by one made of itself", () => {
    expect(needs({ do: "add", columns: [{ name: "x", formula: column("x") }], within: [], order: [] }, "x")).toEqual([
      "x",
    ]);
  });
  test("only, sort, unique, first, rename", () => {
    expect(needs({ do: "only", columns: ["a", "b"] }, "a")).toEqual(["a"]);
    expect(needs({ do: "sort", keys: [{ by: column("s"), descending: true }] }, "a")).toEqual(["a", "s"]);
    expect(needs({ do: "unique", columns: ["u"] }, "a")).toEqual(["a", "u"]);
    expect(needs({ do: "first", rows: { type: "number", value: 1 }, within: ["g"] }, "a")).toEqual(["a", "g"]);
    expect(needs({ do: "rename", names: [["old", "new"]] }, "new", "a")).toEqual(["a", "old"]);
  });
  test("group: its keys and what it gets, whatever is wanted of it", () => {
    expect(
      needs(
        {
          do: "group",
          by: [{ name: "k", formula: column("k") }],
          get: [{ name: "n", formula: { type: "call", name: "sum", arguments: [column("v")] } }],
        },
        "n",
      ),
    ).toEqual(["k", "v"]);
  });
});

describe("what of a sheet's tables is packed", () => {
  const CSV = "k,v,w,secret\na,1,10,s\nb,2,20,t\nb,3,30,u";
  const packed = (rest: string) => {
    const { tables, findings } = compileText(sheetOver(CSV, rest));
    expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
    return Object.fromEntries([...tables].map(([name, table]) => [name, [...table.columns.keys()].sort()]));
  };
  const DOTS = "  dots: {from: calls, draw: points, x: v, y: v}\n";
  test("only what charts, links and controls read", () => {
    expect(packed(`charts:\n${DOTS}`)).toEqual({ calls: ["v"] });
    expect(packed(`charts:\n${DOTS}controls: {k: {pick: k, from: calls}}\n`)).toEqual({ calls: ["k", "v"] });
    expect(packed(`charts:\n${DOTS}  other: {from: calls, draw: points, x: v, y: w, keep: secret != "s"}\n`)).toEqual({
      calls: ["secret", "v", "w"],
    });
    expect(
      packed(
        `charts:\n${DOTS}  other: {from: calls, draw: bars, x: k, y: count(), sort: {x: -sum(w)}}\nlinks: [click on dots by secret -> filter other]\n`,
      ),
    ).toEqual({ calls: ["k", "secret", "v", "w"] });
  });
  test("what a finished step read stays home", () => {
    expect(
      packed(
        `    steps:\n      - keep: secret != "s"\n      - add: {double: w * 2}\ncharts:\n  one: {from: calls, draw: points, x: double, y: double}\n`,
      ),
    ).toEqual({ calls: ["double"] });
  });
  test("a finished table goes without the one it was made from", () => {
    expect(
      packed(
        "  sums:\n    from: calls\n    steps:\n      - group: {by: k, get: {total: sum(v)}}\ncharts:\n  one: {from: sums, draw: bars, x: k, y: total}\n",
      ),
    ).toEqual({ sums: ["k", "total"] });
  });
  test("a table that is made again in the dashboard brings what it is made of, and no more", () => {
    expect(
      packed(
        `  sums:\n    from: calls\n    steps:\n      - keep: w > 5\n      - group: {by: k, get: {total: sum(v)}}\ncharts:\n${DOTS}  one: {from: sums, draw: bars, x: k, y: total}\nlinks: [brush x on dots -> filter one]\n`,
      ),
    ).toEqual({ calls: ["k", "v", "w"] });
  });
  test("a table that nothing draws is not packed at all", () => {
    expect(packed(`  unused:\n    rows: [{z: 1}]\ncharts:\n${DOTS}`)).toEqual({ calls: ["v"] });
  });
  test("a chain of live tables is carried through", () => {
    const chain =
      "  some:\n    from: calls\n    steps: [add: {x: v + w}]\n  fewer:\n    from: some\n    steps: [keep: x > 3, rename: {x: y}]\n";
    const rest = `${chain}charts:\n${DOTS}  end: {from: fewer, draw: points, x: y, y: y}\nlinks: [brush x on dots -> filter end]\n`;
    expect(packed(rest)).toEqual({ calls: ["v", "w"] });
    const { plan } = compileText(sheetOver(CSV, rest));
    expect(plan.tables.map(({ name, from }) => `${name} from ${from ?? "the file"}`)).toEqual([
      "calls from the file",
      "some from calls",
      "fewer from some",
    ]);
  });
});
