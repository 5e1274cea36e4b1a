import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { SelectionPlan, SelectionState } from "../core/link/selection";
import { readAddress, readNames, readSelection, writeAddress, writeNames, writeSelection } from "./address";
import { selectionText } from "./selection-text";
import { csvText } from "./table/csv";

const plan: SelectionPlan = {
  name: "waiting",
  source: "waiting",
  gesture: "click",
  kept: true,
  table: "calls",
  axes: { x: { type: "column", name: "w" }, y: { type: "column", name: "d" } },
  keys: {
    berth: { type: "column", name: "berth" },
    "bin(w, 3)": { type: "column", name: "w" },
    "by_month(d)": { type: "column", name: "d" },
  },
  by: [],
  effects: [],
  words: {
    x: { label: "waited", kind: "number", unit: "h" },
    y: { label: "arrived", kind: "date" },
    berth: { label: "berth", kind: "text" },
    "bin(w, 3)": { label: "waited", kind: "number" },
    "by_month(d)": { label: "arrived", kind: "date", grain: "month" },
  },
};

const text = fc.string({ unit: "grapheme", maxLength: 10 });
const number = fc.double({ noNaN: true, noDefaultInfinity: true }).map((value) => value + 0);
const range = fc.tuple(number, number).map(([a, b]): [number, number] => [Math.min(a, b), Math.max(a, b)]);
const days = fc
  .tuple(fc.nat(30000), fc.nat(30000))
  .map(([a, b]): [number, number] => [Math.min(a, b) * 86400, Math.max(a, b) * 86400]);
const key = fc.record(
  { berth: fc.oneof(text, fc.constant(null)), "bin(w, 3)": fc.oneof(range, number, fc.constant(null)) },
  { requiredKeys: ["berth"] },
);
const state: fc.Arbitrary<SelectionState> = fc.oneof(
  fc.record({ x: range, y: days }),
  fc.record({ x: range }),
  fc.record({ keys: fc.array(key, { minLength: 1, maxLength: 4 }) }),
  fc.record({ rows: fc.array(fc.nat(1e6), { minLength: 1, maxLength: 5 }) }),
  fc.record({ x: range, keys: fc.array(key, { minLength: 1, maxLength: 2 }) }),
);

