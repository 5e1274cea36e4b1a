import Papa from "papaparse";
import { parseFormula } from "../src/core/formula/parse";
import type { Formula } from "../src/core/formula/tree";
import { readCsv, textOfBytes } from "../src/core/read/csv";
import { runStep } from "../src/core/steps/run";
import type { Step } from "../src/core/steps/step";
import type { NumericColumn, TextColumn } from "../src/core/table/column";
import type { Table } from "../src/core/table/table";
import { median, ms, say, timed, times } from "./measure";

const ROUNDS = 15;
const context = { setting: () => null, table: () => ({ rowCount: 0, columns: new Map(), info: new Map() }) };

function formula(text: string): Formula {
  const parsed = parseFormula(text);
  if (!parsed.ok) throw parsed.problem;
  return parsed.value.formula;
}

/** Median times of two ways, run in turns so that a slow moment of the machine meets both; the first turn warms the engine and does not count. */
function inTurns(one: () => unknown, other: () => unknown, rounds = ROUNDS): [number, number] {
  one();
  other();
  const turns = Array.from({ length: rounds }, () => [timed(one)[1], timed(other)[1]] as const);
  return [median(turns.map(([first]) => first)), median(turns.map(([, second]) => second))];
}

/** Loops over typed arrays that do what a step does, as somebody in a hurry would write them for this one table. */
function byHand(table: Table) {
  const tonnes = (table.columns.get("tonnes") as NumericColumn).values;
  const waited = (table.columns.get("waited") as NumericColumn).values;
  const berth = table.columns.get("berth") as TextColumn;
  const numeric = [...table.columns.values()].flatMap((column) => (column.kind === "text" ? [] : [column.values]));
  const texts = [...table.columns.values()].flatMap((column) => (column.kind === "text" ? [column.codes] : []));
  return {
    keep() {
      const rows = new Int32Array(table.rowCount);
      let count = 0;
      for (let row = 0; row < table.rowCount; row++)
        if ((tonnes[row] as number) > 500 && (waited[row] as number) < 20) rows[count++] = row;
      for (const values of numeric) {
        const kept = new Float64Array(count);
        for (let at = 0; at < count; at++) kept[at] = values[rows[at] as number] as number;
      }
      for (const codes of texts) {
        const kept = new Int32Array(count);
        for (let at = 0; at < count; at++) kept[at] = codes[rows[at] as number] as number;
      }
      return count;
    },
    // With what the ledger says: a division by zero is missing, and counted.
    add() {
      const result = new Float64Array(table.rowCount);
      let byZero = 0;
      for (let row = 0; row < table.rowCount; row++) {
        const above = tonnes[row] as number;
        const below = waited[row] as number;
        if (below === 0 && above === above) byZero += 1;
        result[row] = below === 0 ? Number.NaN : above / below + 1;
      }
      return [result, byZero];
    },
    group() {
      const sums = new Float64Array(berth.dictionary.length);
      const counts = new Float64Array(berth.dictionary.length);
      for (let row = 0; row < table.rowCount; row++) {
        const code = berth.codes[row] as number;
        const value = tonnes[row] as number;
        if (code < 0 || value !== value) continue;
        sums[code] = (sums[code] as number) + value;
        counts[code] = (counts[code] as number) + 1;
      }
      return [sums, counts];
    },
  };
}

/** Reading and shaping a large table, against the parser alone and against loops written by hand. */
export function benchShaping(csv: Uint8Array) {
  const text = textOfBytes(csv);
  const parse = () => {
    let count = 0;
    Papa.parse(text, {
      chunkSize: 1 << 20,
      chunk: (part: { data: unknown[] }) => (count += part.data.length),
    } as Papa.ParseConfig);
    return count;
  };
  globalThis.gc?.();
  const before = process.memoryUsage();
  const { table } = readCsv("calls.csv", text);
  globalThis.gc?.();
  const after = process.memoryUsage();
  const [reading, parsing] = inTurns(() => readCsv("calls.csv", text), parse, 3);
  const size = `${(table.rowCount / 1e6).toFixed(1)} million rows`;
  say(
    `reading a CSV, ${size}`,
    `${ms(reading)}, ${times(reading / parsing)} of the parser alone (${ms(parsing)})`,
    "1.5x",
  );
  const bytes = [...table.columns.values()].reduce(
    (sum, column) =>
      sum +
      (column.kind === "text"
        ? column.codes.byteLength + column.dictionary.reduce((all, entry) => all + 16 + entry.length, 0)
        : column.values.byteLength),
    0,
  );
  const held = after.heapUsed + after.arrayBuffers - before.heapUsed - before.arrayBuffers;
  say(
    `memory after reading, ${size}`,
    `${(held / 1e6).toFixed(0)} MB held, ${times(held / bytes)} of the columns' bytes${globalThis.gc ? "" : " (without a collection before)"}`,
    "3x",
  );
  const steps: Record<string, Step> = {
    keep: { do: "keep", test: formula("tonnes > 500 and waited < 20"), within: [], order: [] },
    add: { do: "add", columns: [{ name: "r", formula: formula("tonnes / waited + 1") }], within: [], order: [] },
    group: {
      do: "group",
      by: [{ name: "berth", formula: formula("berth") }],
      get: [
        { name: "total", formula: formula("sum(tonnes)") },
        { name: "n", formula: formula("count(tonnes)") },
      ],
    },
  };
  const hand = byHand(table);
  for (const name of ["keep", "add", "group"] as const) {
    const [own, plain] = inTurns(() => runStep(steps[name] as Step, table, context), hand[name]);
    say(`${name}, ${size}`, `${ms(own)}, ${times(own / plain)} of a loop written by hand (${ms(plain)})`, "4x");
  }
}
