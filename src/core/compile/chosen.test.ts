import { describe, expect, test } from "vitest";
import { Model } from "../model/model";
import { type Column, type Scalar, valueAt } from "../table/column";
import { compileText } from "../testing/compile-text";

const rowsOf = (model: Model, name: string): Scalar[][] => {
  const { columns, rowCount } = model.engine.tableOf(name);
  return Array.from({ length: rowCount }, (_, row) =>
    [...columns.values()].map((column: Column) => valueAt(column, row)),
  );
};

describe("from: $setting", () => {
  const sheet = (of: string, more = "") => `still: 1
report: T
controls:
  year: {set: this_year, as: menu, of: ${of}}
tables:
  this_year: {rows: [{berth: A, t: 1}, {berth: B, t: 2}]}
  last_year: {rows: [{t: 30, berth: A}]}
  other: {rows: [{berth: A}]}
  shown:
    from: $year
    steps:
      - add: {twice: t * 2}
charts:
  list: {draw: table, from: shown}
  rest: {draw: table, from: other}
${more}`;
  test("the reader chooses the table, and the steps run over the one that is chosen", () => {
    const compiled = compileText(sheet("[this_year, last_year]"));
    expect(compiled.findings.filter(({ severity }) => severity !== "advice")).toEqual([]);
    expect(compiled.stages.get("shown")?.ledger).toHaveLength(1);
    expect([...(compiled.stages.get("shown")?.tables[0]?.columns.keys() ?? [])]).toEqual(["berth", "t"]);
    const model = new Model(compiled.plan, compiled.tables);
    expect(rowsOf(model, "shown")).toEqual([
      ["A", 1, 2],
      ["B", 2, 4],
    ]);
    model.engine.setSetting("year", "last_year");
    expect(rowsOf(model, "shown")).toEqual([["A", 30, 60]]);
  });
  test("every option is checked", () => {
    const errors = (of: string) =>
      compileText(sheet(of))
        .findings.filter(({ severity }) => severity === "error")
        .map(({ message }) => message);
    expect(errors("[this_year, other]")[0]).toContain("other lacks t");
    expect(errors("[this_year, next_year]")[0]).toContain('no table "next_year"');
    expect(compileText("still: 1\nreport: T\ntables:\n  a:\n    from: $b\n").findings[0]?.message).toContain(
      'no setting "b"',
    );
  });
});

describe("several values in one cell", () => {
  const compiled = compileText(`still: 1
report: T
tables:
  t:
    rows: |
      id,tags
      1,"dry, deep"
      2,deep
      3,
      4,"wide, dry"
    columns: {tags: {split: ", "}}
controls:
  tags: {pick: tags, from: t, as: checkboxes}
charts:
  list: {draw: table, from: t}
`);
  const left = (...picked: string[]) => {
    const model = new Model(compiled.plan, compiled.tables);
    model.engine.select("tags", { keys: picked.map((tag) => ({ tags: tag })) });
    return model.counts().t?.left;
  };
  test("a pick matches any of them", () => {
    expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
    expect([left("dry"), left("deep"), left("wide"), left("dry", "deep")]).toEqual([2, 2, 1, 3]);
    // Not the half of a word, and not the cell as a whole.
    expect(left("dee")).toBe(0);
  });
});

test("a setting of columns that stands where the column is meant is said, with the way out", () => {
  const text = `still: 1
report: T
controls: {axis: {set: v, as: menu, of: [v, w]}}
tables: {t: {rows: "v,w\\n1,2\\n3,4\\n"}}
charts:
  one: {from: t, draw: points, x: $axis, y: v, color: $axis}
`;
  const { findings } = compileText(text);
  const errors = findings.filter(({ severity }) => severity === "error");
  expect(errors.map(({ code, message, fix }) => [code, message, fix?.title])).toEqual([
    ["constant-place", "$axis is the name of a column; the column is chosen($axis)", "write chosen($axis)"],
  ]);
  const mended = compileText(text.replaceAll("$axis", "chosen($axis)")).findings;
  expect(mended.filter(({ severity }) => severity === "error")).toEqual([]);
});
