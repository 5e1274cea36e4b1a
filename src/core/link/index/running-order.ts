import type { Ordered, ScanOrder } from "../../formula/ordered";
import { answerPlaces, blocksIn, eachInBlocks, runsIn } from "../../formula/ordered-ways";
import { type Places, SLICE } from "./row-places";

/**
 * Running counts over the places of a moving selection for measures that ask for places among ordered rows, or for
 * different values: for every place how many rows before it lie in each block of ranks, or in each stretch of equal
 * values. Counts can be taken from one another though medians cannot.
 */
export class RunningOrder {
  /** By place and part: a part is a block, or a stretch of equal values. */
  private readonly table: Int32Array;
  private readonly firstPart: Int32Array;
  private readonly parts: number;
  private readonly runs: Int32Array | undefined;
  /** How many of the rows in the order are counted. */
  private counted = 0;
  /** The part in which each row is counted, where rows may be counted one by one; -1 for those not in the order. */
  readonly partOf: Int32Array | undefined;

  /** Bytes that the counts for a measure would take for each place. */
  static bytesPerPlace(measure: Ordered, order: ScanOrder): number {
    return partsOf(measure, order) * 4;
  }

  /** @param hasRim true where rows will be counted one by one beside whole places */
  constructor(
    private readonly measure: Ordered,
    private readonly order: ScanOrder,
    private readonly places: Places,
    hasRim: boolean,
  ) {
    this.parts = partsOf(measure, order);
    this.table = new Int32Array(this.parts * (places.count + 1));
    if (hasRim) this.partOf = new Int32Array(places.of.length).fill(-1);
    this.runs = measure.ask.type === "different" ? runsIn(order, measure.known).of : undefined;
    this.firstPart = this.runs ? firstRuns(order, this.runs, this.parts) : blocksIn(order);
  }

  /**
   * Counts a slice of the rows; false once all are counted and the counts run.
   *
   * @param of the place of each row, -1 for those that do not count
   */
  count(of: Int32Array): boolean {
    const { order, runs, table, parts, counted, partOf } = this;
    this.counted = Math.min(order.rows.length, counted + SLICE);
    eachInBlocks(order, counted, this.counted, (row, block, at) => {
      const place = of[row] as number;
      const part = runs ? (runs[at] as number) : block;
      if (partOf) partOf[row] = part;
      if (place < 0) return;
      // A row in place i counts from place i + 1 on.
      const cell = (place + 1) * parts + part;
      table[cell] = (table[cell] as number) + 1;
    });
    if (this.counted < order.rows.length) return true;
    for (let cell = parts; cell < table.length; cell++)
      table[cell] = (table[cell] as number) + (table[cell - parts] as number);
    return false;
  }

  /** True if it is made for this very measure. */
  isOf(measure: Ordered): boolean {
    return this.measure === measure;
  }

  /** True if it also answers this measure: another place in the same order. */
  answersTo({ known, orderBy, ask }: Ordered): boolean {
    const own = this.measure;
    return (
      own.known === known && own.orderBy === orderBy && (own.ask.type === "different") === (ask.type === "different")
    );
  }

  /**
   * What the measure is of the rows that are held, for every group.
   *
   * @param whole runs of places that are held whole, from the first up to the one past it, in pairs
   * @param loose where, place by place, rows stand that are held in other places
   */
  answer(
    measure: Ordered,
    whole: readonly number[],
    loose: Int32Array,
    passes: (row: number) => boolean,
  ): Float64Array {
    const { firstPart } = this;
    const counts = this.countsOf(whole, loose);
    const isDifferent = measure.ask.type === "different";
    const perGroup = new Float64Array(firstPart.length - 1);
    for (let group = 0; group < perGroup.length; group++) {
      let sum = 0;
      for (let part = firstPart[group] as number; part < (firstPart[group + 1] as number); part++)
        sum += isDifferent ? Math.min(1, counts[part] as number) : (counts[part] as number);
      perGroup[group] = sum;
    }
    return isDifferent ? perGroup : answerPlaces(measure, this.order, firstPart, counts, perGroup, passes);
  }

  private countsOf(whole: readonly number[], loose: Int32Array): Int32Array {
    const { table, parts } = this;
    const counts = new Int32Array(parts);
    for (let run = 0; run < whole.length; run += 2) {
      const [low, high] = [(whole[run] as number) * parts, (whole[run + 1] as number) * parts];
      for (let part = 0; part < parts; part++)
        counts[part] = (counts[part] as number) + (table[high + part] as number) - (table[low + part] as number);
    }
    if (loose.length === 0 || !this.partOf) return counts;
    const parted = this.places.lines.column(this.partOf);
    for (let at = 0; at < loose.length; at++) {
      const own = parted[loose[at] as number] as number;
      if (own >= 0) counts[own] = (counts[own] as number) + 1;
    }
    return counts;
  }
}

function partsOf({ ask, known }: Ordered, order: ScanOrder): number {
  return ask.type === "different" ? runsIn(order, known).count : (blocksIn(order).at(-1) as number);
}

/** The first stretch of equal values of each group, and after the last one how many there are. */
function firstRuns({ starts }: ScanOrder, runs: Int32Array, count: number): Int32Array {
  return starts.map((start) => (start < runs.length ? (runs[start] as number) : count));
}
