import { compile } from "../src/core/compile/compile";
import { brushIndexer } from "../src/core/link/index/brush-index";
import { selectionPass } from "../src/core/link/predicate";
import { Model } from "../src/core/model/model";
import { answerQuery } from "../src/core/query/answer";
import type { Column } from "../src/core/table/column";
import type { Table } from "../src/core/table/table";
import { LINKED_SHEET } from "./linked";
import { median, ms, p95, say, timed, times } from "./measure";

/** A column repeated until it has so many rows, for tables that no file could hold. */
function repeated(table: Table, rows: number): Table {
  const columns = new Map<string, Column>(
    [...table.columns].map(([name, column]): [string, Column] => {
      if (column.kind === "text") {
        const codes = new Int32Array(rows);
        for (let at = 0; at < rows; at += column.codes.length)
          codes.set(column.codes.subarray(0, Math.min(column.codes.length, rows - at)), at);
        return [name, { ...column, codes }];
      }
      const values = new Float64Array(rows);
      for (let at = 0; at < rows; at += column.values.length)
        values.set(column.values.subarray(0, Math.min(column.values.length, rows - at)), at);
      return [name, { ...column, values }];
    }),
  );
  return { ...table, rowCount: rows, columns };
}

/** Compute of brush moves over eight linked views, at some number of rows. */
export function benchCompute(csv: Uint8Array, sizes: readonly number[]) {
  const compiled = compile({ text: LINKED_SHEET, fileName: "bench", readFile: () => csv });
  for (const rows of sizes) {
    const tables = new Map(
      [...compiled.tables].map(([name, table]) => [name, rows === table.rowCount ? table : repeated(table, rows)]),
    );
    const model = new Model(compiled.plan, tables);
    const edges = Float64Array.from({ length: 500 }, (_, i) => Math.round(i * 1.2) / 10);
    const pieces = compiled.plan.pieces.map(({ name }) => name).filter((name) => name !== "waiting");
    for (const piece of pieces) for (const asked of model.askedBy(piece)) model.engine.all(asked);
    model.counts();
    // What the compiler has left behind is not to be taken away while the index is made.
    globalThis.gc?.();
    const slices: number[] = [];
    const [, index] = timed(() => {
      slices.push(timed(() => model.engine.activate("waiting", brushIndexer({ x: edges })))[1]);
      for (const piece of pieces) {
        for (const asked of model.askedBy(piece)) {
          for (let more = true; more; ) {
            const [left, time] = timed(() => model.engine.warm(asked));
            slices.push(time);
            more = left;
          }
        }
      }
    });
    const moves: number[] = [];
    for (let i = 0; i < 200; i++) {
      const low = i + 20;
      moves.push(
        timed(() => {
          model.engine.select("waiting", { x: [edges[low] as number, edges[low + 120] as number] });
          for (const piece of pieces) for (const asked of model.askedBy(piece)) model.engine.answer(asked);
        })[1],
      );
    }
    const size = `${rows.toLocaleString("en")} rows`;
    const scans = Array.from(edges.slice(20, 30), (low, at) =>
      plainScan(model, pieces, low, edges[at + 140] as number),
    );
    say(
      `index when a brush becomes active, ${size}, 8 views`,
      `${ms(index)}, longest slice ${ms(Math.max(...slices))}`,
      rows === 1e6 ? "100 ms" : "",
    );
    say(
      `compute of a brush move, ${size}, 8 views`,
      `median ${ms(median(moves))}, p95 ${ms(p95(moves))}; going over all rows ${ms(median(scans))}, ${times(median(scans) / median(moves))} of it`,
      "1 ms",
    );
  }
}

/** The same move the plain way: all rows are compared, and every view adds up those that pass. */
function plainScan(model: Model, pieces: readonly string[], low: number, high: number): number {
  const plan = model.selections.get("waiting");
  if (!plan) return Number.NaN;
  return timed(() => {
    const pass = selectionPass(plan, { x: [low, high] }, model.engine.columnsOf(plan.table));
    const failed = pass.map((holds) => 1 - holds);
    for (const piece of pieces)
      for (const asked of model.askedBy(piece)) answerQuery(model.engine.all(asked).prepared, failed);
  })[1];
}
