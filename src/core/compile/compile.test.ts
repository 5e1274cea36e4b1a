import { describe, expect, test } from "vitest";
import { pageHtml } from "../dashboard/page-html";
import { applyEdits } from "../finding/finding";
import { placeOf } from "../finding/place";
import { Model } from "../model/model";
import { neededBefore } from "../steps/run";
import { compileText, sheetOver } from "../testing/compile-text";

const CSV = "vessel,berth,tonnes,waited,day\nTern,A,10,1.5,2024-01-05\nWren,B,20,2.5,2024-02-06";
const CHARTS =
  "charts:\n  bars: {from: calls, draw: bars, x: berth, y: sum(tonnes)}\n  dots: {from: calls, draw: points, x: waited, y: tonnes}\n";

function findingsOf(text: string, files: Record<string, string> = {}) {
  const { findings } = compileText(text, files);
  return findings.map((finding) => {
    const { line, column } = placeOf(text, finding.span?.start ?? 0);
    return {
      ...finding,
      at: `${line}:${column}`,
      fixed: finding.fix ? applyEdits(text, finding.fix.edits) : undefined,
    };
  });
}

describe("a wrong name is found where it stands, with the right one", () => {
  test.each<[string, string, string, string | undefined]>([
    ["a column in a chart", sheetOver(CSV, CHARTS.replace("sum(tonnes)", "sum(tons)")), "unknown-column", "tonnes"],
    [
      "a column in a step",
      sheetOver(CSV, `    steps:\n      - unique: [vesel]\n${CHARTS}`),
      "unknown-column",
      "vessel",
    ],
    ["a described column", sheetOver(CSV, CHARTS, "    columns: {tonne: {unit: t}}\n"), "unknown-column", "tonnes"],
    ["a table", sheetOver(CSV, CHARTS.replace("from: calls", "from: cals")), "unknown-table", "calls"],
    ["a chart in a link", sheetOver(CSV, `${CHARTS}links: [click on bras -> filter dots]\n`), "unknown-piece", "bars"],
    ["a table as target", sheetOver(CSV, `${CHARTS}links: [click on bars -> filter calls]\n`), "unknown-piece", "dots"],
    ["a target", sheetOver(CSV, `${CHARTS}links: [click on bars -> filter dost]\n`), "unknown-piece", "dots"],
    [
      "a column of by",
      sheetOver(CSV, `${CHARTS}links: [click on bars by birth -> filter dots]\n`),
      "unknown-column",
      "berth",
    ],
    ["a table to cross-filter", sheetOver(CSV, `${CHARTS}links: [cross-filter call]\n`), "unknown-table", "calls"],
    [
      "a chart in a grid",
      sheetOver(CSV, `${CHARTS}pages:\n  - page: P\n    grid: |\n      bars dosts\n`),
      "unknown-piece",
      "dots",
    ],
    [
      "a control at the side",
      sheetOver(
        CSV,
        `${CHARTS}controls: {berth: {pick: berth, from: calls}}\npages:\n  - {page: P, grid: bars dots, side: [brth]}\n`,
      ),
      "unknown-piece",
      "berth",
    ],
    [
      "a setting",
      sheetOver(
        CSV,
        `${CHARTS.replace("x: waited", 'x: "bin(waited, $bin)"')}controls: {bins: {set: 5, range: [2, 9]}}\n`,
      ),
      "unknown-setting",
      "$bins",
    ],
  ])("%s", (_, text, code, right) => {
    const error = findingsOf(text).find((finding) => finding.severity === "error");
    expect(error).toMatchObject({ code });
    expect(error?.span).toBeDefined();
    expect(error?.fixed && compileText(error.fixed).findings.filter(({ severity }) => severity === "error")).toEqual(
      [],
    );
    expect(error?.fix?.edits[0]?.text).toBe(right);
  });
});

