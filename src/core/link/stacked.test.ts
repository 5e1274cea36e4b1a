import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { Model } from "../model/model";
import { compileText } from "../testing/compile-text";

const block = (rows: readonly { berth: string; tonnes: number }[]) => `
      berth,tonnes
${rows.map(({ berth, tonnes }) => `      ${berth},${tonnes}`).join("\n")}`;

function modelOf(text: string): Model {
  const compiled = compileText(text);
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  return new Model(compiled.plan, compiled.tables);
}

/** How many rows a piece is answered from. */
const rowsIn = (model: Model, piece: string) =>
  model.askedBy(piece).map((asked) => [...model.engine.answer(asked).counts].reduce((sum, count) => sum + count, 0))[0];

const WEST = [
  { berth: "North", tonnes: 5 },
  { berth: "South", tonnes: 7 },
];
const EAST = [
  { berth: "North", tonnes: 1 },
  { berth: "Quay", tonnes: 2 },
  { berth: "Quay", tonnes: 3 },
];

const CHARTS = `charts:
  west_berths: {from: west, draw: bars, y: berth, x: sum(tonnes)}
  east_berths: {from: east, draw: bars, y: berth, x: sum(tonnes)}
  all_berths: {from: both, draw: bars, y: berth, x: sum(tonnes)}
links:
  - click on west_berths -> filter all_berths
  - click on east_berths -> filter all_berths
  - click on all_berths -> filter west_berths, east_berths
`;

/** Two tables of their own, and one in which both stand: read itself, or made from the first. */
const read = (west = WEST, east = EAST, own = false) => `still: 1
report: T
tables:
  west:
    rows: |${block(west)}
  east:
    rows: |${block(east)}
  both:
${own ? `    rows: |${block(west)}` : "    from: west"}
    steps: [{stack: [east]}]
${own ? CHARTS.replace("  - click on west_berths -> filter all_berths\n", "").replace("filter west_berths, ", "filter ") : CHARTS}`;

describe("a stack and selections", () => {
  test("what is picked in one table narrows its own part, and the other's rows stay", () => {
    const model = modelOf(read());
    model.engine.select("west_berths", { keys: [{ berth: "North" }] });
    expect(rowsIn(model, "all_berths")).toBe(4);
    model.engine.select("west_berths", undefined);
    model.engine.select("east_berths", { keys: [{ berth: "Quay" }] });
    expect(rowsIn(model, "all_berths")).toBe(4);
    model.engine.select("west_berths", { keys: [{ berth: "South" }] });
    expect(rowsIn(model, "all_berths")).toBe(3);
  });
  test("what is picked in the stack reaches each table by its own rows", () => {
    const model = modelOf(read());
    model.engine.select("all_berths", { keys: [{ berth: "Quay" }] });
    expect([rowsIn(model, "west_berths") ?? 0, rowsIn(model, "east_berths")]).toEqual([0, 2]);
    model.engine.select("all_berths", { keys: [{ berth: "North" }] });
    expect([rowsIn(model, "west_berths"), rowsIn(model, "east_berths")]).toEqual([1, 1]);
  });
  test("a table with rows of its own that stacks another is reached in that part", () => {
    const model = modelOf(read(WEST, EAST, true));
    model.engine.select("east_berths", { keys: [{ berth: "North" }] });
    expect(rowsIn(model, "all_berths")).toBe(3);
    model.engine.select("all_berths", { keys: [{ berth: "Quay" }] });
    expect(rowsIn(model, "east_berths")).toBe(2);
  });
  test("a step that merges the stack is run again over what is left of the part", () => {
    const model = modelOf(
      `${read().replace("[{stack: [east]}]", "[{stack: [east]}, {group: {by: berth, get: {tonnes: sum(tonnes), n: count()}}}]").replace("x: sum(tonnes)}\nlinks", "x: sum(n)}\nlinks")}`,
    );
    const counted = () => {
      const asked = model.askedBy("all_berths")[0];
      const answer = asked && model.engine.answer(asked);
      return Object.fromEntries(Array.from(answer?.counts ?? [], (_, group) => [group, answer?.values[0]?.[group]]));
    };
    expect(Object.values(counted())).toEqual([2, 1, 2]);
    model.engine.select("east_berths", { keys: [{ berth: "Quay" }] });
    expect(Object.values(counted()).sort()).toEqual([1, 1, 2]);
    model.engine.select("east_berths", undefined);
    model.engine.select("west_berths", { keys: [{ berth: "South" }] });
    expect(Object.values(counted()).sort()).toEqual([1, 1, 2]);
  });
  test("a pick in a table that both parts are made from narrows both, and one in the stack goes up by both", () => {
    const model = modelOf(`still: 1
report: T
tables:
  calls:
    rows: |${block([...WEST, ...EAST])}
  west: {from: calls, steps: [{keep: tonnes >= 5}]}
  east: {from: calls, steps: [{keep: tonnes < 5}, {sort: -tonnes}]}
  both: {from: west, steps: [{stack: [east]}]}
controls:
  berth: {pick: berth, from: calls}
charts:
  each: {from: calls, draw: bars, y: berth, x: count()}
${CHARTS.slice(8).replace("links:\n", "links:\n  - click on each -> filter all_berths, west_berths\n").replace("filter west_berths, east_berths", "filter each, west_berths, east_berths")}`);
    model.engine.select("each", { keys: [{ berth: "North" }] });
    expect([rowsIn(model, "all_berths"), rowsIn(model, "west_berths")]).toEqual([2, 1]);
    model.engine.select("each", undefined);
    model.engine.select("berth", { keys: [{ berth: "Quay" }] });
    expect(rowsIn(model, "all_berths")).toBe(2);
    model.engine.select("berth", undefined);
    model.engine.select("all_berths", { keys: [{ berth: "North" }] });
    expect([rowsIn(model, "each"), rowsIn(model, "west_berths"), rowsIn(model, "east_berths")]).toEqual([2, 1, 1]);
    model.engine.select("all_berths", undefined);
    model.engine.select("east_berths", { keys: [{ berth: "North" }] });
    expect(rowsIn(model, "all_berths")).toBe(3);
  });
  const rows = fc.array(fc.record({ berth: fc.constantFrom("a", "b", "c"), tonnes: fc.integer({ min: 0, max: 9 }) }), {
    minLength: 1,
    maxLength: 12,
  });
  test("as looking at each part by hand says", () => {
    fc.assert(
      fc.property(
        rows,
        rows,
        fc.constantFrom("a", "b", "c"),
        fc.constantFrom("a", "b", "c"),
        (west, east, one, other) => {
          const model = modelOf(read(west, east));
          const of = (list: typeof west, berth: string) => list.filter((row) => row.berth === berth).length;
          model.engine.select("west_berths", { keys: [{ berth: one }] });
          model.engine.select("east_berths", { keys: [{ berth: other }] });
          expect(rowsIn(model, "all_berths") ?? 0).toBe(of(west, one) + of(east, other));
          model.engine.select("west_berths", undefined);
          model.engine.select("east_berths", undefined);
          model.engine.select("all_berths", { keys: [{ berth: one }] });
          expect([rowsIn(model, "west_berths") ?? 0, rowsIn(model, "east_berths") ?? 0]).toEqual([
            of(west, one),
            of(east, one),
          ]);
        },
      ),
      { numRuns: 60 },
    );
  });
});
