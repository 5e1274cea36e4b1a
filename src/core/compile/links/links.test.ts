import { describe, expect, test } from "vitest";
import { placeOf } from "../../finding/place";
import { Model } from "../../model/model";
import { isoDate } from "../../table/calendar";
import { compileText, sheetOver } from "../../testing/compile-text";

const CSV = `k,c,v,w,d,e
a,x,1,10,2024-01-05,2024-01-05 10:00
b,y,2,20,2024-02-06,2024-02-06 11:00`;

const CHARTS = `charts:
  bins: {from: calls, draw: bars, x: "bin(v, 4)", y: count()}
  kinds: {from: calls, draw: bars, y: k, x: count(), color: c}
  dots: {from: calls, draw: points, x: v, y: w}
  months: {from: calls, draw: line, x: by_month(d), y: sum(w)}
  moments: {from: calls, draw: points, x: e, y: w}
  list: {from: calls, draw: table}
  totals: {from: calls, draw: table, columns: [k, sum(v)]}
  total: {from: calls, draw: figure, value: count()}
  layered:
    from: calls
    x: v
    layers:
      - {draw: points, y: w, name: low}
      - {draw: points, y: v, name: high}
`;

function linked(links: string[], rest = "") {
  const text = sheetOver(CSV, `${CHARTS}${rest}links:\n${links.map((link) => `  - ${link}\n`).join("")}`);
  const { plan, findings } = compileText(text);
  return {
    text,
    selections: plan.selections,
    errors: findings
      .filter(({ severity }) => severity === "error")
      .map(({ code, span }) => `${code} ${text.slice(span?.start, span?.end)}`),
    places: findings.map(({ span }) => placeOf(text, span?.start ?? 0)),
  };
}

const targetsOf = (links: string[], rest = "") =>
  linked(links, rest).selections.map(
    ({ name, effects }) => `${name}: ${effects.map(({ effect, target }) => `${effect} ${target}`).join(", ")}`,
  );

describe("what a gesture selects on", () => {
  const basis = (link: string) => {
    const { selections, errors } = linked([link]);
    expect(errors).toEqual([]);
    const [selection] = selections;
    return { axes: Object.keys(selection?.axes ?? {}), keys: Object.keys(selection?.keys ?? {}), by: selection?.by };
  };
  test("a brush on bins acts on what is binned", () => {
    expect(linked(["brush x on bins -> filter dots"]).selections[0]?.axes.x).toEqual({ type: "column", name: "v" });
    expect(linked(["brush x on months -> filter dots"]).selections[0]?.axes.x).toEqual({ type: "column", name: "d" });
  });
  test("a box has both axes", () => expect(basis("brush xy on dots -> filter bins").axes).toEqual(["x", "y"]));
  test("a click has the keys of its groups, or the columns of by", () => {
    expect(basis("click on kinds -> filter bins").keys).toEqual(
      ["y", "color"].map((channel) => ({ y: "k", color: "c" })[channel]),
    );
    expect(basis("click on kinds by c -> filter bins")).toMatchObject({ keys: ["c"], by: ["c"] });
    expect(basis("click on dots -> filter bins").keys).toEqual([]);
  });
  test("a legend has its colours, a grouped table its groups", () => {
    expect(basis("legend on kinds -> filter bins").keys).toEqual(["c"]);
    expect(basis("rows on totals -> filter bins").keys).toEqual(["k"]);
    expect(basis("rows on list -> filter bins").keys).toEqual([]);
  });
  test("a layer may be named", () => {
    expect(linked(["brush xy on layered.high -> filter bins"]).selections[0]?.axes.y).toEqual({
      type: "column",
      name: "v",
    });
    expect(linked(["brush xy on layered -> filter bins"]).selections[0]?.axes.y).toEqual({ type: "column", name: "w" });
    expect(linked(["brush xy on layered.middle -> filter bins"]).errors).toEqual(["unknown-layer layered.middle"]);
  });
});

describe("names of selections", () => {
  test("are those of their sources, hovers and legends apart", () => {
    expect(
      linked([
        "click on kinds -> filter bins",
        "legend on kinds -> filter dots",
        "hover x on months -> crosshair moments",
      ]).selections.map(({ name }) => name),
    ).toEqual(["kinds", "kinds.legend", "months.hover"]);
  });
  test("two unnamed on one chart are an error, named ones are not", () => {
    expect(linked(["click on dots -> filter bins", "brush xy on dots -> filter kinds"]).errors).toEqual([
      "doubled-selection dots",
    ]);
    expect(linked(["click on dots as picked -> filter bins", "brush xy on dots -> filter kinds"]).errors).toEqual([]);
    expect(linked(["click on dots as bins -> filter kinds"]).errors).toEqual(["doubled-name bins"]);
    expect(linked(["click on dots as a -> filter kinds", "click on kinds as a -> filter dots"]).errors).toEqual([
      "doubled-selection a",
    ]);
  });
});