describe("a control that is found wrong", () => {
  test.each([
    ["{set: 2, as: buttons, range: [1, 3]}", "wrong-value"],
    ["{set: 2, as: slider, range: [3, 1]}", "wrong-value"],
  ])("%s is found so once, not again where its setting is asked for", (control, code) => {
    const chart = "{from: calls, draw: points, x: waited, y: tonnes, keep: tonnes > $least}";
    const { findings } = compileText(sheetOver(CSV, `controls: {least: ${control}}\ncharts: {a: ${chart}}\n`));
    expect(findings.filter(({ severity }) => severity === "error").map((finding) => finding.code)).toEqual([code]);
  });
  test("a control that picks rows has no setting, which is said", () => {
    const chart = "{from: calls, draw: points, x: waited, y: tonnes, keep: tonnes > $least}";
    const text = sheetOver(CSV, `controls: {least: {pick: tonnes, from: calls}}\ncharts: {a: ${chart}}\n`);
    expect(compileText(text).findings.map(({ code }) => code)).toContain("unknown-setting");
  });
});

describe("what a column is read as", () => {
  const sheet = (columns: string) =>
    `still: 1\nreport: R\ntables:\n  t:\n    rows: |\n      Day,n\n      01/02/2024,1\n    columns: ${columns}\n    steps: [{rename: {Day: day}}]\ncharts: {c: {from: t, draw: table}}\n`;
  test("is said of the name that it has in the file, and otherwise found wrong", () => {
    const text = sheet('{day: {read: "%d/%m/%Y", type: date}}');
    const found = compileText(text).findings.find(({ code }) => code === "not-read");
    expect(found?.message).toContain("Day");
    const fixed = applyEdits(text, found?.fix?.edits ?? []);
    const { findings, tables } = compileText(fixed);
    expect(findings).toEqual([]);
    expect(tables.get("t")?.columns.get("day")?.kind).toBe("date");
  });
  test("cannot be said of what a step makes, unless it is that", () => {
    const codes = (type: string) =>
      compileText(sheet(`{twice: {type: ${type}}}`).replace("}}]", "}}, {add: {twice: n * 2}}]")).findings.map(
        ({ code }) => code,
      );
    expect(codes("date")).toContain("not-read");
    expect(codes("number")).not.toContain("not-read");
  });
});

describe("several rows on one bar", () => {
  test.each([
    ["1", "sum(v)"],
    ["0:10:00", "mean(v)"],
    ["2024-03-01", "max(v)"],
  ])("of values such as %s are best written %s", (value, written) => {
    const text = sheetOver(
      `k,v\na,${value}\na,${value}\nb,${value}`,
      "charts: {c: {from: calls, draw: bars, x: k, y: v}}\n",
    );
    const found = compileText(text).findings.find(({ code }) => code === "several-rows");
    const fixed = applyEdits(text, found?.fix?.edits ?? []);
    expect(found?.fix?.edits[0]?.text).toBe(written);
    expect(compileText(fixed).findings.filter(({ severity }) => severity === "error")).toEqual([]);
  });
});

test("several rows on one bar of a layer are told where the layer says its measure", () => {
  const text = sheetOver("k,v\na,1\na,2\nb,3", "charts: {c: {from: calls, x: k, layers: [{draw: bars, y: v}]}}\n");
  const found = compileText(text).findings.find(({ code }) => code === "several-rows");
  expect(text.slice(found?.span?.start, found?.span?.end)).toBe("v");
  expect(applyEdits(text, found?.fix?.edits ?? [])).toContain("{draw: bars, y: sum(v)}");
});

