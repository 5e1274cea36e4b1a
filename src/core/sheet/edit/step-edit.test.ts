import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { applyEdits } from "../../finding/finding";
import { readTree } from "../tree";
import { sayOfColumn } from "./column-edit";
import {
  addTable,
  insertStep,
  moveStep,
  removeStep,
  replaceStep,
  type StepValue,
  stepSource,
  switchStep,
} from "./step-edit";

const SHEET = `still: 1 # the version
report: T

tables:
  calls:
    read: calls.csv
    columns:
      tonnes: number   # kept
    steps:
      # twice in the export
      - unique: [call_id]
      - keep: tonnes > 0
        why: Open calls

      - add:
          rate: tonnes / 2   # by hand
  berths: {read: berths.csv}

charts: {}
`;

const done = (text: string, edits: ReturnType<typeof insertStep>) => {
  if (!edits) throw new Error("no edit");
  return applyEdits(text, edits);
};
const tree = (text: string) =>
  readTree(text).tree as { tables: Record<string, { steps?: unknown[]; columns?: Record<string, unknown> }> };

describe("a step is written as a person would write it", () => {
  const at = (place: number, step: StepValue) => done(SHEET, insertStep(SHEET, "calls", place, step));
  test("in its place, with formulas bare", () => {
    expect(at(1, { keep: 'cargo in ["grain", "salt"]' })).toBe(
      SHEET.replace(
        "      - keep: tonnes > 0\n",
        '      - keep: cargo in ["grain", "salt"]\n      - keep: tonnes > 0\n',
      ),
    );
    expect(at(0, { sort: ["-tonnes", "berth"] })).toBe(
      SHEET.replace("      # twice", "      - sort: [-tonnes, berth]\n      # twice"),
    );
  });
  test("at the end, columns in lines of their own", () => {
    expect(
      at(3, { add: { leg: "distance_km(lat, lon, previous(lat), previous(lon))", n: "row()" }, within: ["track"] }),
    ).toBe(
      SHEET.replace(
        "  # by hand\n",
        "  # by hand\n      - add:\n          leg: distance_km(lat, lon, previous(lat), previous(lon))\n          n: row()\n        within: [track]\n",
      ),
    );
  });
  test("short maps in braces, long ones in lines", () => {
    expect(at(3, { unpivot: { columns: ["20*"], name: { year: "number" }, value: "t" } })).toContain(
      "      - unpivot: {columns: [20*], name: {year: number}, value: t}\n",
    );
    const long = at(3, {
      join: {
        table: "berths",
        on: "berth",
        get: ["latitude_of_berth", "longitude_of_berth", "deepest_draught_allowed"],
        unmatched: "drop",
      },
    });
    expect(long).toContain("      - join:\n          table: berths\n          on: berth\n");
    expect(tree(long).tables.calls?.steps?.at(-1)).toEqual({
      join: {
        table: "berths",
        on: "berth",
        get: ["latitude_of_berth", "longitude_of_berth", "deepest_draught_allowed"],
        unmatched: "drop",
      },
    });
  });
  test("into a table that had none, in lines or in braces", () => {
    expect(done(SHEET, insertStep(SHEET, "berths", 0, { keep: "known(lat)" }))).toBe(
      SHEET.replace(
        "  berths: {read: berths.csv}\n",
        "  berths:\n    read: berths.csv\n    steps:\n      - keep: known(lat)\n",
      ),
    );
    const bare = "still: 1\nreport: T\ntables:\n  t:\n    read: t.csv\n";
    expect(done(bare, insertStep(bare, "t", 0, { unique: "all" }))).toBe(
      "still: 1\nreport: T\ntables:\n  t:\n    read: t.csv\n    steps:\n      - unique: all\n",
    );
    const empty = "still: 1\ntables:\n  t:\n    read: t.csv\n    steps: []\ncharts: {}\n";
    expect(tree(done(empty, insertStep(empty, "t", 0, { unique: "all" }))).tables.t?.steps).toEqual([
      { unique: "all" },
    ]);
  });
  test("into JSON", () => {
    const json =
      '{"still": "1", "tables": {"t": {"read": "t.csv", "steps": [{"unique": "all"}]}, "u": {"read": "u.csv"}}}';
    expect(tree(done(json, insertStep(json, "t", 0, { keep: "a > 1" }))).tables.t?.steps).toEqual([
      { keep: "a > 1" },
      { unique: "all" },
    ]);
    expect(tree(done(json, insertStep(json, "t", 1, { keep: "a > 1" }))).tables.t?.steps).toEqual([
      { unique: "all" },
      { keep: "a > 1" },
    ]);
    expect(tree(done(json, insertStep(json, "u", 0, { keep: "a > 1" }))).tables.u?.steps).toEqual([{ keep: "a > 1" }]);
  });
});

