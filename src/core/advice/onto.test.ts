import { describe, expect, test } from "vitest";
import { applyEdits } from "../finding/finding";
import { compileText } from "../testing/compile-text";
import { type OntoColumn, placesOnto } from "./onto";

const SHEET = `still: 1
report: R
tables:
  calls:
    rows: |
      berth,cargo,day,tonnes,the weight
      a,salt,2024-01-01,1,2
      b,fuel,2024-02-01,3,4
charts:
  sums: {from: calls, draw: bars, y: berth, x: mean(tonnes)}
  dots: {from: calls, draw: points, x: tonnes, y: day}
  trend:
    from: calls
    x: by_month(day)
    y: sum(tonnes)
    layers:
      - draw: line
        color: cargo
      - draw: points
  n: {from: calls, draw: figure, value: sum(tonnes)}
  list: {from: calls, draw: table, columns: [berth]}
`;

const COLUMNS: Record<string, OntoColumn> = {
  cargo: { name: "cargo", kind: "text" },
  weight: { name: "the weight", kind: "number" },
  day: { name: "day", kind: "date" },
};

const said = (chart: string, column: string) =>
  placesOnto(SHEET, chart, COLUMNS[column] as OntoColumn).map(({ key, formula, before }) =>
    before === undefined ? `${key}: ${formula}` : `${key}: ${formula} for ${before}`,
  );

describe("where a column can be put", () => {
  test("on a chart of groups: as a measure by the aggregate that is there, or as groups", () => {
    expect(said("sums", "weight")).toEqual([
      "x: mean(`the weight`) for mean(tonnes)",
      "y: bin(`the weight`, 24) for berth",
      "color: mean(`the weight`)",
    ]);
    expect(said("sums", "cargo")).toEqual(["y: cargo for berth", "color: cargo", "panels: cargo"]);
    expect(said("sums", "day")).toEqual(["y: by_month(day) for berth", "color: by_month(day)"]);
  });
  test("with the aggregate that stood there, where it takes one number", () => {
    const text = SHEET.replace("x: mean(tonnes)", "x: stdev(tonnes)");
    const [x] = placesOnto(text, "sums", COLUMNS.weight as OntoColumn);
    expect(x?.formula).toBe("stdev(`the weight`)");
    const [other] = placesOnto(text.replace("stdev(tonnes)", "count()"), "sums", COLUMNS.weight as OntoColumn);
    expect(other?.formula).toBe("sum(`the weight`)");
  });
  test("on a chart of rows as it is", () => {
    expect(said("dots", "weight")).toEqual([
      "x: `the weight` for tonnes",
      "y: `the weight` for day",
      "color: `the weight`",
      "size: `the weight`",
    ]);
  });
  test("in the layer that has the channel, and on what is no chart", () => {
    const color = placesOnto(SHEET, "trend", { name: "berth", kind: "text" }).find(({ key }) => key === "color");
    expect(applyEdits(SHEET, color?.edits ?? [])).toContain("      - draw: line\n        color: berth\n");
    expect(said("n", "weight")).toEqual(["value: sum(`the weight`) for sum(tonnes)"]);
    expect(said("n", "cargo")).toEqual([]);
    expect(said("list", "weight")).toEqual(["columns: `the weight`"]);
    expect(placesOnto(SHEET, "nothing", COLUMNS.cargo as OntoColumn)).toEqual([]);
  });
  test("what is written compiles, wherever it is put", () => {
    for (const chart of ["sums", "dots", "trend", "n", "list"])
      for (const column of [...Object.values(COLUMNS), { name: "berth", kind: "text" } as const])
        for (const { key, edits } of placesOnto(SHEET, chart, column)) {
          const { findings } = compileText(applyEdits(SHEET, edits));
          const errors = findings.filter(({ severity }) => severity === "error").map(({ message }) => message);
          expect([chart, column.name, key, errors]).toEqual([chart, column.name, key, []]);
        }
  });
});