describe("what cannot be is said", () => {
  test.each<[string, string, string]>([
    [
      "a table made from itself",
      "still: 1\nreport: R\ntables: {a: {from: b}, b: {from: a}}\ncharts: {c: {from: a, draw: table}}\n",
      "cycle",
    ],
    [
      "a choice among tables of which one follows a setting",
      "still: 1\nreport: R\ntables: {a: {rows: [{n: 1}], steps: [keep: n > $l]}, b: {rows: [{n: 1}]}, t: {from: $w}}\ncontrols: {w: {set: a, as: radio, of: [a, b]}, l: {set: 0, as: slider, range: [0, 9]}}\ncharts: {c: {from: t, draw: table}}\n",
      "chosen-follows",
    ],
    ["a file that is not there", "still: 1\nreport: R\ntables: {a: {read: no.csv}}\n", "no-such-file"],
    ["a file outside", "still: 1\nreport: R\ntables: {a: {read: ../up.csv}}\n", "file-outside"],
    ["an absolute file", "still: 1\nreport: R\ntables: {a: {read: /etc/passwd.csv}}\n", "file-outside"],
    ["an address", 'still: 1\nreport: R\ntables: {a: {read: "http://example.invalid/a.csv"}}\n', "file-outside"],
    ["a file of another kind", "still: 1\nreport: R\ntables: {a: {read: a.xls}}\n", "unknown-file-kind"],
    [
      "several rows on one bar",
      sheetOver("k,v\na,1\na,2\nb,3", "charts: {c: {from: calls, draw: bars, x: k, y: v}}\n"),
      "several-rows",
    ],
    [
      "several rows on one bar, with an aggregate in the tooltip",
      sheetOver("k,v\na,1\na,2\nb,3", "charts: {c: {from: calls, draw: bars, x: k, y: v, tooltip: [count()]}}\n"),
      "several-rows",
    ],
    [
      "a bare column beside an aggregate",
      sheetOver(CSV, "charts: {c: {from: calls, draw: bars, x: berth, y: sum(tonnes) / waited}}\n"),
      "bare-column",
    ],
    [
      "a figure of many numbers",
      sheetOver(CSV, "charts: {c: {from: calls, draw: figure, value: tonnes}}\n"),
      "bare-column",
    ],
    ["a brush on categories", sheetOver(CSV, `${CHARTS}links: [brush x on bars -> filter dots]\n`), "gesture-here"],
    ["a chart that filters itself", sheetOver(CSV, `${CHARTS}links: [click on bars -> filter bars]\n`), "effect-here"],
    [
      "two unnamed selections on one chart",
      sheetOver(
        CSV,
        `${CHARTS}links: [click on dots -> filter bars, brush x on dots -> filter bars]\n`.replace(
          "[click on dots -> filter bars, brush x on dots -> filter bars]",
          "\n  - click on dots -> filter bars\n  - brush x on dots -> filter bars",
        ),
      ),
      "doubled-selection",
    ],
    [
      "a grid that is no rectangle",
      sheetOver(CSV, `${CHARTS}pages:\n  - page: P\n    grid: |\n      bars dots\n      dots bars\n`),
      "wrong-grid",
    ],
    [
      "a track that is none",
      sheetOver(CSV, `${CHARTS}pages:\n  - {page: P, grid: bars dots, columns: 2fr wide}\n`),
      "wrong-track",
    ],
    ["a format that is none", sheetOver(CSV, CHARTS, '    columns: {tonnes: {format: "%Q"}}\n'), "wrong-format"],
    [
      "a slider of words",
      sheetOver(CSV, `${CHARTS}controls: {s: {set: abc, as: slider, range: [1, 2]}}\n`),
      "wrong-kind",
    ],
    [
      "a range of names",
      sheetOver(CSV, `${CHARTS}controls: {s: {pick: berth, from: calls, as: range}}\n`),
      "wrong-kind",
    ],
    ["neither pick nor set", sheetOver(CSV, `${CHARTS}controls: {s: {from: calls}}\n`), "control-kind"],
    [
      "a logarithm of dates",
      sheetOver(CSV, "charts: {c: {from: calls, draw: points, x: day, y: tonnes, axes: {x: {scale: log}}}}\n"),
      "wrong-scale",
    ],
    [
      "a crosshair without a shared axis",
      sheetOver(CSV, `${CHARTS}links: [hover x on dots -> crosshair bars]\n`),
      "effect-here",
    ],
  ])("%s: %s", (_, text, code) => {
    const found = findingsOf(text);
    expect(found.map((finding) => finding.code)).toContain(code);
    expect(found.find((finding) => finding.code === code)?.span).toBeDefined();
  });
  test("what nothing uses is a warning, not an error", () => {
    const text = sheetOver(
      CSV,
      `  other: {from: calls}\n${CHARTS}controls: {n: {set: 3, range: [1, 9]}}\npages:\n  - {page: P, grid: bars}\n`,
    );
    const found = findingsOf(text);
    expect(found.map(({ code, severity }) => [code, severity])).toEqual([
      ["unused-table", "warning"],
      ["unused-setting", "warning"],
      ["unplaced", "warning"],
    ]);
  });
  test("a setting that only stands on the page is used by nothing", () => {
    const text = sheetOver(CSV, `${CHARTS}controls: {n: {set: 3, range: [1, 9]}}\n`);
    const codes = (own: string) => findingsOf(own).map(({ code }) => code);
    expect(codes(text)).toEqual(["unused-setting"]);
    expect(
      codes(text.replace("report: R", 'report: "R"').replace("draw: bars", 'draw: bars, subtitle: "{$n}"')),
    ).toEqual([]);
  });
  test("cells that cannot be read are told with examples", () => {
    const text =
      "still: 1\nreport: R\ntables: {a: {read: a.csv, columns: {n: number}}}\ncharts: {c: {from: a, draw: table}}\n";
    const [finding] = findingsOf(text, { "a.csv": "n\n1\nabout 5\n" });
    expect(finding).toMatchObject({ code: "unread-cells", severity: "advice", at: "3:37" });
    expect(finding?.message).toContain('"about 5" in row 2');
  });
});