describe("steps are moved, switched, taken away and written over", () => {
  test("a comment right above goes along", () => {
    expect(done(SHEET, moveStep(SHEET, "calls", 0, 1))).toBe(
      SHEET.replace("      # twice in the export\n      - unique: [call_id]\n", "").replace(
        "        why: Open calls\n",
        "        why: Open calls\n      # twice in the export\n      - unique: [call_id]\n",
      ),
    );
    expect(done(SHEET, removeStep(SHEET, "calls", 0))).toBe(
      SHEET.replace("      # twice in the export\n      - unique: [call_id]\n", ""),
    );
  });
  test("off and on again is the same text", () => {
    const off = done(SHEET, switchStep(SHEET, "calls", 1, true));
    expect(off).toContain("        why: Open calls\n        off: true\n");
    expect(done(off, switchStep(off, "calls", 1, false))).toBe(SHEET);
  });
  test("its own text, and another in its place", () => {
    expect(stepSource(SHEET, "calls", 2)).toBe("add:\n  rate: tonnes / 2   # by hand");
    expect(stepSource(SHEET, "calls", 1)).toBe("keep: tonnes > 0\nwhy: Open calls");
    expect(done(SHEET, replaceStep(SHEET, "calls", 1, "keep: tonnes > 5\nwhy: Small ones"))).toBe(
      SHEET.replace("tonnes > 0", "tonnes > 5").replace("Open calls", "Small ones"),
    );
    expect(done(SHEET, replaceStep(SHEET, "calls", 2, stepSource(SHEET, "calls", 2) as string))).toBe(SHEET);
  });
  test("the last step goes with its key", () => {
    const one = "still: 1\ntables:\n  t:\n    read: t.csv\n    steps:\n      - unique: all\n";
    expect(done(one, removeStep(one, "t", 0))).toBe("still: 1\ntables:\n  t:\n    read: t.csv\n");
  });
});

describe("words of a column", () => {
  test("beside what is said already, in a new entry, in new columns", () => {
    expect(done(SHEET, sayOfColumn(SHEET, "calls", "tonnes", "unit", "t"))).toBe(
      SHEET.replace("tonnes: number ", "tonnes: {type: number, unit: t} "),
    );
    expect(done(SHEET, sayOfColumn(SHEET, "calls", "berth", "label", "Berth"))).toContain(
      "      tonnes: number   # kept\n      berth: {label: Berth}\n    steps:",
    );
    expect(done(SHEET, sayOfColumn(SHEET, "calls", "berth", "type", "text"))).toContain("      berth: text\n");
    const bare = "still: 1\ntables:\n  t:\n    read: t.csv\n    steps:\n      - unique: all\n";
    expect(done(bare, sayOfColumn(bare, "t", "a b", "unit", "h"))).toBe(
      "still: 1\ntables:\n  t:\n    read: t.csv\n    columns:\n      a b: {unit: h}\n    steps:\n      - unique: all\n",
    );
  });
});

describe("tables", () => {
  test("one key a line, rows as a block", () => {
    expect(done(SHEET, addTable(SHEET, "tide", { read: "tide.csv" }))).toBe(
      SHEET.replace("  berths: {read: berths.csv}\n", "  berths: {read: berths.csv}\n  tide:\n    read: tide.csv\n"),
    );
    const none = "still: 1\nreport: T\n";
    expect(done(none, addTable(none, "t", { rows: "a,b\n1,2" }))).toBe(
      "still: 1\nreport: T\n\ntables:\n  t:\n    rows: |\n      a,b\n      1,2\n",
    );
  });
});

const word = fc.constantFrom("a", "b_c", "x > 1 # 2", "'q'", "[z", "né", "a: b", "- d", '"t"');
const step = fc.oneof(
  fc.record({ keep: word }),
  fc.record({ add: fc.dictionary(fc.constantFrom("p", "q r", "s:"), word, { minKeys: 1, maxKeys: 3 }), why: word }),
  fc.record({ rename: fc.dictionary(word, word, { minKeys: 1, maxKeys: 2 }) }),
  fc.record({ sort: fc.array(word, { minLength: 1, maxLength: 3 }) }),
);

describe("whatever is written is read back, and nothing else changes", () => {
  test("inserting and taking away again is the same text", () => {
    fc.assert(
      fc.property(step, fc.nat(3), (value, place) => {
        const text = done(SHEET, insertStep(SHEET, "calls", place, value as StepValue));
        expect(tree(text).tables.calls?.steps?.[place]).toEqual(value);
        expect(tree(text).tables.calls?.steps).toHaveLength(4);
        // A comment above the step below it belongs to that one.
        expect(done(text, removeStep(text, "calls", place))).toBe(SHEET);
      }),
    );
  });
  test("moving there and back is the same order, and moves nothing but the steps", () => {
    fc.assert(
      fc.property(fc.nat(2), fc.nat(2), (from, to) => {
        fc.pre(from !== to);
        const text = done(SHEET, moveStep(SHEET, "calls", from, to));
        const order = [0, 1, 2];
        order.splice(to, 0, order.splice(from, 1)[0] as number);
        const before = tree(SHEET).tables.calls?.steps ?? [];
        expect(tree(text).tables.calls?.steps).toEqual(order.map((at) => before[at]));
        expect([...text].sort()).toEqual([...SHEET].sort());
        // Empty lines stay where they stood.
        expect(tree(done(text, moveStep(text, "calls", to, from)))).toEqual(tree(SHEET));
      }),
    );
  });
});
