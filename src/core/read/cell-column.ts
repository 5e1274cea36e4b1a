import { readDuration, readIsoDatetime } from "../table/time-text";
import type { RawColumn } from "./infer";
import { isCode } from "./numbers";

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

const PLAIN = /^-?\d+(?:\.\d+)?$/;

const QUICK: Record<Exclude<QuickKind, "date">, (text: string) => number> = {
  number: (text) => (text.length < 16 && PLAIN.test(text) && !isCode(text) ? Number(text) : Number.NaN),
  // Without an offset, which would have to be told on another clock.
  datetime: (text) => (text.length === 16 || text.length === 19 ? readIsoDatetime(text) : Number.NaN),
  duration: readDuration,
};

/** So many odd cells are kept in any case. */
const MOST_ODD = 2000;

/** After so many rows it is known what a column is like. */
const KNOWN_AFTER = 4096;

/**
 * Takes the cells of one column as a file streams by and keeps each different text once. A column
 * of numbers or moments that are nearly all different would keep every one of them; it is read at
 * once instead. Where that turns out wrong, {@link failed} says that the file must be read again.
 */
export class CellColumn {
  private codes = new Int32Array(KNOWN_AFTER);
  private readonly dictionary: string[] = [];
  private seen: Map<string, number> | undefined = new Map();
  private length = 0;
  private quick: { kind: QuickKind; read: (text: string) => number; values: Float64Array; odd: Map<number, string>; oddCount: number; empty: number } | undefined;
  /** More cells are odd than the few that a column of this kind may have. */
  failed = false;

  constructor(
    private readonly mayBeQuick: boolean,
    private readonly told?: ToldReader,
  ) {
    if (told) this.beginQuick(told.kind, told.read);
  }

  private beginQuick(kind: QuickKind, read: (text: string) => number) {
    this.quick = { kind, read, values: new Float64Array(KNOWN_AFTER * 2), odd: new Map(), oddCount: 0, empty: 0 };
  }

  push(text: string) {
    if (this.quick) return this.pushQuick(text);
    const seen = this.seen as Map<string, number>;
    let code = seen.get(text);
    if (code === undefined) {
      code = this.dictionary.length;
      // A slice of the file would keep the whole of it in memory.
      const own = text.length > 12 ? flat(text) : text;
      seen.set(own, code);
      this.dictionary.push(own);
    }
    if (this.length === this.codes.length) this.codes = grown(this.codes, new Int32Array(this.length * 2));
    this.codes[this.length++] = code;
    if (this.length === KNOWN_AFTER && this.mayBeQuick) this.considerQuick();
  }

  private considerQuick() {
    if (this.dictionary.length < KNOWN_AFTER / 8) return;
    const known = this.dictionary.filter((text) => text !== "");
    for (const kind of ["number", "datetime", "duration"] as const) {
      const read = QUICK[kind];
      if (known.some((text) => Number.isNaN(read(text)) && isCode(text))) continue;
      if (known.filter((text) => Number.isNaN(read(text))).length > known.length * 0.01) continue;
      this.beginQuick(kind, read);
      const { length } = this;
      this.length = 0;
      for (let row = 0; row < length; row++) this.pushQuick(this.dictionary[this.codes[row] as number] as string);
      this.seen = undefined;
      this.dictionary.length = 0;
      return;
    }
  }

  private pushQuick(text: string) {
    const quick = this.quick as NonNullable<typeof this.quick>;
    const row = this.length++;
    if (row === quick.values.length) quick.values = grown(quick.values, new Float64Array(row * 2));
    const value = text === "" ? Number.NaN : quick.read(text);
    quick.values[row] = value;
    if (value === value) return;
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
    if (quick) return { kind: quick.kind, values: quick.values.slice(0, this.length), empty: quick.empty, odd: quick.odd, oddCount: quick.oddCount, told: this.told !== undefined };
    return { codes: this.codes.slice(0, this.length), dictionary: this.dictionary };
  }
}

function grown<T extends Int32Array | Float64Array>(from: T, into: T): T {
  into.set(from as never);
  return into;
}

/** A text with memory of its own: joined to something it is written anew, and what is cut off that is short. */
function flat(text: string): string {
  return ` ${text}`.slice(1);
}