describe("selections of a whole sheet", () => {
  test("cross-filter gives each chart its natural gesture, and figures none", () => {
    const rest =
      'charts:\n  bins: {from: calls, draw: bars, x: "bin(waited, 4)", y: count()}\n  kinds: {from: calls, draw: bars, y: berth, x: count()}\n  dots: {from: calls, draw: points, x: waited, y: tonnes}\n  list: {from: calls, draw: table}\n  total: {from: calls, draw: figure, value: count()}\nlinks: [cross-filter calls]\n';
    const { plan, ok } = compileText(sheetOver(CSV, rest));
    expect(ok).toBe(true);
    expect(
      plan.selections.map(({ name, gesture, effects }) => [
        name,
        gesture,
        effects.map(({ target }) => target).join(" "),
      ]),
    ).toEqual([
      ["bins", "brush x", "kinds dots list total"],
      ["kinds", "click", "bins dots list total"],
      ["dots", "brush xy", "bins kinds list total"],
      ["list", "rows", "bins kinds dots total"],
    ]);
  });
  test("a pick filters all that descends from its table, except where it fades", () => {
    const { plan } = compileText(
      sheetOver(
        CSV,
        `  few:\n    from: calls\n    steps: [keep: tonnes > 5]\n${CHARTS}  third: {from: few, draw: points, x: waited, y: tonnes}\ncontrols: {berth: {pick: berth, from: calls, fade: [dots]}}\n`,
      ),
    );
    expect(plan.selections[0]?.effects).toEqual([
      { effect: "filter", target: "bars" },
      { effect: "filter", target: "third" },
      { effect: "fade", target: "dots" },
    ]);
  });
  test("live tables are planned as steps, finished ones as their result", () => {
    const few = "  few:\n    from: calls\n    steps:\n      - group: {by: berth, get: {n: count()}}\n";
    const chart =
      "charts:\n  a: {from: few, draw: bars, x: berth, y: n}\n  b: {from: calls, draw: points, x: waited, y: tonnes}\n";
    const finished = compileText(sheetOver(CSV, few + chart));
    expect([...finished.tables.keys()]).toEqual(["calls", "few"]);
    const live = compileText(sheetOver(CSV, `${few}${chart}links: [brush x on b -> filter a]\n`));
    expect([...live.tables.keys()]).toEqual(["calls"]);
    expect(live.plan.tables.find(({ name }) => name === "few")?.steps).toHaveLength(1);
    expect([...(live.tables.get("calls")?.columns.keys() ?? [])]).toEqual(["berth", "tonnes", "waited"]);
  });
  test("steps that follow a setting stay live, those before are finished", () => {
    const { tables, plan } = compileText(
      sheetOver(
        CSV,
        "    steps:\n      - keep: tonnes > 0\n      - first: $n\ncharts:\n  a: {from: calls, draw: points, x: waited, y: waited}\ncontrols: {n: {set: 1, range: [1, 2]}}\n",
      ),
    );
    expect([...tables.keys()]).toEqual(["calls/source"]);
    expect(plan.tables.map(({ name, from, steps }) => [name, from, steps?.map((step) => step.do)])).toEqual([
      ["calls/source", undefined, undefined],
      ["calls", "calls/source", ["first"]],
    ]);
  });
  test("what a step needs of its input", () => {
    expect([...neededBefore({ do: "rename", names: [["a", "b"]] }, new Set(["b", "c"]))]).toEqual(["a", "c"]);
    expect([
      ...neededBefore(
        {
          do: "add",
          columns: [
            { name: "x", formula: { type: "column", name: "y" } },
            { name: "unused", formula: { type: "column", name: "z" } },
          ],
          within: [],
          order: [],
        },
        new Set(["x"]),
      ),
    ]).toEqual(["y"]);
    expect([
      ...neededBefore(
        { do: "group", by: [{ name: "k", formula: { type: "column", name: "k" } }], get: [] },
        new Set(["n"]),
      ),
    ]).toEqual(["k"]);
  });
  test("colours that a formula gives are taken as they are, also those of other settings", () => {
    const { plan, tables, findings } = compileText(
      sheetOver(
        CSV,
        `controls: {least: {set: 15, range: [0, 30]}}
charts:
  a:
    from: calls
    draw: bars
    x: berth
    y: count()
    color: 'if(tonnes > $least, "#b0552f", if(tonnes < 0, "#abc", "#8A9A92"))'
`,
      ),
    );
    expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
    const all = ["#8A9A92", "#b0552f", "#abc"];
    expect(Object.values(plan.colors)).toEqual([{ type: "categories", names: all, paints: all, literal: true }]);
    const html = pageHtml(new Model(plan, tables), { about: "", ground: "light", pictures: true });
    expect(html).toContain('fill="#b0552f"');
    expect(html).not.toContain('class="legend"');
  });
  test("colours of a column are the same in every chart, and those named in the sheet hold", () => {
    const { plan } = compileText(
      sheetOver(
        CSV,
        "charts:\n  a: {from: calls, draw: bars, x: berth, y: count(), color: vessel}\n  b: {from: calls, draw: points, x: waited, y: tonnes, color: vessel, keep: tonnes > 15}\n",
        '    columns: {vessel: {colors: {Wren: "#123456"}}}\n',
      ),
    );
    expect(plan.colors).toEqual({
      vessel: { type: "categories", names: ["Tern", "Wren"], paints: ["quay:0", "#123456"] },
    });
  });
});

