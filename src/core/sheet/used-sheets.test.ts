import { describe, expect, test } from "vitest";
import { compile } from "../compile/compile";

const PREP = `still: 1
tables:
  calls: {read: calls.csv, steps: [{keep: tonnes > 0}]}
controls:
  berth: {pick: berth, from: calls}
style: {accent: "#e0b060", use: house.style.yaml}
`;

const MAIN = `still: 1
report: R
use: [shared/prep.still.yaml]
charts:
  bars: {from: calls, draw: bars, y: berth, x: sum(tonnes)}
style: {fade: 0.3}
`;

const FILES: Record<string, string> = {
  "shared/prep.still.yaml": PREP,
  "shared/calls.csv": "berth,tonnes\nA,1\nB,2\nB,-1\n",
  "shared/house.style.yaml": 'ground: dark\naccent: "#ffd000"\nnumbers: {decimal: ",", thousands: " "}\n',
};

function compiled(text: string, files = FILES) {
  return compile({
    text,
    fileName: "main.still.yaml",
    readFile: (path) => (files[path] === undefined ? undefined : new TextEncoder().encode(files[path])),
    listFiles: () => Object.keys(files),
  });
}

const told = (text: string, files = FILES) =>
  compiled(text, files).findings.map(({ code, message, span }) => [code, message, text.slice(span?.start, span?.end)]);

describe("a sheet that uses others", () => {
  test("has their tables and controls, with files from their folder", () => {
    const { plan, findings } = compiled(MAIN);
    expect(findings).toEqual([]);
    expect(plan.tables).toMatchObject([{ name: "calls", rowCount: 2 }]);
    expect(plan.controls.map(({ name }) => name)).toEqual(["berth"]);
  });

  test("its own style wins over a used sheet's, and that over the house's", () => {
    expect(compiled(MAIN).plan.style).toMatchObject({
      ground: "dark",
      accent: "#e0b060",
      fade: 0.3,
      numbers: { decimal: ",", thousands: " " },
    });
  });

  test("what is wrong there is told with its line there, at the place that names it", () => {
    const broken = { ...FILES, "shared/prep.still.yaml": PREP.replace("keep: tonnes > 0", "keep: tons > 0") };
    const [finding] = told(MAIN, broken);
    expect(finding?.[1]).toMatch(/^shared\/prep\.still\.yaml:3:\d+: .*tons/);
    expect(finding?.[2]).toBe("shared/prep.still.yaml");
    const misspelt = { ...FILES, "shared/house.style.yaml": "grund: dark\n" };
    expect(told(MAIN, misspelt)[0]?.[1]).toMatch(/^shared\/house\.style\.yaml:1:1: there is no key "grund"/);
  });

  test("a colour that can hardly be seen is told where it stands: in the sheet, a used one, or the house style", () => {
    const dim = { ...FILES, "shared/house.style.yaml": 'ground: dark\npalette: ["#ffffff", "#222222"]\n' };
    expect(told(MAIN, dim)).toEqual([
      ["low-contrast", expect.stringMatching(/^shared\/house\.style\.yaml:2:22: #222222/), "[shared/prep.still.yaml]"],
    ]);
    const prep = { ...dim, "shared/prep.still.yaml": PREP.replace("#e0b060", "#333333") };
    expect(told(MAIN, prep)[0]?.[1]).toMatch(/^shared\/prep\.still\.yaml:6:17: #333333/);
    const own = MAIN.replace("fade: 0.3", 'use: house.style.yaml, accent: "#111111"');
    const files = { ...FILES, "house.style.yaml": 'ground: dark\npalette: ["#222222"]\n' };
    expect(told(own, files)).toEqual([
      ["low-contrast", expect.stringMatching(/^#111111/), '"#111111"'],
      ["low-contrast", expect.stringMatching(/^house\.style\.yaml:2:11: #222222/), "house.style.yaml"],
    ]);
  });

  test("a text of it that YAML has split hides nothing else that is wrong there", () => {
    const prep =
      'tables:\n  t: {rows: "a,b\\n1,2"}\n  g: {from: t, steps: [{group: {by: [bin(a, 2)], get: {n: cuont()}}}]}\n';
    const text = "still: 1\nreport: R\nuse: [prep.yaml]\ncharts: {c: {from: t, draw: table, columns: [a]}}\n";
    const codes = told(text, { "prep.yaml": prep }).map(([code]) => code);
    expect(codes).toContain("split-text");
    expect(codes).toContain("unknown-function");
  });
  test("two of one name, files that are not there and circles are told", () => {
    expect(told(MAIN.replace("charts:", "tables: {calls: {rows: [{a: 1}]}}\ncharts:"))).toContainEqual([
      "doubled-name",
      'shared/prep.still.yaml has a table "calls", and so has this report',
      "shared/prep.still.yaml",
    ]);
    expect(told(MAIN, {})[0]?.slice(0, 2)).toEqual([
      "no-such-file",
      'there is no file "shared/prep.still.yaml" beside the sheet',
    ]);
    const circle = { ...FILES, "shared/prep.still.yaml": `${PREP}use: [prep.still.yaml]\n` };
    expect(told(MAIN, circle).map(([code]) => code)).toEqual(["cycle"]);
  });
});
