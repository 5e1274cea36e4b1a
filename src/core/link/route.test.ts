import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { linkMatrix } from "../look/matrix";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";
import { passAcross, routeBetween, type TableFamily } from "./route";

const families: Record<string, TableFamily> = {
  calls: { ties: ["berths"] },
  long: { from: "calls" },
  berths: {},
  trips: { ties: ["stops"] },
  days: { from: "trips" },
  stops: { ties: ["towns"] },
  fares: { ties: ["stops"] },
  towns: { ties: ["counties"] },
  counties: {},
  moles: { from: "berths" },
  crews: {},
};
const route = (from: string, to: string) => routeBetween(from, to, (name) => families[name]);

describe("ways between tables", () => {
  test("tables of one family meet in the nearest that both are made from", () => {
    expect(route("long", "calls")).toEqual({ up: "calls", down: "calls" });
    expect(route("calls", "calls")).toEqual({ up: "calls", down: "calls" });
  });
  test("others meet where one looked something up in the other, both ways", () => {
    const tie = { left: "calls", right: "berths" };
    expect(route("long", "moles")).toEqual({ up: "calls", down: "berths", tie });
    expect(route("moles", "calls")).toEqual({ up: "berths", down: "calls", tie });
  });
  test("look-ups that follow one another are one way, down to what looked up and up to what was found", () => {
    const tie = { left: "trips", right: "stops" };
    expect(route("towns", "days")).toEqual({ up: "stops", down: "trips", tie, via: "stops" });
    expect(route("counties", "trips")).toEqual({ up: "stops", down: "trips", tie, via: "stops" });
    expect(route("counties", "stops")).toEqual({
      up: "towns",
      down: "stops",
      tie: { left: "stops", right: "towns" },
      via: "towns",
    });
    expect(route("days", "towns")).toEqual({
      up: "stops",
      down: "towns",
      tie: { left: "stops", right: "towns" },
      via: "stops",
    });
    expect(route("days", "counties")).toEqual({
      up: "towns",
      down: "counties",
      tie: { left: "towns", right: "counties" },
      via: "towns",
    });
  });
  test("what two tables have looked up does not tie them", () => {
    expect(route("trips", "fares")).toBeUndefined();
    expect(route("fares", "days")).toBeUndefined();
  });
  test("tables that have nothing to do with each other do not meet", () => {
    expect(route("crews", "calls")).toBeUndefined();
  });
  test("a choice goes to all rows that found one of it, and back to what they found", () => {
    const match = Int32Array.of(1, 1, -1, 0);
    expect([...passAcross(Uint8Array.of(0, 1, 1), match, true, 4)]).toEqual([1, 1, 0, 0]);
    expect([...passAcross(Uint8Array.of(0, 1, 1, 0), match, false, 3)]).toEqual([0, 1, 0]);
    expect([...passAcross(Uint8Array.of(1), Float64Array.of(Number.NaN, 0), true, 2)]).toEqual([0, 1]);
  });
});

interface Calls {
  calls: { berth: string; tonnes: number }[];
  berths: { name: string; side: string }[];
}

const sheet = ({ calls, berths }: Calls, steps = "", after = "", charts = "") => `still: 1
report: T
tables:
  calls:
    rows: |
      berth,tonnes
${calls.map(({ berth, tonnes }) => `      ${berth},${tonnes}`).join("\n")}
    steps:
      - join: {table: berths, on: {berth: name}, get: [side]}
${steps}  berths:
    rows: |
      name,side
${berths.map(({ name, side }) => `      ${name},${side}`).join("\n")}
${after}controls:
  side: {pick: side, from: berths}
charts:
  each: {from: calls, draw: bars, y: berth, x: sum(tonnes)}
  list: {from: berths, draw: table, columns: [name, side]}
  sides: {from: berths, draw: bars, y: side, x: count()}
${charts}links:
  - click on each -> filter list, sides
  - click on sides -> filter each
`;

function modelOf(text: string): Model {
  const compiled = compileText(text);
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  return new Model(compiled.plan, compiled.tables);
}

/** How many rows a piece is answered from. */
const rowsIn = (model: Model, piece: string) =>
  model.askedBy(piece).map((asked) => [...model.engine.answer(asked).counts].reduce((sum, count) => sum + count, 0))[0];

const HARBOUR: Calls = {
  calls: [
    { berth: "North", tonnes: 5 },
    { berth: "South", tonnes: 7 },
    { berth: "North", tonnes: 1 },
    { berth: "Nowhere", tonnes: 9 },
  ],
  berths: [
    { name: "North", side: "sea" },
    { name: "South", side: "land" },
    { name: "East", side: "sea" },
  ],
};

