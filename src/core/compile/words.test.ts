import { describe, expect, test } from "vitest";
import { drawChart } from "../chart/draw";
import { buildDashboard } from "../dashboard/build";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";

const SHEET = `still: 1
report: R
tables:
  t:
    columns: {tonnes: {label: Cargo, unit: t, format: ",.0f"}}
    rows: |
      berth,tonnes,waited
      a,1000,1
      b,2000,2
      c,4000,
controls:
  axis: {set: tonnes, of: [tonnes, waited]}
  where: {pick: berth, from: t}
charts:
  one:
    from: t
    draw: points
    x: chosen($axis)
    y: waited
    title: "{sum(tonnes)} t at {where.berth}, by {$axis}"
    subtitle: "{count()} calls"
    axes: {x: {title: "{$axis} of {count()}"}}
  bare: {from: t, draw: figure, value: count(), title: none}
notes:
  intro: {text: "**{total}** t in {n} calls <b>", from: t, get: {total: sum(tonnes), n: count()}}
  plain: {text: Just words.}
`;

function modelOf(sheet = SHEET) {
  const compiled = compileText(sheet);
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  return new Model(compiled.plan, compiled.tables);
}

const problems = (sheet: string) =>
  compileText(sheet)
    .findings.filter(({ severity }) => severity === "error")
    .map(({ code, message }) => `${code}: ${message}`);

test.each([
  ["Price a night", "mean price a night"],
  ["Price in EUR", "mean price in EUR"],
  ["Preis je Nacht", "mean Preis je Nacht"],
  ["CO2", "mean CO2"],
])("a label within other words keeps its first letter where other words are large too: %s", (label, words) => {
  const text = SHEET.replace("{label: Cargo,", `{label: "${label}",`).replace("y: waited", "y: mean(tonnes)");
  const piece = modelOf(text.replace("draw: points\n    x: chosen($axis)", "draw: bars\n    x: berth")).piece("one");
  const channel = piece?.plan.type === "chart" ? piece.plan.layers[0]?.query.channels.y : undefined;
  expect(channel?.label.toLowerCase()).toBe(words.toLowerCase());
  expect(channel?.label.slice(1)).toBe(words.slice(1));
});

describe("values in words", () => {
  test("follow what is picked and what is set", () => {
    const model = modelOf();
    expect(model.words("one")).toMatchObject({ title: "7,000 t at all, by Cargo", subtitle: "3 calls" });
    expect(model.titleOf("one")).toBe("7,000 t at all, by Cargo");
    expect(model.titleOf("intro")).toBe("Intro");
    model.engine.select("where", { keys: [{ berth: "a" }, { berth: "b" }] });
    model.engine.setSetting("axis", "waited");
    expect(model.words("one")).toMatchObject({ title: "3,000 t at a, b, by waited", subtitle: "2 calls" });
    expect(model.speakingOf("where")).toEqual(["one"]);
  });
  test("stand in notes: settings, what is picked, and formulas of the note's table", () => {
    const note =
      'notes:\n  said: {text: "{$axis} at {where.berth}: {median(waited)}, {n}", from: t, get: {n: count()}}\n';
    const model = modelOf(SHEET.replace(/notes:[\s\S]*/, note));
    expect(model.words("said")).toMatchObject({ $axis: "Cargo", "where.berth": "all", "median(waited)": "1.5" });
    expect(model.speakingOf("where")).toContain("said");
    model.engine.select("where", { keys: [{ berth: "b" }] });
    expect(model.words("said")).toMatchObject({ "where.berth": "b", "median(waited)": "2" });
    const bare = 'notes:\n  said: {text: "at {where.berth}, {count()}"}\n';
    expect(problems(SHEET.replace(/notes:[\s\S]*/, bare))).toEqual([
      "unknown-name: {count()} is none of the names under get:; write get: {count: sum(tonnes)} or another formula",
    ]);
    const wrong = 'notes:\n  said: {text: "at {where.quay}", from: t}\n';
    expect(problems(SHEET.replace(/notes:[\s\S]*/, wrong))).toEqual([
      'unknown-column: the rows of where have no column "quay"',
    ]);
  });
  test("stand in titles of axes too", () => {
    const input = modelOf().chartInput("one", 400, 200, new Set());
    const texts = input ? drawChart(input).scene.texts.map(({ text }) => text) : [];
    expect(texts).toContain("Cargo of 3");
  });
  test("name a few values of a selection, and count more of them", () => {
    const rows = ["d,1,1", "e,1,1", "f,1,1"].join("\n      ");
    const model = modelOf(SHEET.replace("c,4000,", `c,4000,\n      ${rows}`));
    model.engine.select("where", { keys: ["a", "b", "d", "e"].map((berth) => ({ berth })) });
    expect(model.words("one").title).toContain("at 4 values");
  });
  test("that cannot be told are findings at their place", () => {
    expect(problems(SHEET.replace("{sum(tonnes)}", "{tonnes}"))[0]).toContain(
      "bare-column: tonnes has one value a row",
    );
    expect(problems(SHEET.replace("{where.berth}", "{where.birth}"))[0]).toContain('no column "birth"');
    expect(problems(SHEET.replace("{total}", "{all}"))[0]).toContain("{all} is none of the names under get:");
  });
  test("none of them: a title that is not drawn is still the piece's name", () => {
    const { html = "" } = buildDashboard(
      { text: SHEET, fileName: "x", readFile: () => undefined },
      { viewer: () => "0" },
    );
    expect(html).toContain('<header class="bare"><h2 id="title-bare">T</h2></header>');
    expect(html).toContain('<strong><span data-value="total">7,000</span></strong> t in <span data-value="n">3</span>');
    expect(html).toContain("&lt;b&gt;");
  });
});
