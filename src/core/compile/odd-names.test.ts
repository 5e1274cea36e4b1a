import { describe, expect, test } from "vitest";
import { buildDashboard } from "../dashboard/build";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";

const NAMES = ["__proto__", "constructor", "toString", "hasOwnProperty"];

const sheet = (read: string, name: string) => `still: 1
report: T
tables:
  t:
    ${read}
    columns: {${name}: {label: Odd, colors: {constructor: "#aa0000"}}, n: number}
    steps:
      - add: {twice: n * 2}
      - rename: {twice: double}
controls:
  constructor: {pick: ${name}, from: t, as: checkboxes}
charts:
  bars: {from: t, draw: bars, x: ${name}, y: sum(n), color: ${name}}
  list: {from: t, draw: table, columns: [${name}, double]}
  wide: {from: g, draw: table}
links:
  - click on bars by ${name} -> filter list
`;

const grouped = (text: string, name: string) =>
  text.replace("controls:", `  g: {from: t, steps: [{group: {by: [${name}], get: {valueOf: sum(n)}}}]}\ncontrols:`);

describe("columns may have any name", () => {
  test.each(NAMES)("%s", (name) => {
    const csv = `${name},n\na,1\nconstructor,2\n__proto__,3\na,4\n`;
    const text = grouped(sheet("read: t.csv", name), name);
    const compiled = compileText(text, { "t.csv": csv });
    expect(compiled.findings.map(({ message }) => message)).toEqual([]);
    const plan = JSON.parse(JSON.stringify(compiled.plan)) as typeof compiled.plan;
    const model = new Model(plan, compiled.tables);
    model.engine.select("bars", { keys: [Object.fromEntries([[name, "a"]])] });
    expect([...(model.plainAnswer("list")?.answer.counts ?? [])]).toEqual([1, 0, 0, 1]);
    expect(model.colorScale("bars")).toMatchObject({
      names: ["__proto__", "a", "constructor"],
      paints: [expect.any(String), expect.any(String), "#aa0000"],
    });
    expect(plan.selections.find(({ name: own }) => own === "bars")?.words).toMatchObject(
      Object.fromEntries([[name, { label: "Odd" }]]),
    );
    expect(
      buildDashboard({ text, fileName: "t", readFile: () => new TextEncoder().encode(csv) }, { viewer: () => "0" })
        .html,
    ).toContain("<svg");
  });
  test.each(["json", "ndjson", "geojson"])("in %s", (ending) => {
    const row = `{"__proto__":"a","n":1}`;
    const text =
      ending === "geojson"
        ? `{"type":"FeatureCollection","features":[{"type":"Feature","properties":${row},"geometry":null}]}`
        : ending === "json"
          ? `[${row}]`
          : row;
    const compiled = compileText(
      `still: 1\nreport: T\ntables: {t: {read: t.${ending}, columns: {__proto__: text}}}\ncharts: {list: {from: t, draw: table, columns: [__proto__, n]}}\n`,
      { [`t.${ending}`]: text },
    );
    expect(compiled.findings.filter(({ severity }) => severity === "error")).toEqual([]);
    expect([...(compiled.tables.get("t")?.columns.keys() ?? [])]).toEqual(["__proto__", "n"]);
  });
});

describe("a column's name without the backticks that it needs", () => {
  const ROWS = "Visit No,Cost (EUR),to-do,n\n1,2,3,4\n";
  const found = (piece: string, steps = "") => {
    const text = `still: 1\nreport: T\ntables:\n  t:\n    read: t.csv\n${steps}charts:\n  one: ${piece}\n`;
    const { findings } = compileText(text, { "t.csv": ROWS });
    const errors = findings.filter(({ severity }) => severity === "error");
    const [edit] = errors[0]?.fix?.edits ?? [];
    const mended = edit && text.slice(0, edit.start) + edit.text + text.slice(edit.end);
    const left =
      mended && compileText(mended, { "t.csv": ROWS }).findings.filter(({ severity }) => severity === "error");
    return { codes: errors.map(({ code }) => code), message: errors[0]?.message, text: edit?.text, left };
  };
  test.each([
    ["{from: t, draw: table, columns: [n, Visit No]}", '"`Visit No`"'],
    ["{from: t, draw: points, x: n, y: mean(Cost (EUR)) * 2}", '"mean(`Cost (EUR)`) * 2"'],
    ["{from: t, draw: points, x: n, y: to-do}", '"`to-do`"'],
    ["{from: t, draw: points, x: n, y: 'n + to-do'}", '"n + `to-do`"'],
  ])("%s", (piece, text) => {
    expect(found(piece)).toMatchObject({ codes: ["bare-name"], text, left: [] });
  });
  test("in a step, and in an order turned around", () => {
    const table = "{from: t, draw: table, columns: [n]}";
    expect(found(table, "    steps: [{keep: Visit No > 0}]\n")).toMatchObject({ text: '"`Visit No` > 0"', left: [] });
    expect(found(table, "    steps: [{sort: [-Visit No]}]\n")).toMatchObject({ text: '"-`Visit No`"', left: [] });
  });
  test("what is wrong in another way is said as it is", () => {
    expect(found("{from: t, draw: points, x: n, y: m}")).toMatchObject({ codes: ["unknown-column"] });
    expect(found("{from: t, draw: points, x: n, y: '`to-do` + m'}")).toMatchObject({ codes: ["unknown-column"] });
    expect(found("{from: t, draw: points, x: n, y: n +}")).toMatchObject({ codes: ["bad-formula"] });
  });
});
