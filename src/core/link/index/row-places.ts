import { startsOf } from "../../table/laid-out";

/** Rows that are gone over in one slice while something is made ahead of its first use. */
export const SLICE = 100_000;

/** How much of a place a selection holds: no row, some rows, or every row of it. */
export const OUT = 0;
export const SOME = 1;
export const WHOLE = 2;

/** What a selection holds of the rows that are parted into places. */
export interface Cover {
  /** For each place `OUT`, `SOME` or `WHOLE`. */
  readonly parts: Uint8Array;
  /** The columns by which rows are told that lie in places held in part. */
  readonly columns: readonly Float64Array[];
  /** Asked of these columns, or of the same laid out otherwise, at one place in them. */
  holds(columns: readonly Float64Array[], at: number): boolean;
}

/** The rows of a table parted into places. */
export interface Places {
  readonly count: number;
  /** The place of each row; -1 for rows that no selection can hold. */
  readonly of: Int32Array;
  /** Finds the places of a slice of rows, ahead of their first use; false where all are known. */
  find(): boolean;
  readonly lines: LinedRows;
  /** Where the rows of a place begin among those that stand side by side, and where they end. */
  from(place: number): number;
  to(place: number): number;
}

/** The places of rows, found slice by slice. */
class FoundPlaces {
  private readonly places: Int32Array;
  private known = 0;

  constructor(
    rows: number,
    private readonly findIn: (places: Int32Array, from: number, to: number) => void,
  ) {
    this.places = new Int32Array(rows);
  }

  get of(): Int32Array {
    while (this.find());
    return this.places;
  }

  find(): boolean {
    const { known, places } = this;
    if (known === places.length) return false;
    this.known = Math.min(places.length, known + SLICE);
    this.findIn(places, known, this.known);
    return true;
  }
}

/**
 * Rows and columns laid out place by place: what is read of one place lies side by side. Rows read to and fro would
 * each wait for their own line of memory.
 */
export class LinedRows {
  private readonly columns = new Map<Float64Array | Int32Array, { own: Float64Array | Int32Array; done: number }>();
  private starts: Int32Array | undefined;
  private next = new Int32Array(0);
  private order = new Int32Array(0);
  private laid = 0;

  /**
   * @param places of the rows
   * @param ranks in which order places follow one another; by their numbers where there are none
   */
  constructor(
    private readonly places: { readonly of: Int32Array },
    private readonly count: number,
    private readonly ranks?: Int32Array,
  ) {}

  /** Puts a slice of rows in their places, ahead of their first use; false where all are. */
  lay(): boolean {
    const { of } = this.places;
    const { ranks } = this;
    if (!this.starts) {
      this.starts = startsOf(of, this.count, ranks);
      this.next = this.starts.slice();
      this.order = new Int32Array(this.starts[this.count] as number);
      return true;
    }
    const { laid, next, order } = this;
    if (laid === of.length) return false;
    this.laid = Math.min(of.length, laid + SLICE);
    for (let row = laid; row < this.laid; row++) {
      const place = of[row] as number;
      if (place < 0) continue;
      const rank = ranks ? (ranks[place] as number) : place;
      const at = next[rank] as number;
      order[at] = row;
      next[rank] = at + 1;
    }
    return true;
  }

  /** The numbers of the rows; those of one place in the order of the table. */
  get rows(): Int32Array {
    while (this.lay());
    return this.order;
  }

  /** Where the rows of a rank begin; those of the last one end where those of one more would begin. */
  start(rank: number): number {
    while (this.lay());
    return (this.starts as Int32Array)[rank] as number;
  }

  /** Lays out a slice of a column ahead of its first use; false where all of it is. */
  line(column: Float64Array | Int32Array): boolean {
    const { rows } = this;
    const known = this.columns.get(column) ?? {
      own: column instanceof Int32Array ? new Int32Array(rows.length) : new Float64Array(rows.length),
      done: 0,
    };
    this.columns.set(column, known);
    const { own, done } = known;
    if (done === rows.length) return false;
    known.done = Math.min(rows.length, done + SLICE);
    for (let at = done; at < known.done; at++) own[at] = column[rows[at] as number] as number;
    return true;
  }

