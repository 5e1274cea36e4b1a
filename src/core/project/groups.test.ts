import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { figureParts } from "../chart/figure-texts";
import type { NotePlan } from "../chart/plan";
import { compile } from "../compile/compile";
import { buildDashboard } from "../dashboard/build";
import { Model } from "../model/model";
import { nameAt } from "../query/categories";
import { LayerValues } from "../query/values";
import { writeAt } from "../query/write";
import { type DashboardFile, readDashboardFile } from "./dashboard-file";
import { isFinished } from "./groups";
import { reopened } from "./reopen";

const MONTHS = ["2024-01-10", "2024-02-10", "2024-04-20", "2024-05-01"];
const WORDS = ["canary1", "canary2", "canary3", "canary4", "canary5"];
const CSV = `who,kind,side,n,took,day,lone,lon,lat
${Array.from({ length: 40 }, (_, row) =>
  [
    WORDS[row % 5],
    ["x", "y", ""][row % 3],
    row % 2 ? "north" : "south",
    row % 7 ? row * 1.25 : "",
    `0:${10 + (row % 40)}:07`,
    MONTHS[row % 4],
    row,
    (row % 4) / 2 - 3,
    55 + (row % 3),
  ].join(","),
).join("\n")}
`;

const head = (more = "") => `still: 1
report: R
tables:
  t:
    read: t.csv
    label: visits
    columns:
      n: {label: Number, unit: kg, format: ",.2f"}
      took: {type: duration}
      kind: {label: Kind of it, colors: {x: "#a07f1a"}, order: [y, x]}
${more}`;

const square = (x: number, y: number) => [
  [
    [x, y],
    [x, y + 1],
    [x + 1, y + 1],
    [x + 1, y],
    [x, y],
  ],
];
const LAND = JSON.stringify({
  type: "FeatureCollection",
  features: WORDS.map((who, at) => ({
    type: "Feature",
    properties: { name: who },
    geometry: { type: "Polygon", coordinates: square(at / 3 - 3, 55 + (at % 2)) },
  })),
});

const files = new Map([
  ["t.csv", CSV],
  ["land.geojson", LAND],
  ["house.style.yaml", "accent: '#7a3b12' # canary\nlogo: logo.svg\n"],
  ["logo.svg", '<svg xmlns="http://www.w3.org/2000/svg"/>'],
]);
const bytesOf = (text: string | undefined) => (text === undefined ? undefined : new TextEncoder().encode(text));

function fileOf(text: string): DashboardFile {
  const { html = "", findings } = buildDashboard(
    { text, fileName: "r", readFile: (path) => bytesOf(files.get(path)), listFiles: () => [...files.keys()] },
    { viewer: () => "" },
  );
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  const file = readDashboardFile(html);
  if (!file) throw new Error("no file");
  return file;
}

/** What the sheet makes of its rows where all of them go along. */
function withRows(text: string): Model {
  const { plan, tables } = compile({
    text: `${text}style: {tables: whole}\n`,
    fileName: "r",
    readFile: (path) => bytesOf(files.get(path)),
  });
  return new Model(plan, tables);
}

/** The report that is made of a file, and what its pieces show. */
function openedFrom(file: DashboardFile) {
  const again = reopened(file, "r");
  if (!again) throw new Error("not opened");
  const { text, files: own } = again.project;
  const { plan, tables, findings } = compile({
    text,
    fileName: "r",
    readFile: (path) => own.get(path),
    listFiles: () => [...own.keys()],
  });
  expect(findings.filter(({ severity }) => severity === "error")).toEqual([]);
  return { ...again, shown: shownBy(new Model(plan, tables)) };
}

/** The text of a note with the values that stand in it, whatever these are called. */
function noteText(model: Model, name: string, { text }: NotePlan): string {
  const found = model.plainAnswer(name);
  const values = found && new LayerValues(found.answer, found.all);
  return text.replace(/\{([^}]*)\}/g, (_, inside: string) => {
    const [channel, column] = [found?.answer.prepared.query.channels[inside], values?.get(inside)];
    return channel && column ? writeAt(channel, column, 0) : (model.words(name)[inside] ?? "");
  });
}

