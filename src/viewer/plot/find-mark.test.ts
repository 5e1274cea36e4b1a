import { describe, expect, test } from "vitest";
import { drawChart } from "../../core/chart/draw";
import { Model } from "../../core/model/model";
import { Discs } from "../../core/scene/shapes/discs";
import { Lines } from "../../core/scene/shapes/lines";
import { Rects } from "../../core/scene/shapes/rects";
import { compileText, sheetOver } from "../../core/testing/compile-text";
import { shapeIn } from "../../core/testing/drawn";
import { marksAtX, nearestMark } from "./find-mark";

const CSV = `k,c,v,d
a,x,1,2024-01-10
a,y,2,2024-01-20
b,x,5,2024-03-01
b,y,3,2024-03-02
c,x,4,2024-04-09`;

function drawn(chart: string) {
  const compiled = compileText(sheetOver(CSV, `charts:\n  one: ${chart}\n`));
  const input = new Model(compiled.plan, compiled.tables).chartInput("one", 400, 200, new Set());
  if (!input) throw new Error("no chart");
  return drawChart(input);
}

describe("the nearest mark", () => {
  test("need not be hit", () => {
    const chart = drawn("{from: calls, draw: points, x: v, y: v}");
    const marks = shapeIn(chart, Discs);
    const found = nearestMark(chart, "x", (marks.x[2] as number) + 9, (marks.y[2] as number) - 9);
    expect(found).toMatchObject({ mark: 2, layer: 0 });
    expect(found?.distance).toBeCloseTo(Math.hypot(9, 9), 6);
  });
  test("is none where all are out of reach", () => {
    const chart = drawn("{from: calls, draw: points, x: v, y: v}");
    const marks = shapeIn(chart, Discs);
    expect(nearestMark(chart, "x", marks.x[0] as number, (marks.y[0] as number) - 60, 40)).toBeUndefined();
  });
  test("of thin bars is the one over the place on the axis, however high the pointer", () => {
    const chart = drawn("{from: calls, draw: bars, x: k, y: count()}");
    const marks = shapeIn(chart, Rects);
    const x = (marks.x[2] as number) + (marks.width[2] as number) / 2;
    expect(nearestMark(chart, "x", x, 12)?.mark).toBe(2);
  });
  test("inside a stack is the segment under the pointer", () => {
    const chart = drawn("{from: calls, draw: bars, x: k, y: sum(v), color: c}");
    const marks = shapeIn(chart, Rects);
    for (let mark = 0; mark < marks.ids.length; mark++) {
      const { x, y } = marks.middle(mark);
      expect(nearestMark(chart, "x", x, y)?.mark).toBe(mark);
    }
  });
  test("of two layers at the same place is the one drawn later", () => {
    const chart = drawn("{from: calls, x: by_month(d), y: count(), layers: [{draw: line}, {draw: points}]}");
    const marks = shapeIn(chart, Discs, 1);
    expect(nearestMark(chart, "x", marks.x[1] as number, marks.y[1] as number)?.layer).toBe(1);
  });
});

describe("marks at the same x", () => {
  test("are one of each series, points over lines said once", () => {
    const chart = drawn("{from: calls, x: by_month(d), y: sum(v), color: c, layers: [{draw: line}, {draw: points}]}");
    const marks = shapeIn(chart, Lines);
    const found = marksAtX(chart, (marks.x[0] as number) + 3);
    expect(found).toHaveLength(2);
    expect(new Set(found.map(({ x }) => x)).size).toBe(1);
  });
  test("are those of the nearest value, left or right", () => {
    const chart = drawn("{from: calls, draw: line, x: by_month(d), y: count()}");
    const marks = shapeIn(chart, Lines);
    const [first, second] = [marks.x[0] as number, marks.x[1] as number];
    expect(marksAtX(chart, first + (second - first) * 0.4)[0]?.x).toBe(first);
    expect(marksAtX(chart, first + (second - first) * 0.6)[0]?.x).toBe(second);
    expect(marksAtX(chart, -100)[0]?.x).toBe(first);
  });
});
