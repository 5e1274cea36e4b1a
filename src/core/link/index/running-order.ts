import {
  answerPlaces,
  blocksIn,
  eachInBlocks,
  type Ordered,
  type RowFilter,
  runsIn,
  type ScanOrder,
} from "../../formula/ordered";
import type { BrushPlaces, Ends } from "./places";

/**
 * Running counts of a moving brush for measures that ask for places among ordered rows, or for different
 * values: for every edge how many rows below it lie in each block of ranks, or in each stretch of equal
 * values. Counts can be taken from one another though medians cannot.
 */
export class RunningOrder {
  /** By edge and part: a part is a block, or a stretch of equal values. */
  private readonly table: Int32Array;
  private readonly firstPart: Int32Array;
  private readonly parts: number;

  /** Bytes that the counts for a measure would take. */
  static bytes(measure: Ordered, order: ScanOrder, places: BrushPlaces): number {
    return partsOf(measure, order) * places.edges.length * 4;
  }

  constructor(
    private readonly measure: Ordered,
    private readonly order: ScanOrder,
    private readonly places: BrushPlaces,
    private readonly others: RowFilter | null,
  ) {
    const parts = partsOf(measure, order);
    const table = new Int32Array(parts * places.edges.length);
    const runs = measure.ask.type === "different" ? runsIn(order, measure.known).of : undefined;
    const { of } = places;
    eachInBlocks(order, (row, block, at) => {
      const place = of[row] as number;
      if (place < 0 || (others && others[row] !== 0)) return;
      // A row between edges i and i + 1 counts from edge i + 1 on.
      const cell = (place + 1) * parts + (runs ? (runs[at] as number) : block);
      table[cell] = (table[cell] as number) + 1;
    });
    for (let cell = parts; cell < table.length; cell++)
      table[cell] = (table[cell] as number) + (table[cell - parts] as number);
    this.table = table;
    this.parts = parts;
    this.firstPart = runs ? firstRuns(order, runs, parts) : blocksIn(order);
  }

  /** True if it also answers this measure: another place in the same order. */
  answersTo({ known, orderBy, ask }: Ordered): boolean {
    const own = this.measure;
    return (
      own.known === known && own.orderBy === orderBy && (own.ask.type === "different") === (ask.type === "different")
    );
  }

  /** What the measure is of the rows in the brush, for every group. */
  answer(measure: Ordered, [low, high]: Ends): Float64Array {
    const { table, parts, firstPart, others } = this;
    const counts = new Int32Array(parts);
    for (let part = 0; part < parts; part++)
      counts[part] = (table[high * parts + part] as number) - (table[low * parts + part] as number);
    const isDifferent = measure.ask.type === "different";
    const perGroup = new Float64Array(firstPart.length - 1);
    for (let group = 0; group < perGroup.length; group++) {
      let sum = 0;
      for (let part = firstPart[group] as number; part < (firstPart[group + 1] as number); part++)
        sum += isDifferent ? Math.min(1, counts[part] as number) : (counts[part] as number);
      perGroup[group] = sum;
    }
    if (isDifferent) return perGroup;
    const { of } = this.places;
    return answerPlaces(measure, this.order, firstPart, counts, perGroup, (row) => {
      const place = of[row] as number;
      return place >= low && place < high && !(others && others[row] !== 0);
    });
  }
}

function partsOf({ ask, known }: Ordered, order: ScanOrder): number {
  return ask.type === "different" ? runsIn(order, known).count : (blocksIn(order).at(-1) as number);
}

/** The first stretch of equal values of each group, and after the last one how many there are. */
function firstRuns({ starts }: ScanOrder, runs: Int32Array, count: number): Int32Array {
  return starts.map((start) => (start < runs.length ? (runs[start] as number) : count));
}