  /** A column laid out like the rows. */
  column<V extends Float64Array | Int32Array>(column: V): V {
    while (this.line(column));
    return this.columns.get(column)?.own as V;
  }
}

/** Rows parted into places by their number, each by itself. */
export class RowPlaces extends FoundPlaces implements Places {
  readonly lines: LinedRows;

  /**
   * @param findIn writes the places of the rows `from` up to `to`; -1 for rows that no selection can hold
   * @param ranks in which order places stand side by side, where that is not by their numbers
   */
  constructor(
    rows: number,
    readonly count: number,
    findIn: (places: Int32Array, from: number, to: number) => void,
    readonly ranks?: Int32Array,
  ) {
    super(rows, findIn);
    this.lines = new LinedRows(this, count, ranks);
  }

  from(place: number): number {
    return this.lines.start(this.ranks?.[place] ?? place);
  }

  to(place: number): number {
    return this.lines.start((this.ranks?.[place] ?? place) + 1);
  }
}

/** Several places of others in one: these must stand side by side there. */
export class MergedPlaces extends FoundPlaces implements Places {
  readonly lines: LinedRows;
  private readonly first: Int32Array;
  private readonly past: Int32Array;

  /** @param into for each place of the finer ones, the place that it goes into */
  constructor(
    finer: RowPlaces,
    readonly count: number,
    into: Int32Array,
  ) {
    const { of } = finer;
    super(of.length, (places, from, to) => {
      for (let row = from; row < to; row++)
        places[row] = (of[row] as number) < 0 ? -1 : (into[of[row] as number] as number);
    });
    this.lines = finer.lines;
    this.first = new Int32Array(count).fill(finer.count);
    this.past = new Int32Array(count);
    into.forEach((place, fine) => {
      const rank = finer.ranks?.[fine] ?? fine;
      this.first[place] = Math.min(this.first[place] as number, rank);
      this.past[place] = Math.max(this.past[place] as number, rank + 1);
    });
  }

  from(place: number): number {
    return this.lines.start(this.first[place] as number);
  }

  to(place: number): number {
    return this.lines.start(this.past[place] as number);
  }
}

/** Whole places of a cover that follow one another: the first of each run and the first past it, in pairs. */
export function runsOf({ parts }: Cover): number[] {
  const runs: number[] = [];
  for (let place = 0; place < parts.length; place++) {
    if (parts[place] !== WHOLE) continue;
    runs.push(place);
    while (place < parts.length && parts[place] === WHOLE) place += 1;
    runs.push(place);
  }
  return runs;
}

/** Where, place by place, those rows stand that a cover holds in places of which it holds a part alone. */
export function looseIn(cover: Cover, places: Places): Int32Array {
  const { parts } = cover;
  if (!parts.includes(SOME)) return new Int32Array(0);
  const columns = cover.columns.map((column) => places.lines.column(column));
  let size = 0;
  parts.forEach((part, place) => {
    if (part === SOME) size += places.to(place) - places.from(place);
  });
  const found = new Int32Array(size);
  let count = 0;
  for (let place = 0; place < parts.length; place++) {
    if (parts[place] !== SOME) continue;
    const end = places.to(place);
    for (let at = places.from(place); at < end; at++) if (cover.holds(columns, at)) found[count++] = at;
  }
  return found.subarray(0, count);
}

/** True for a row that a cover holds. */
export function isHeld(cover: Cover, of: Int32Array, row: number): boolean {
  const place = of[row] as number;
  const part = place < 0 ? OUT : cover.parts[place];
  return part === WHOLE || (part === SOME && cover.holds(cover.columns, row));
}