function shownBy(model: Model) {
  return model.plan.pieces.map(({ name, plan }) => {
    const words = model.words(name);
    const input = model.chartInput(name, 480, 300, new Set());
    if (input) return [name, words.title, drawChart(input).scene];
    const found = model.plainAnswer(name);
    if (!found) throw new Error(`${name} is not answered`);
    if (plan.type === "note") return [name, noteText(model, name, plan)];
    if (plan.type === "figure") return [name, words.title, figureParts(plan, found, model.sparkAnswer(name))];
    const values = new LayerValues(found.answer, found.all);
    const asked = Object.entries(found.answer.prepared.query.channels).map(([channel, { label, unit, format }]) => {
      const column = values.get(channel);
      return [
        label,
        unit,
        format,
        column?.kind === "text" ? Array.from(column.codes, (_, id) => nameAt(column, id)) : column,
      ];
    });
    return [
      name,
      words.title,
      asked,
      plan.type === "table" ? plan.columns.map(({ key, adds }) => [key, adds]) : plan.type,
    ];
  });
}

const finishedIn = ({ plan }: DashboardFile) => plan.pieces.filter(isFinished).map(({ name }) => name);

describe("pieces that were packed as their groups", () => {
  test.each([
    ["bars sorted by what they do not show", "{from: t, draw: bars, y: kind, x: sum(n), sort: {y: -median(n)}}"],
    ["bars sorted by a sum, in parts", "{from: t, draw: bars, y: kind, x: sum(n), color: side, sort: {y: sum(n)}}"],
    ["counts, by a formula", `{from: t, draw: bars, x: "if(n > 20, \\"more\\", \\"less\\")", y: count()}`],
    ["few counts, on an axis without halves", `{from: t, keep: n < 2, draw: bars, x: who, y: count()}`],
    ["equal bins", `{from: t, draw: bars, x: "bin(n, 7)", y: count()}`],
    ["bins of a width", `{from: t, draw: bars, x: "bin_width(n, 5)", y: mean(n), color: kind}`],
    ["periods with a gap", "{from: t, draw: line, x: by_month(day), y: sum(n), color: kind}"],
    ["parts of the calendar", "{from: t, draw: heatmap, x: month(day), y: weekday(day), color: count()}"],
    ["what runs on over groups", "{from: t, draw: line, x: by_month(day), y: running_total(sum(n))}"],
    ["shares", "{from: t, draw: bars, x: side, y: share(count()), color: kind}"],
    ["measures of measures", "{from: t, draw: bars, x: who, y: 100 * sum(n) / count()}"],
    ["slices", "{from: t, draw: slices, color: kind, value: sum(n)}"],
    ["lengths of time", "{from: t, draw: bars, y: who, x: mean(took)}"],
    ["a map", "{from: t, draw: points, lon: lon, lat: lat, size: sum(n), map: {under: [world]}}"],
    ["small charts", "{from: t, draw: bars, x: kind, y: sum(n), panels: {across: side, down: who}}"],
    ["small charts of one formula", "{from: t, draw: bars, x: kind, y: distinct(who), panels: side}"],
    ["tooltips of their own", "{from: t, draw: bars, x: kind, y: sum(n), tooltip: [kind, max(day), stdev(n)]}"],
    ["tooltips in words", "{from: t, draw: bars, x: kind, y: sum(n), tooltip: '{kind}: {sum(n)} of {count()}'}"],
    [
      "layers under a tooltip",
      "{from: t, x: kind, y: sum(n), tooltip: '{kind}: {sum(n)}', layers: [{draw: bars}, {draw: points}]}",
    ],
    ["a list with totals", "{from: t, draw: table, columns: [kind, count(), sum(n)], totals: true}"],
    ["layers", "{from: t, x: by_month(day), y: sum(n), color: kind, layers: [{draw: line}, {draw: points, size: 18}]}"],
    [
      "layers apart",
      `{from: t, x: who, layers: [{draw: bars, y: sum(n)}, {draw: points, y: median(n), keep: n > 3, color: "#123456"}]}`,
    ],
    ["a rule over bars", "{from: t, x: who, y: sum(n), layers: [{draw: bars}, {draw: rules, y: 40}]}"],
    ["a figure", "{from: t, draw: figure, value: median(n), against: median(n) of all, by: side}"],
    ["a figure with its line", "{from: t, draw: figure, value: sum(n), spark: by_month(day)}"],
    [
      "a middle with its line",
      "{from: t, draw: figure, value: median(n), against: mean(n) of all, spark: by_month(day)}",
    ],
    [
      "a sum compared in percent, with its line",
      "{from: t, draw: figure, value: sum(n), against: sum(n) of all, spark: by_month(day)}",
    ],
    [
      "sums compared with another number, with their lines",
      "{from: t, draw: figure, value: sum(n), against: sum(lone), by: kind, spark: by_month(day)}",
    ],
    ["several with their lines", "{from: t, draw: figure, value: mean(took), by: kind, spark: by_month(day)}"],
    [
      "totals of what adds up alone",
      "{from: t, draw: table, columns: [kind, mean(n), sum(n), count() as lines, max(lone)], totals: true}",
    ],
    ["totals by name", "{from: t, draw: table, columns: [kind, mean(n), sum(n)], totals: [mean(n)]}"],
    [
      "tooltips of several values",
      "{from: t, draw: bars, x: kind, y: sum(n), tooltip: [kind, who, lone, took, by_month(day)]}",
    ],
    ["several values in words", "{from: t, draw: bars, x: who, y: sum(n), tooltip: '{who}: {side}, {kind}, {n}'}"],
    ["bins whose ends have no rows", `{from: t, keep: n > 8 and n < 30, draw: bars, x: "bin(n, 7)", y: count()}`],
    [
      "squares whose ends have no rows",
      `{from: t, keep: n < 30, draw: heatmap, x: "bin(n, 6)", y: "bin(lone, 5)", color: sum(n)}`,
    ],
    [
      "bins in layers, one of which keeps fewer rows",
      `{from: t, x: "bin(n, 7)", y: count(), layers: [{draw: bars}, {draw: points, keep: n < 12}]}`,
    ],
    ["colours of rows that are kept", `{from: t, keep: kind = "y", draw: bars, x: side, y: count(), color: kind}`],
    ["colours of who is kept", `{from: t, keep: who != "canary1", draw: bars, x: side, y: count(), color: who}`],
    [
      "colours of true and false, one of which has no rows",
      `{from: t, keep: n > 20, draw: bars, x: side, y: count(), color: "lone > 12"}`,
    ],
    [
      "a ramp measured over more rows than are kept",
      `{from: t, keep: n < 20, draw: points, x: who, y: sum(n), color: "round(lone / 10)"}`,
    ],
    ["the first ones", "{from: t, draw: bars, y: who, x: sum(n), sort: {y: -sum(n)}, top: {y: 3}}"],
    [
      "the first ones and the rest",
      "{from: t, draw: bars, y: who, x: mean(n), color: who, sort: {y: -median(n)}, top: {y: 2, rest: All others}}",
    ],
    ["the first by their own order", "{from: t, draw: bars, y: who, x: sum(n), top: {y: 2}}"],
    [
      "words with values in them",
      `{from: t, draw: bars, y: who, x: sum(n), title: "{sum(n)} by who", subtitle: "from {min(day)}, {mean(took)}", axes: {x: {title: "of {median(n)} kg"}}}`,
    ],
    [
      "a list under live words",
      '{from: t, draw: table, columns: [kind, count()], title: "{count()} of {distinct(who)}"}',
    ],
    ["a list", "{from: t, draw: table, columns: [kind, count(), median(n), sum(n) as all], cells: {all: {bar: true}}}"],
  ])("come back: %s", (_, chart) => {
    const text = head(`charts:\n  a: ${chart}\n`);
    const file = fileOf(text);
    expect(finishedIn(file)).toEqual(["a"]);
    expect(shownBy(new Model(file.plan, file.tables))).toEqual(shownBy(withRows(text)));
    const again = openedFrom(file);
    expect(again.shown).toEqual(shownBy(new Model(file.plan, file.tables)));
    // None of the rows is in the file, nor in what is made of it.
    expect(again.project.text).not.toContain("t.csv");
    expect(again.notes[0]).toBe(
      "a: drawn from its groups, which were packed without the rows; to change what is grouped, the original file is needed",
    );
    expect(new TextDecoder().decode(again.project.files.get("as-written/r.yaml"))).toBe(text);
  });

  test("come back beside others whose rows went along, with notes, house style and logo", () => {
    const file = fileOf(
      head(`  u: {from: t, steps: [{group: {by: side, get: {m: median(n)}}}]}
controls: {side: {pick: side, from: t, only: [c]}}
charts:
  a: {from: t, draw: bars, x: who, y: sum(n)}
  b: {from: u, draw: bars, x: side, y: max(m)}
  c: {from: t, draw: points, x: n, y: lone, color: kind}
notes:
  d: {text: "{total} in {n}", from: t, get: {total: sum(n), n: count()}}
style: {use: house.style.yaml}
`),
    );
    expect(finishedIn(file)).toEqual(["a", "b", "d"]);
    const again = openedFrom(file);
    expect(again.shown).toEqual(shownBy(new Model(file.plan, file.tables)));
    expect([...again.project.files.keys()].sort()).toEqual([
      "a_groups.csv",
      "as-written/r.yaml",
      "b_groups.csv",
      "d_groups.csv",
      "house.style.yaml",
      "logo.svg",
      "t.csv",
    ]);
    expect(again.notes).toEqual([
      "a, b, d: drawn from their groups, which were packed without the rows; to change what is grouped, the original file is needed",
      "t is as it was packed: the columns that its pages needed",
      "u is not in the file: nothing on its pages needed its rows",
    ]);
  });

  test("come back with panels and sorts of several layers, whatever is drawn first", () => {
    const file = fileOf(
      head(`charts:
  a: {from: t, panels: side, layers: [{draw: rules, y: 4}, {draw: bars, x: who, y: sum(n)}, {draw: points, x: who, y: max(n)}]}
  b: {from: t, y: who, sort: {y: -sum(n)}, layers: [{draw: rules, x: 6}, {draw: bars, x: sum(n)}]}
`),
    );
    expect(finishedIn(file)).toEqual(["a", "b"]);
    expect(openedFrom(file).shown).toEqual(shownBy(new Model(file.plan, file.tables)));
  });

  test("come back as regions of a map", () => {
    const file = fileOf(
      head(`  land: {read: land.geojson}
  joined: {from: t, steps: [{join: {table: land, on: {who: name}, get: [place]}}]}
charts:
  a: {from: joined, draw: regions, place: place, color: sum(n)}
`),
    );
    expect(finishedIn(file)).toEqual(["a"]);
    const again = openedFrom(file);
    expect(again.shown).toEqual(shownBy(new Model(file.plan, file.tables)));
    expect([...again.project.files.keys()].sort()).toEqual(["a_groups.csv", "as-written/r.yaml"]);
  });

  test("come back with words of settings and selections, and notes with formulas in their text", () => {
    const file = fileOf(
      head(`controls: {level: {set: 5, range: [1, 9], as: slider}, side: {pick: side, from: t, only: [c]}}
charts:
  a: {from: t, draw: bars, x: who, y: sum(n), title: "{count()} at {$level}", tooltip: '{who} {$level} {side.side}'}
  c: {from: t, draw: points, x: n, y: lone, title: "more than {$level}"}
notes:
  d: {text: "{total}, {mean(n)} and {max(took)} at {$level}", from: t, get: {total: sum(n)}}
  e: {text: "{median(n)} in all", from: t}
`),
    );
    expect(finishedIn(file)).toEqual(["a", "d", "e"]);
    const again = openedFrom(file);
    expect(again.shown).toEqual(shownBy(new Model(file.plan, file.tables)));
    expect(again.shown.slice(2)).toEqual([
      ["d", "843.75, 24.82 and 0:49:07 at 5"],
      ["e", "24.38 in all"],
    ]);
    expect(again.project.text).toContain("title: '40 at {$level}', tooltip: '{who} {$level} {side.side}'");
    expect(again.project.text).toContain("text: '{total}, {value} and {value_2} at {$level}'");
  });

  test("come back as notes whose own values keep their names", () => {
    const note = '{text: "{value} and {mean(n)}, {mean(n)}", from: t, get: {value: sum(n)}}';
    const file = fileOf(head(`notes:\n  d: ${note}\n`));
    expect(finishedIn(file)).toEqual(["d"]);
    const again = openedFrom(file);
    expect(again.shown).toEqual([["d", "843.75 and 24.82, 24.82"]]);
    expect(again.project.text).toContain("text: '{value} and {value_2}, {value_2}'");
  });

  test("keep their rows where a value in their words would be read as a formula", () => {
    const sheet = (words: string) =>
      head(`charts:\n  a: {from: t, draw: bars, x: side, y: sum(n), title: '${words}'}\n`);
    expect(finishedIn(fileOf(sheet("{first(who)} first")))).toEqual(["a"]);
    files.set("t.csv", CSV.replaceAll("canary1", "{n}"));
    expect(finishedIn(fileOf(sheet("{first(who)} first")))).toEqual([]);
    files.set("t.csv", CSV);
  });

  test("leave their rows at home, whatever these hold", () => {
    const charts = "charts:\n  a: {from: t, draw: bars, x: kind, y: distinct(who)}\n";
    const { html = "" } = buildDashboard(
      { text: head(charts), fileName: "r", readFile: (path) => bytesOf(files.get(path)) },
      { viewer: () => "" },
    );
    expect(readDashboardFile(html)?.tables.get("t")?.columns.size).toBe(0);
    expect(JSON.stringify([...(readDashboardFile(html)?.tables.get("a/groups")?.columns ?? [])])).not.toContain(
      "canary",
    );
    expect(html).not.toContain("canary");
  });
});
