import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { Model } from "../model/model";
import { drawnIds } from "../query/drawn";
import { channelValues } from "../query/values";
import { valueAt } from "../table/column";
import { compileText } from "../testing/compile-text";

/** Places look up counts that are made of trees: from trees to places and back. */
interface Rows {
  wards: string[];
  trees: { ward: string; kind: string; tall: number }[];
}

const sheet = ({ wards, trees }: Rows, map = "from: wards\n    ", unmatched = "keep") => `still: 1
report: T
tables:
  wards:
    rows: |
      ward,people
${wards.map((ward, at) => `      ${ward},${at + 1}`).join("\n")}
  trees:
    rows: |
      ward,kind,tall
${trees.map(({ ward, kind, tall }) => `      ${ward},${kind},${tall}`).join("\n")}
  counts:
    from: trees
    steps: [{group: {by: [ward], get: {n: count(), top: max(tall)}}}]
  map:
    ${map}steps:
      - join: {table: counts, on: ward, get: [n, top], unmatched: ${unmatched}}
      - add: {per: n / people}
controls:
  kind: {pick: kind, from: trees}
charts:
  places: {from: map, draw: table, columns: [ward, n, top, per]}
  kinds: {from: trees, draw: bars, x: kind, y: count()}
  trees_here: {from: trees, draw: table, columns: [ward, kind, tall]}
links:
  - rows on places by ward -> filter kinds, trees_here
  - click on kinds -> filter places
`;

/** The map's rows where it is read itself, and not made of another table. */
const READ = ({ wards }: Rows) =>
  `rows: [${wards.map((ward, at) => `{ward: ${ward}, people: ${at + 1}}`).join(", ")}]\n    `;

function modelOf(text: string): Model {
  const compiled = compileText(text);
  expect(compiled.findings.filter(({ severity }) => severity === "error").map(({ message }) => message)).toEqual([]);
  // As in a dashboard: nothing but what is packed.
  return new Model(JSON.parse(JSON.stringify(compiled.plan)) as typeof compiled.plan, compiled.tables);
}

function shown(model: Model, piece: string) {
  const found = model.plainAnswer(piece);
  if (!found) throw new Error("no answer");
  const { query } = found.answer.prepared;
  const names = Object.keys(query.channels);
  const columns = names.map((name) => channelValues(name, found.answer, found.all));
  return [...drawnIds(found.answer, "")].map((row) => columns.map((column) => valueAt(column, row)));
}

/** By hand, row by row. */
function recount({ wards, trees }: Rows, kind?: string) {
  return wards.map((ward, at) => {
    const own = trees.filter((tree) => tree.ward === ward && (kind === undefined || tree.kind === kind));
    if (own.length === 0) return [ward, null, null, null];
    return [ward, own.length, Math.max(...own.map(({ tall }) => tall)), own.length / (at + 1)];
  });
}

const WARDS = ["Ashby", "Birch", "Cove"];
const rows: fc.Arbitrary<Rows> = fc.record({
  wards: fc.subarray(WARDS, { minLength: 1 }),
  trees: fc.array(
    fc.record({
      ward: fc.constantFrom(...WARDS, "Nowhere"),
      kind: fc.constantFrom("oak", "lime"),
      tall: fc.integer({ min: 1, max: 30 }),
    }),
    { minLength: 1, maxLength: 20 },
  ),
});

describe("what was looked up in a table that is made of others", () => {
  test("is made anew of the rows left, and leads back to them", () => {
    fc.assert(
      fc.property(rows, fc.boolean(), fc.constantFrom("oak", "lime"), (given, isRead, kind) => {
        const model = modelOf(isRead ? sheet(given, READ(given)) : sheet(given));
        expect(shown(model, "places")).toEqual(recount(given));
        model.engine.select("kinds", { keys: [{ kind }] });
        expect(shown(model, "places")).toEqual(recount(given, kind));
        // A control does the same, together with it or alone.
        model.engine.select("kinds", undefined);
        model.engine.select("kind", { keys: [{ kind }] });
        expect(shown(model, "places")).toEqual(recount(given, kind));
        const ward = given.wards[0] as string;
        model.engine.select("places", { keys: [{ ward }] });
        const here = given.trees.filter((tree) => tree.ward === ward && tree.kind === kind);
        expect(shown(model, "trees_here")).toEqual(here.map((tree) => [tree.ward, tree.kind, tree.tall]));
        model.engine.select("kind", undefined);
        expect(shown(model, "trees_here").length).toBe(given.trees.filter((tree) => tree.ward === ward).length);
      }),
      { numRuns: 60 },
    );
  });
  test("leaves rows out that find nothing any more, where these are dropped", () => {
    const given: Rows = {
      wards: ["Ashby", "Birch"],
      trees: [
        { ward: "Ashby", kind: "oak", tall: 3 },
        { ward: "Birch", kind: "lime", tall: 4 },
      ],
    };
    const model = modelOf(sheet(given, undefined, "drop"));
    model.engine.select("kinds", { keys: [{ kind: "lime" }] });
    expect(shown(model, "places")).toEqual([["Birch", 1, 4, 0.5]]);
    // What is picked there is the row of all of them.
    model.engine.select("places", { rows: [1] });
    expect(shown(model, "trees_here")).toEqual([["Birch", "lime", 4]]);
  });
});
