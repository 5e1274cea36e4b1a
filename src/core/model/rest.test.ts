import { expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { sheetOver } from "../testing/compile-text";
import { modelOf } from "../testing/shown";

const csv = `k,d,v
a,2024-01-05,100
a,2024-02-05,110
a,2024-03-05,120
b,2024-01-06,20
b,2024-02-06,10
b,2024-03-06,30
c,2024-01-07,900
c,2024-02-07,910
c,2024-03-07,905`;
const model = () =>
  modelOf(
    sheetOver(
      csv,
      `charts:
  sums: {from: calls, draw: line, x: by_month(d), y: sum(v)}
  means: {from: calls, draw: bars, x: by_month(d), y: mean(v)}
  said: {from: calls, draw: line, x: by_month(d), y: sum(v), axes: {y: {range: all}}}
  lies: {from: calls, draw: density, x: v}
  each: {from: calls, draw: bars, x: k, y: count()}
links:
  - click on each -> filter all
controls:
  k: {pick: k, from: calls}
`,
    ),
  );

/** The ends of a chart's measured axis as it would be drawn now. */
const endsOf = (own: ReturnType<typeof model>, name: string) => {
  const input = own.chartInput(name, 400, 300, new Set());
  return input && drawChart(input).panels[0]?.y?.domain;
};

test("sums that a gesture narrows are drawn down to zero, from its first move on", () => {
  const own = model();
  const [low] = endsOf(own, "sums") ?? [];
  expect(low).toBeGreaterThan(900);
  own.engine.select("each", { keys: [{ k: "b" }] });
  expect(endsOf(own, "sums")?.[0]).toBe(0);
  own.engine.select("each", undefined);
  expect(endsOf(own, "sums")?.[0]).toBe(low);
});

test("means beyond an axis that stays have room once the gesture has ended, and not before", () => {
  const own = model();
  const whole = endsOf(own, "means");
  const lies = endsOf(own, "lies");
  own.engine.select("each", { keys: [{ k: "c" }] });
  expect(endsOf(own, "means")).toEqual(whole);
  own.settle();
  expect(endsOf(own, "means")?.[1]).toBeGreaterThanOrEqual(910);
  expect(endsOf(own, "lies")?.[1]).toBeGreaterThan(10 * (lies?.[1] ?? 1));
  own.engine.select("each", undefined);
  own.settle();
  expect(endsOf(own, "means")).toEqual(whole);
});

test("an axis whose range is said stays, and a control closes an axis as before", () => {
  const own = model();
  const said = endsOf(own, "said");
  own.engine.select("each", { keys: [{ k: "b" }] });
  own.settle();
  expect(endsOf(own, "said")).toEqual(said);
  own.engine.select("each", undefined);
  own.engine.select("k", { keys: [{ k: "a" }] });
  expect(endsOf(own, "sums")?.[0]).toBeGreaterThanOrEqual(100);
});
