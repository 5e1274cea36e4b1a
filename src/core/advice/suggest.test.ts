import { describe, expect, it } from "vitest";
import { applyEdits } from "../finding/finding";
import { readCsv } from "../read/csv";
import { type SheetValue, setValue } from "../sheet/edit/edit";
import { compileText } from "../testing/compile-text";
import { suggestCharts } from "./suggest";

const suggestionsFor = (csv: string) => suggestCharts("t", readCsv("t.csv", csv).table);

/** A sheet with the suggestions taken. */
function compiledWith(csv: string) {
  let text = "still: 1\nreport: R\ntables:\n  t: {read: t.csv}\n";
  for (const { name, spec } of suggestionsFor(csv))
    text = applyEdits(text, setValue(text, ["charts", name], spec as SheetValue) ?? []);
  return compileText(text, { "t.csv": csv });
}

const DAYS = Array.from({ length: 60 }, (_, n) => `2024-0${1 + (n % 9)}-0${1 + (n % 8)}`);
const CALLS = `call id,day,berth,tonnes,waited h,note\n${DAYS.map((day, n) => `C-${n},${day},${["North", "South", "East"][n % 3]},${100 + ((n * 37) % 91)},${(n * 7) % 23},note ${n}`).join("\n")}\n`;

describe("first charts for a table", () => {
  it("are a number, time, groups, a spread, a comparison and the rows", () => {
    const found = suggestionsFor(CALLS);
    expect(found.map(({ name }) => name)).toEqual(["in_all", "over_time", "by_group", "spread", "together", "rows"]);
    expect(found[0]?.spec.value).toBe("sum(tonnes)");
    expect(found[1]?.spec).toMatchObject({ draw: "line", x: "by_week(day)", y: "sum(tonnes)" });
    expect(found[2]?.spec).toMatchObject({ y: "berth", x: "sum(tonnes)", sort: { y: "-sum(tonnes)" } });
    expect(found[4]?.spec).toMatchObject({ x: "tonnes", y: "`waited h`", color: "berth" });
  });

  it("take names and numbers of things for neither groups nor measures", () => {
    const formulas = JSON.stringify(suggestionsFor(CALLS).slice(0, 5));
    expect(formulas.includes("note")).toBe(false);
    expect(formulas.includes("call id")).toBe(false);
  });

  it("average what cannot be added up", () => {
    const found = suggestionsFor(
      `berth,speed\n${Array.from({ length: 12 }, (_, n) => `${n % 2 ? "a" : "b"},${n * 3}`).join("\n")}\n`,
    );
    expect(found[0]?.spec.value).toBe("mean(speed)");
  });

  it.each([
    ["calls", CALLS],
    ["one column", `n\n${Array.from({ length: 9 }, (_, n) => n * n).join("\n")}\n`],
    ["texts only", "a,b\nx,1st\ny,2nd\nx,3rd\n"],
    ["odd names", "and,`q`,sum of\nx,1,2\ny,2,3\nx,3,5\ny,4,1\nx,5,9\ny,6,8\nx,7,7\n"],
    ["one row", "a,b\n1,2\n"],
  ])("compile without a finding that holds the file back: %s", (_, csv) => {
    const compiled = compiledWith(csv);
    expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
    expect(compiled.plan.pieces.length).toBe(suggestionsFor(csv).length);
  });

  it("are none for a table without rows", () => {
    expect(suggestionsFor("a,b\n")).toEqual([]);
  });
});
