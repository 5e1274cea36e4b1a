import { describe, expect, test } from "vitest";
import { compileText, sheetOver } from "../../testing/compile-text";

const CSV = "k,paid,name\na,10,x\na,20,\nb,5,y\nb,5,\nb,,";

function added(formula: string, more = ""): { values: unknown[]; codes: string[] } {
  const text = sheetOver(
    CSV,
    "charts: {t: {from: calls, draw: table}}\n",
    `    steps: [{add: {r: '${formula}'}${more}}]\n`,
  );
  const { tables, findings } = compileText(text);
  const column = tables.get("calls")?.columns.get("r");
  const values =
    column?.kind === "text"
      ? Array.from(column.codes, (code) => (code < 0 ? null : column.dictionary[code]))
      : Array.from(column?.values ?? [], (value) => (Number.isNaN(value) ? null : value));
  return { values, codes: findings.map(({ code }) => code) };
}

describe("a recurrence", () => {
  test("begins with its start, and goes on from the result before", () => {
    expect(added("recur(1000, before * 1.5 + paid)").values).toEqual([1000, 1520, 2285, 3432.5, null]);
    expect(added("recur(paid, -before)").values).toEqual([10, -10, 10, -10, 10]);
  });

  test("begins again in each group, in the order that is said", () => {
    expect(added("recur(1, before + 1)", ", within: [k]").values).toEqual([1, 2, 1, 2, 3]);
    expect(added("recur(1, before + 1)", ", order: [-paid]").values).toEqual([2, 1, 3, 4, 5]);
  });

  test("takes functions, tests and texts too", () => {
    expect(added("recur(paid, if(known(paid), greatest(before, paid), before))").values).toEqual([10, 20, 20, 20, 20]);
    expect(added("recur(name, if(known(name), name, before))").values).toEqual(["x", "x", "y", "y", "y"]);
    expect(added("recur(0, before + recur(1, before * 2))").values).toEqual([0, 2, 6, 14, 30]);
  });

  test("must stay of one kind, and has no place in aggregates", () => {
    expect(added('recur(1, concat("a", "b"))').codes).toContain("wrong-kind");
    expect(added("sum(recur(1, before))").codes).toContain("row-function-here");
    expect(added("paid + before").codes).toContain("unknown-column");
  });
});