describe("the address", () => {
  test("gives back every state that it was given", () => {
    fc.assert(
      fc.property(state, (held) => {
        const address = `#${writeAddress({ page: "One", waiting: writeSelection(plan, held, "1a2b") })}`;
        const parts = readAddress(new URL(address, "file:///x.html").hash);
        expect(readSelection(plan, parts.get("waiting") ?? "", "1a2b")).toEqual(held);
      }),
      { numRuns: 400 },
    );
  });
  test("is readable", () => {
    expect(writeSelection(plan, { x: [8, 20] })).toBe("x:8..20");
    expect(writeSelection(plan, { keys: [{ berth: "Salt Steps" }] })).toBe("berth:Salt%20Steps");
    expect(writeSelection(plan, { y: [0, 86400] })).toBe("y:1970-01-01..1970-01-02");
  });
  test("names of any kind come back", () => {
    fc.assert(
      fc.property(fc.array(fc.oneof(text, fc.constant(null)), { minLength: 1 }), (names) => {
        if (names.length === 1 && names[0] === "") return;
        expect(readNames(writeNames(names))).toEqual(names);
      }),
    );
  });
  test.each(["", "%", "x:", "x:9..1", "nothing:3", "x:a..b|rows:-1", "berth", "rows:1.5"])(
    "%s cannot be read and breaks nothing",
    (wrong) => {
      expect(readSelection(plan, wrong)).toBeUndefined();
    },
  );
  test("rows picked in another build are left out, the rest stays", () => {
    expect(readSelection(plan, "rows:3,4@aaaa", "bbbb")).toBeUndefined();
    expect(readSelection(plan, "rows:3,4", "bbbb")).toBeUndefined();
    expect(readSelection(plan, "x:1..2|rows:3@aaaa", "bbbb")).toEqual({ x: [1, 2] });
  });
  test.each(["constructor:a", "__proto__:a", "toString:1;hasOwnProperty:2", "keys:constructor:~missing"])(
    "%s names no column, and breaks nothing",
    (text) => {
      expect(readSelection(plan, text)).toBeUndefined();
    },
  );
  test("a column may have any name, and so its keys", () => {
    const odd: SelectionPlan = {
      ...plan,
      keys: Object.fromEntries([["__proto__", { type: "column" as const, name: "__proto__" }]]),
      words: {},
    };
    const held: SelectionState = { keys: [Object.fromEntries([["__proto__", "a"]])] };
    expect(readSelection(odd, writeSelection(odd, held))).toEqual(held);
    expect(selectionText(odd, held)).toBe("__proto__ is a");
  });
  test("keys may be of any column that the file has, in its own kind", () => {
    const kinds: Record<string, string> = { id: "number", "Där Name": "text", day: "date", open: "boolean" };
    const held: SelectionState = {
      keys: [{ id: 3, open: true }, { "Där Name": "a;b", day: "2024-03-01" }, { id: null }],
    };
    const text = writeSelection(plan, held);
    expect(readSelection(plan, text, "", (column) => kinds[column])).toEqual(held);
    expect(readSelection(plan, text)).toBeUndefined();
  });
  test("what can be read beside what cannot stays", () => {
    expect(readSelection(plan, "x:a..b|rows:4@ff", "ff")).toEqual({ rows: [4] });
    expect([...readAddress("#a=1&%&=2&b=3")]).toEqual([
      ["a", "1"],
      ["b", "3"],
    ]);
  });
});

describe("words", () => {
  test("say what is selected", () => {
    expect(selectionText(plan, { x: [8, 20] })).toBe("waited 8 to 20 h");
    expect(selectionText(plan, { x: [8, 20], on: { x: "waited of each" } })).toBe("waited 8 to 20 h");
    expect(selectionText(plan, { keys: [{ berth: "Salt Steps" }] })).toBe("berth is Salt Steps");
    expect(selectionText(plan, { keys: [{ berth: "A" }, { berth: null }] })).toBe("berth is A or missing");
    expect(selectionText(plan, { keys: [{ "by_month(d)": "2024-03-01" }] })).toBe("arrived is March 2024");
    expect(selectionText(plan, { rows: [3, 4] })).toBe("2 rows of waiting");
    expect(selectionText(plan, { rows: [3] }, (rows) => `vessel is ${rows.join()}`)).toBe("vessel is 3");
    expect(selectionText(plan, { keys: ["a", "b", "c", "d"].map((berth) => ({ berth })) })).toBe("berth is one of 4");
  });
});

describe("CSV", () => {
  test("quotes what needs it and leaves missing empty", () => {
    expect(
      csvText(
        ["a", 'b"'],
        [
          ['x,"y"', null],
          [1.5, true],
        ],
      ),
    ).toBe('\ufeffa,"b"""\r\n"x,""y""",\r\n1.5,true\r\n');
  });
  test.each(["=1+2", "+49", "-x", "@now", "\t=1", "\r=1", '=HYPERLINK("x")'])(
    "%j is a text and no formula, as a cell and as a head; numbers stay numbers",
    (text) => {
      const [head = "", cells = ""] = csvText([text], [[text], [-5]])
        .slice(1)
        .split(/\r\n(?!=)/);
      const plain = (cell: string) => cell.replace(/^"(.*)"$/s, "$1").replaceAll('""', '"');
      expect([plain(head), plain(cells)]).toEqual([`'${text}`, `'${text}`]);
      expect(csvText([text], [[-5]])).toContain("\r\n-5\r\n");
    },
  );
});
