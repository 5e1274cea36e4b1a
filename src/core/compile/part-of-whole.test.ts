import { describe, expect, test } from "vitest";
import { compileText, sheetOver } from "../testing/compile-text";

/** True where the measured axis of a chart over which a part is drawn begins at zero. */
function beginsAtZero(chart: string, link = "brush x on dots -> highlight course", axis: "x" | "y" = "y") {
  const { plan, findings } = compileText(
    sheetOver(
      "k,v,w\n1,10,1\n2,20,2\n3,30,3",
      `  sums: {from: calls, steps: [{group: {by: [k], get: {total: sum(v), middle: median(v)}}}]}
charts:
  dots: {from: calls, draw: points, x: v, y: w}
  course: ${chart}
links: [${link}]
`,
    ),
  );
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  const piece = plan.pieces.find(({ name }) => name === "course")?.plan;
  return piece?.type === "chart" && piece.axes[axis]?.fromZero;
}

describe("an axis on which a part of a whole is drawn", () => {
  test("begins at zero where sums or counts stand on it, made by the chart or by a step", () => {
    expect(beginsAtZero("{from: calls, draw: line, x: k, y: sum(v)}")).toBe(true);
    expect(beginsAtZero("{from: calls, draw: points, x: count(), y: k}", undefined, "x")).toBe(true);
    expect(beginsAtZero("{from: sums, draw: line, x: k, y: total}")).toBe(true);
    expect(beginsAtZero("{from: calls, draw: line, x: k, y: sum(v)}", "brush x on dots -> fade course")).toBe(true);
  });
  test("begins where it did for what does not add up, where the sheet says so, and where no part is drawn", () => {
    expect(beginsAtZero("{from: calls, draw: line, x: k, y: mean(v)}")).toBe(false);
    expect(beginsAtZero("{from: sums, draw: line, x: k, y: middle}")).toBe(false);
    expect(beginsAtZero("{from: calls, draw: line, x: k, y: sum(v), axes: {y: {from_zero: false}}}")).toBe(false);
    expect(beginsAtZero("{from: calls, draw: line, x: k, y: sum(v)}", "brush x on dots -> filter course")).toBe(false);
  });
});