test("what speaks of a selection that was found wrong is not found wrong too", () => {
  const text = `still: 1
report: T
tables:
  wards: {rows: "ward,n\\nA,1\\n", steps: [{keep: m > 1}]}
  trees: {rows: "ward,tall\\nA,3\\n"}
charts:
  places: {from: wards, draw: bars, x: ward, y: n}
  one: {from: trees, draw: points, x: tall, y: tall, color: 'if(picked(places), "a", "b")', title: "In {places.ward}"}
  two: {from: trees, draw: figure, value: mean(tall) of places, wait_for: places}
notes:
  say: {text: "Picked {places.ward}"}
links:
  - click on places -> filter one
`;
  const { findings } = compileText(text);
  expect(findings.filter(({ severity }) => severity === "error").map(({ code }) => code)).toEqual(["unknown-column"]);
  const other = compileText(text.replace("click on places", "click on one as other")).findings;
  expect(other.map(({ code }) => code)).toContain("unknown-selection");
});

test("a tooltip that is the name of a column is told to be words, and a spreadsheet's format what it is here", () => {
  const findings = (chart: string) =>
    compileText(sheetOver("k,v\na,1\nb,3", `charts: {c: {from: calls, ${chart}}}\n`)).findings;
  const [plain] = findings("draw: bars, x: k, y: v, tooltip: v");
  expect(plain).toMatchObject({ code: "plain-words", severity: "warning", fix: { title: "write [v]" } });
  expect(findings("draw: bars, x: k, y: v, tooltip: 'v of {k}'").map(({ code }) => code)).not.toContain("plain-words");
  const format = (text: string) => findings(`draw: figure, value: sum(v), format: '${text}'`)[0]?.message;
  expect(format("#,##0.0")).toContain('here it is ",.1f"');
  expect(format("0.00")).toContain('here it is ".2f"');
  expect(["0", "0%", ".1f"].map(format)).toEqual([undefined, undefined, undefined]);
});

