import { describe, expect, test } from "vitest";
import { compileText } from "../testing/compile-text";

const TABLE = `still: 1
report: L
tables:
  t:
    label: calls
    rows: |
      Waited,tonnes,year,late
      1:20:00,1.5,2024,true
      0:40:00,2.5,2025,false
    columns:
      Waited: {type: duration, label: Time waited}
      tonnes: {label: Cargo, unit: t, format: ",.2f"}
charts:
`;

/** What a reader is told of a formula: label, unit and format. */
function wordsOf(formula: string) {
  const { plan, findings } = compileText(`${TABLE}  c: {from: t, draw: table, columns: ['${formula}']}\n`);
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  const piece = plan.pieces[0]?.plan;
  if (piece?.type !== "table") throw new Error("no table");
  const { label, unit, format } = piece.query.channels.column0 ?? {};
  return [label, unit, format];
}

describe("a formula is spoken of", () => {
  test.each([
    ["tonnes", "Cargo", "t", ",.2f"],
    ["year", "year", undefined, "d"],
    ["sum(tonnes)", "Cargo", "t", ",.2f"],
    ["median(tonnes)", "median cargo", "t", ",.2f"],
    ["distinct(tonnes)", "different cargo", undefined, undefined],
    ["max(year)", "max year", undefined, "d"],
    ["mean(year)", "mean year", undefined, undefined],
    ["count()", "calls", undefined, undefined],
    ["minutes(Waited)", "Time waited", "min", undefined],
    ["mean(minutes(Waited))", "mean time waited", "min", undefined],
    ["bin(hours(Waited), 4)", "Time waited", "h", undefined],
    ["max(round(tonnes))", "max cargo", "t", ",.2f"],
    ["mean(Waited)", "mean time waited", undefined, undefined],
    ["sum(tonnes) / count()", "Cargo / calls", undefined, undefined],
    ["(sum(tonnes) - 2) / count()", "(Cargo \u2212 2) / calls", undefined, undefined],
    ["tonnes / (year / 2)", "Cargo / (year / 2)", undefined, undefined],
    ["2 * sum(tonnes) + 1", "2 \u00d7 cargo + 1", undefined, undefined],
    ["tonnes - (year - 2)", "Cargo \u2212 (year \u2212 2)", undefined, undefined],
    ["tonnes + if(late, 1, 0)", "tonnes + if(late, 1, 0)", undefined, undefined],
    ["sum(tonnes / 2)", "sum(tonnes / 2)", undefined, undefined],
    ["sum(if(late, 1, 0))", "sum(if(late, 1, 0))", undefined, undefined],
  ])("%s", (formula, ...words) => {
    expect(wordsOf(formula)).toEqual(words);
  });
});