describe("selections travel through a look-up", () => {
  test("from the rows that looked up to those that they found, and the other way", () => {
    const model = modelOf(sheet(HARBOUR));
    model.engine.select("each", { keys: [{ berth: "North" }] });
    expect([rowsIn(model, "list"), rowsIn(model, "sides"), rowsIn(model, "each")]).toEqual([1, 1, 4]);
    model.engine.select("each", undefined);
    model.engine.select("sides", { keys: [{ side: "sea" }] });
    expect([rowsIn(model, "each"), rowsIn(model, "list")]).toEqual([2, 3]);
    // It leaves the list out, which it could filter: what is left of the report is everything.
    expect(model.counts()).toEqual({ calls: { left: 4, all: 4 }, berths: { left: 3, all: 3 } });
  });
  test("and the rows left are those of selections that filter every chart they could", () => {
    const model = modelOf(sheet(HARBOUR).replace("click on sides -> filter each", "click on sides -> filter all"));
    model.engine.select("sides", { keys: [{ side: "sea" }] });
    expect(model.counts()).toEqual({ calls: { left: 2, all: 4 }, berths: { left: 2, all: 3 } });
    model.engine.select("sides", undefined);
    model.engine.select("side", { keys: [{ side: "land" }] });
    expect(model.counts()).toEqual({ calls: { left: 1, all: 4 }, berths: { left: 1, all: 3 } });
  });
  test("a control on the look-up table filters what was looked up in it", () => {
    const model = modelOf(sheet(HARBOUR));
    model.engine.select("side", { keys: [{ side: "land" }] });
    expect([rowsIn(model, "each"), rowsIn(model, "list")]).toEqual([1, 1]);
  });
  test("only the way that a link takes is packed", () => {
    const text = sheet(HARBOUR);
    const tied = compileText(text);
    expect(tied.plan.tables.find(({ name }) => name === "calls")).toMatchObject({
      ties: { berths: "row in berths" },
      columns: { "row in berths": "number" },
    });
    expect([...(tied.neededBy.get("calls")?.get("row in berths") ?? [])].sort()).toEqual(["each", "side", "sides"]);
    const alone = text.replace(/controls:[\s\S]*?charts:/, "charts:").replace(/links:[\s\S]*$/, "");
    // Rows go along whatever is shown of them.
    const untied = compileText(`${alone}style: {tables: whole}\n`);
    expect(untied.plan.tables.map(({ name, ties, columns }) => [name, ties, Object.keys(columns).sort()])).toEqual([
      ["berths", undefined, ["name", "side"]],
      ["calls", undefined, ["berth", "tonnes"]],
    ]);
  });
  test("the square of links knows it", () => {
    const compiled = compileText(
      sheet(HARBOUR, "", '  crews: {rows: "n\\n1"}\n', "  crew: {from: crews, draw: figure, value: count()}\n"),
    );
    const cells = Object.fromEntries(
      linkMatrix(compiled)
        .rows.find(({ selection }) => selection === "each")
        ?.cells.map((cell, at) => [linkMatrix(compiled).targets[at]?.name, cell.type]) ?? [],
    );
    expect(cells).toEqual({ each: "itself", list: "does", sides: "does", crew: "impossible" });
  });
  test("after rows were merged there is no way, which is said", () => {
    const { findings } = compileText(sheet(HARBOUR, "      - group: {by: berth, get: {tonnes: sum(tonnes)}}\n"));
    expect(findings.find(({ code }) => code === "effect-here")?.message).toContain(
      "list is drawn from berths, which shares no rows with calls; tables are tied by a join",
    );
  });
  test("tables made further down on either side are reached", () => {
    const model = modelOf(
      sheet(
        HARBOUR,
        "      - sort: -tonnes\n      - keep: tonnes > 1\n",
        "  totals: {from: calls, steps: [{group: {by: side, get: {n: count()}}}]}\n",
        "  grouped: {from: totals, draw: table, columns: [side, n]}\n",
      ).replace("-> filter each", "-> filter each, grouped"),
    );
    model.engine.select("sides", { keys: [{ side: "sea" }] });
    expect(rowsIn(model, "each")).toBe(1);
    expect(rowsIn(model, "grouped")).toBe(1);
  });
  test("a join that runs in the dashboard keeps its ties", () => {
    const text = sheet(HARBOUR)
      .replace("  calls:\n", "  raw:\n")
      .replace("    steps:\n", "  calls:\n    from: raw\n    steps:\n")
      .replace("charts:\n", "charts:\n  whole: {from: raw, draw: bars, y: berth, x: count()}\n")
      .replace("links:\n", "links:\n  - click on whole -> filter each\n");
    const model = modelOf(text);
    expect(compileText(text).plan.tables.find(({ name }) => name === "calls")).toMatchObject({
      from: "raw",
      ties: { berths: null },
    });
    model.engine.select("sides", { keys: [{ side: "land" }] });
    expect(rowsIn(model, "each")).toBe(1);
  });

  const names = fc.constantFrom("a", "b", "c", "d", "e");
  const harbours = fc.record({
    calls: fc.array(fc.record({ berth: names, tonnes: fc.integer({ min: 0, max: 9 }) }), {
      minLength: 1,
      maxLength: 20,
    }),
    berths: fc.uniqueArray(fc.record({ name: names, side: fc.constantFrom("sea", "land") }), {
      minLength: 1,
      maxLength: 4,
      selector: ({ name }) => name,
    }),
  });
  test("as looking each row up by hand says", () => {
    fc.assert(
      fc.property(harbours, fc.integer({ min: 0, max: 9 }), (harbour, least) => {
        const model = modelOf(sheet(harbour, `      - keep: tonnes >= ${least}\n      - sort: -tonnes\n`));
        const calls = harbour.calls.filter(({ tonnes }) => tonnes >= least);
        const sideOf = (berth: string) => harbour.berths.find(({ name }) => name === berth)?.side;
        model.engine.select("sides", { keys: [{ side: "sea" }] });
        expect(rowsIn(model, "each") ?? 0).toBe(calls.filter(({ berth }) => sideOf(berth) === "sea").length);
        model.engine.select("sides", undefined);
        model.engine.select("each", { keys: [{ berth: "a" }] });
        expect(rowsIn(model, "list") ?? 0).toBe(
          harbour.berths.filter(({ name }) => name === "a" && calls.some(({ berth }) => berth === name)).length,
        );
      }),
      { numRuns: 60 },
    );
  });
});