describe("what a link does to whom", () => {
  test("all means every other chart of the family", () => {
    expect(targetsOf(["click on kinds -> filter all"])).toEqual([
      "kinds: filter bins, filter dots, filter months, filter moments, filter list, filter totals, filter total, filter layered",
    ]);
  });
  test("several effects in one sentence", () => {
    expect(targetsOf(["click on kinds -> filter dots, months, fade 0.3 bins, moments"])).toEqual([
      "kinds: filter dots, filter months, fade bins, fade moments",
    ]);
  });
  test("a crosshair runs where the axis is shared, dates and moments alike", () => {
    expect(targetsOf(["hover x on months -> crosshair all"])).toEqual(["months.hover: crosshair moments"]);
    expect(linked(["hover x on months -> crosshair dots"]).errors).toEqual(["effect-here dots"]);
    expect(linked(["hover x on months -> crosshair total"]).errors).toEqual(["effect-here total"]);
  });
  test("a zoom follows the brushed axis, and no gesture without a range", () => {
    expect(targetsOf(["brush x on months -> zoom moments"])).toEqual(["months: zoom moments"]);
    expect(linked(["brush x on months -> zoom dots"]).errors).toEqual(["effect-here dots"]);
    expect(linked(["click on kinds -> zoom dots"]).errors).toEqual(["effect-here dots"]);
    expect(linked(["hover x on months -> zoom moments"]).errors).toEqual(["effect-here moments"]);
  });
  test("only charts fade", () => {
    expect(linked(["click on kinds -> fade list"]).errors).toEqual(["effect-here list"]);
  });
  test("charts of other families share no rows", () => {
    const text = sheetOver(
      CSV,
      "  other:\n    rows: [{z: 1}]\ncharts:\n  a: {from: calls, draw: points, x: v, y: w}\n  b: {from: other, draw: points, x: z, y: z}\nlinks: [click on a -> filter b]\n",
    );
    expect(compileText(text).findings[0]).toMatchObject({ code: "effect-here" });
  });
  test("all that is nothing", () => {
    const of = (links: string) =>
      compileText(
        sheetOver(
          CSV,
          `  other:\n    rows: [{z: 1}]\ncharts:\n  a: {from: calls, draw: points, x: v, y: w}\n  b: {from: other, draw: points, x: z, y: z}\nlinks: [${links}]\n`,
        ),
      ).findings.filter(({ code }) => code === "reaches-nothing");
    expect(of("click on a -> filter all")).toMatchObject([{ severity: "warning" }]);
    expect(of("click on a -> highlight a")).toEqual([]);
  });
  test("gestures that a piece does not know", () => {
    expect(linked(["click on total -> filter bins"]).errors).toEqual(["gesture-here click on total"]);
    expect(linked(["rows on dots -> filter bins"]).errors).toEqual(["gesture-here rows on dots"]);
    expect(linked(["brush x on list -> filter bins"]).errors).toEqual(["gesture-here brush x on list"]);
    expect(linked(["lasso on list -> filter bins"]).errors).toEqual(["gesture-here lasso on list"]);
  });
});

describe("what a step has fitted", () => {
  const of = (step: string, link: string) =>
    compileText(
      sheetOver(
        CSV,
        `  fit:\n    from: calls\n    steps: [${step}]\ncharts:\n  curve: {from: fit, draw: line, x: v, y: w, series: k}\n  dots: {from: calls, draw: points, x: v, y: w}\nlinks:\n  - ${link}\n`,
      ),
    ).findings.map(({ code, message }) => [code, message]);
  const smooth = "{smooth: {x: v, y: w, by: [k]}}";
  test("stands for no rows that a brush could pick", () => {
    const said = "curve shows what the step smooth has fitted, which stands for no rows; brush a chart of rows";
    expect(of(smooth, "brush x on curve -> filter dots")).toEqual([["gesture-here", said]]);
    expect(of(`${smooth}, {sort: [v]}`, "lasso on curve -> fade dots")).toEqual([["gesture-here", said]]);
    const density = "{density: {of: v, by: [k]}}, {add: {w: density}}";
    expect(of(density, "brush xy on curve -> highlight dots")[0]?.[1]).toContain("the step density has fitted");
  });
  test("has lines and stretches of an axis all the same", () => {
    expect(of(smooth, "brush x on curve -> zoom dots")).toEqual([]);
    expect(of(smooth, "click on curve by k -> filter dots")).toEqual([]);
    expect(of("{sort: [v]}", "brush x on curve -> filter dots")).toEqual([]);
  });
});

