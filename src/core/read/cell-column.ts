import { flat } from "./flat";
import type { RawColumn } from "./infer";
import { isCode } from "./numbers";
import { datetimeIn, durationIn, numberIn, type RangeReader } from "./quick-readers";
import type { CellTaker } from "./row-cutter";
import { TextCodes } from "./text-codes";

/** Kinds whose usual spelling is read while the file streams by; all others wait for the whole column. */
export type QuickKind = "number" | "date" | "datetime" | "duration";

/** A column of plain numbers or moments, read as it came, with the few cells that were spelt otherwise. */
export interface QuickColumn {
  kind: QuickKind;
  values: Float64Array;
  /** Cells that were empty. */
  empty: number;
  /** Other cells that the quick reader does not know, by row; of very many only the first. */
  odd: ReadonlyMap<number, string>;
  oddCount: number;
  /** The sheet itself said how the cells are read: the odd ones are lost, and nothing else is to be found out. */
  told: boolean;
}

/** How a sheet wants the cells of a column read. */
export interface ToldReader {
  kind: QuickKind;
  read: (text: string) => number;
  isMissing: (text: string) => boolean;
}

const QUICK: Record<Exclude<QuickKind, "date">, RangeReader> = {
  number: numberIn,
  datetime: datetimeIn,
  duration: durationIn,
};

/** So many odd cells are kept in any case. */
const MOST_ODD = 2000;

// Nothing is made ahead: there are files with more columns than rows.
const NO_CODES = new Int32Array(0);

/** After so many rows it is known what a column is like. */
const KNOWN_AFTER = 4096;

/**
 * Takes the cells of one column as a file streams by and keeps each different text once. A column
 * of numbers or moments that are nearly all different would keep every one of them; it is read at
 * once instead. Where that turns out wrong, {@link failed} says that the file must be read again.
 */
export class CellColumn implements CellTaker {
  private codes = NO_CODES;
  private known = new TextCodes();
  private length = 0;
  private quick:
    | {
        kind: QuickKind;
        read: RangeReader;
        values: Float64Array;
        odd: Map<number, string>;
        oddCount: number;
        empty: number;
      }
    | undefined;
  /** More cells are odd than the few that a column of this kind may have. */
  failed = false;

  constructor(
    private readonly mayBeQuick: boolean,
    private readonly told?: ToldReader,
  ) {
    if (told) this.beginQuick(told.kind, (source, from, to) => told.read(source.slice(from, to)));
  }

  private beginQuick(kind: QuickKind, read: RangeReader) {
    this.quick = { kind, read, values: new Float64Array(KNOWN_AFTER * 2), odd: new Map(), oddCount: 0, empty: 0 };
  }

  push(text: string) {
    this.take(text, 0, text.length);
  }

  take(source: string, from: number, to: number) {
    if (this.quick) return this.takeQuick(source, from, to);
    if (this.length === this.codes.length)
      this.codes = grown(this.codes, new Int32Array(Math.max(64, this.length * 2)));
    this.codes[this.length++] = this.known.codeOf(source, from, to);
    if (this.length === KNOWN_AFTER && this.mayBeQuick) this.considerQuick();
  }

  private considerQuick() {
    const { texts } = this.known;
    if (texts.length < KNOWN_AFTER / 8) return;
    const known = texts.filter((text) => text !== "");
    for (const kind of ["number", "datetime", "duration"] as const) {
      const unread = known.filter((text) => Number.isNaN(QUICK[kind](text, 0, text.length)));
      if (unread.length > known.length * 0.01 || unread.some(isCode)) continue;
      this.beginQuick(kind, QUICK[kind]);
      const { length } = this;
      this.length = 0;
      for (let row = 0; row < length; row++) this.push(texts[this.codes[row] as number] as string);
      this.known = new TextCodes();
      return;
    }
  }

  private takeQuick(source: string, from: number, to: number) {
    const quick = this.quick as NonNullable<typeof this.quick>;
    const row = this.length++;
    if (row === quick.values.length) quick.values = grown(quick.values, new Float64Array(row * 2));
    const value = from === to ? Number.NaN : quick.read(source, from, to);
    quick.values[row] = value;
    if (value === value) return;
    const text = source.slice(from, to);
    if (text === "" || this.told?.isMissing(text)) {
      quick.empty += 1;
      return;
    }
    quick.oddCount += 1;
    if (quick.odd.size < MOST_ODD || (!this.told && quick.odd.size < row * 0.05)) quick.odd.set(row, flat(text));
    else if (!this.told) this.failed = true;
  }

  /** What was taken; the column takes nothing more. */
  finish(): RawColumn | QuickColumn {
    const { quick } = this;
    if (quick)
      return {
        kind: quick.kind,
        values: quick.values.slice(0, this.length),
        empty: quick.empty,
        odd: quick.odd,
        oddCount: quick.oddCount,
        told: this.told !== undefined,
      };
    return { codes: this.codes.slice(0, this.length), dictionary: this.known.texts };
  }
}

function grown<T extends Int32Array | Float64Array>(from: T, into: T): T {
  into.set(from as never);
  return into;
}