test("names that are turned round, a sheet of no workbook, a number of tracks and the look of a value are told", () => {
  const findings = (rest: string, table = "") =>
    compileText(
      `still: 1\nreport: R\ntables:\n  calls:\n    rows: |\n      k,v\n      a,1\n${table}charts:\n  c: {from: calls, draw: bars, x: k, y: sum(v)}\n${rest}`,
    ).findings;
  const [renamed] = findings("", "    steps:\n      - rename: {kind: k}\n");
  expect(renamed).toMatchObject({ code: "wrong-order", message: "the old name stands first: {k: kind}" });
  expect(renamed?.fix?.title).toBe("turn the names round");
  const [track] = findings("pages:\n  - page: P\n    columns: 2\n    grid: c c\n");
  expect(track?.fix?.edits[0]?.text).toBe("1fr 1fr");
  const [look] = findings("controls:\n  f: {pick: v, from: calls, as: slider}\n");
  expect(look?.fix?.edits[0]?.text).toBe("range");
});

test("looks that nothing in a chart can take are told, and colours of values that are nearly there", () => {
  const told = (chart: string) =>
    compileText(sheetOver("k,v\ngrain,1\nfuel,3", `charts: {c: {from: calls, ${chart}}}\n`))
      .findings.filter(({ code }) => code === "no-effect")
      .map(({ message, severity }) => [message, severity]);
  expect(told("draw: points, x: v, y: v, stacking: sum")).toEqual([
    [expect.stringContaining("nothing here is stacked"), "warning"],
  ]);
  expect(told("draw: bars, x: k, y: sum(v), stacking: percent, color: k")).toEqual([]);
  expect(told("draw: points, x: v, y: v, colors: wharf")[0]?.[0]).toContain("there is no color: here");
  expect(told("draw: points, x: v, y: v, color: k, colors: {grane: '#123456'}")[0]?.[0]).toContain(
    "did you mean grain?",
  );
  expect(told("draw: points, x: v, y: v, color: k, colors: {grain: '#123456', timber: '#654321'}")).toEqual([]);
  const panels = compileText(
    sheetOver("k,v\na,1", "charts: {c: {from: calls, draw: points, x: v, y: v, panels: 3}}\n"),
  );
  expect(panels.findings[0]?.message).toContain("panels: {by: COLUMN, across: 3}");
});