describe("cross-filter", () => {
  test("leaves the author's own links standing and adds what they leave out", () => {
    const { selections, errors } = linked([
      "brush xy on dots -> fade bins",
      "click on kinds as own -> filter bins",
      "cross-filter calls",
    ]);
    expect(errors).toEqual([]);
    const dots = selections.find(({ name }) => name === "dots");
    expect(dots?.effects.filter(({ target }) => target === "bins")).toEqual([{ effect: "fade", target: "bins" }]);
    expect(dots?.effects.some(({ target, effect }) => target === "kinds" && effect === "filter")).toBe(true);
    expect(selections.map(({ name }) => name)).toContain("own");
  });
  test("is made on charts of that very table, and reaches all of its family", () => {
    const few = "  few:\n    from: calls\n    steps: [keep: v > 0]\n";
    const text = sheetOver(
      CSV,
      `${few}charts:\n  a: {from: calls, draw: points, x: v, y: w}\n  b: {from: few, draw: points, x: v, y: w}\n  c: {from: calls, draw: points, x: v, y: w}\nlinks: [cross-filter calls]\n`,
    );
    expect(
      compileText(text).plan.selections.map(({ name, effects }) => [name, effects.map(({ target }) => target)]),
    ).toEqual([
      ["a", ["b", "c"]],
      ["c", ["a", "b"]],
    ]);
  });
  test("of however many charts each filters the others", () => {
    const many = Array.from({ length: 40 }, (_, i) => `  p${i}: {from: calls, draw: points, x: v, y: w}\n`).join("");
    const text = `charts:\n${many}  n: {from: calls, draw: figure, value: count()}\nlinks: [cross-filter calls]\n`;
    const { plan, tables, findings } = compileText(sheetOver(CSV, text));
    expect(findings).toEqual([]);
    const model = new Model(plan, tables);
    const left = () => model.plainAnswer("n")?.answer.counts[0];
    expect(left()).toBe(2);
    model.engine.select("p39", { x: [0, 1.5] });
    expect(left()).toBe(1);
    model.engine.select("p0", { x: [1.5, 9] });
    expect(left()).toBe(0);
    model.engine.select("p39", undefined);
    expect(left()).toBe(1);
  });
});

describe("what a gesture begins with", () => {
  const startOf = (link: string) => {
    const { selections, errors } = linked([link]);
    return errors.length ? errors.map((error) => error.split(" ")[0]) : selections[0]?.start;
  };

  test("ranges, values and keys", () => {
    expect(startOf("{link: brush x on dots -> filter bins, start: [1, 3]}")).toEqual({ x: [1, 3] });
    expect(startOf("{link: brush xy on dots -> filter bins, start: {x: [1, 3], y: [10, 30]}}")).toEqual({
      x: [1, 3],
      y: [10, 30],
    });
    expect(startOf("{link: click on kinds by c -> filter bins, start: y}")).toEqual({ keys: [{ c: "y" }] });
    expect(startOf("{link: click on kinds by c -> filter bins, start: [x, y]}")).toEqual({
      keys: [{ c: "x" }, { c: "y" }],
    });
    expect(startOf("{link: click on dots -> filter bins, start: {keys: [{v: 2}]}}")).toEqual({ keys: [{ v: 2 }] });
  });

  test("an end of periods is moved out to whole ones", () => {
    const text = sheetOver(
      CSV,
      `${CHARTS}links:\n  - {link: brush x on months -> filter dots, start: [2024-01-09, 2024-01-12]}\n`,
    );
    const { plan, tables } = compileText(text);
    const days = new Model(plan, tables).engine.state("months")?.x?.map((end) => isoDate(end));
    expect(days).toEqual(["2024-01-01", "2024-02-01"]);
  });

  test("what it cannot hold is said", () => {
    expect(startOf("{link: brush xy on dots -> filter bins, start: [1, 3]}")).toEqual(["wrong-start"]);
    expect(startOf("{link: brush x on dots -> filter bins, start: [3, 1]}")).toEqual(["wrong-start"]);
    expect(startOf("{link: click on kinds -> filter bins, start: {keys: [{nothing: 1}]}}")).toEqual(["wrong-start"]);
    expect(startOf("{link: hover on dots -> highlight kinds, start: [1]}")).toEqual(["wrong-start"]);
    expect(startOf("{link: cross-filter calls, start: [1]}")).toEqual(["start-here"]);
  });
});

test("what is meant by a wrong target is told, with a fix", () => {
  const told = (link: string) => {
    const { findings } = compileText(sheetOver(CSV, `${CHARTS}links:\n  - ${link}\n`));
    const found = findings.find(({ severity }) => severity === "error");
    return [found?.message, found?.fix?.edits[0]?.text];
  };
  expect(told("click on kinds -> filter everything")[1]).toBe("all");
  expect(told("cross-filter kinds")).toEqual([
    expect.stringContaining("kinds is a chart; cross-filter takes"),
    "calls",
  ]);
  expect(told("cross-filter zzz")[0]).toContain("tables are calls");
});
