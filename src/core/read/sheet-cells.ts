import { BOUNDS, LIMITS, TooLarge } from "../finding/limits";
import type { RawColumn } from "./infer";
import type { NumberMeaning } from "./number-formats";
import { writeSerial } from "./serial-dates";
import { TextCodes } from "./text-codes";
import { decodeEntities } from "./xml-text";

/** The cells of one sheet that hold something, column by column; rows without any are not there. */
export interface SheetCells {
  name: string;
  hidden: boolean;
  /** The number of each row in the sheet, from 1. */
  rowNumbers: Int32Array;
  /** Rising places from 0, and the cells there, a code for each row. */
  columns: { place: number; cells: RawColumn }[];
  /** Cells that show an error and formulas whose result is not in the file; both are missing. */
  errors: number;
  errorExample?: string;
  unfinished: number;
}

/** What all sheets of a workbook share. */
export interface Shared {
  strings: readonly string[];
  meanings: readonly NumberMeaning[];
  from1904: boolean;
}

/** A column while it fills; rows behind its last cell are missing. */
class Filling {
  readonly texts = new TextCodes();
  /** Codes by places among the shared texts. */
  readonly shared = new Map<number, number>();
  codes = new Int32Array(16).fill(-1);

  put(row: number, code: number) {
    if (row >= this.codes.length) {
      const grown = new Int32Array(Math.max(row + 1, this.codes.length * 2)).fill(-1);
      grown.set(this.codes);
      this.codes = grown;
    }
    this.codes[row] = code;
  }

  finish(rows: number): RawColumn {
    const codes = new Int32Array(rows).fill(-1);
    codes.set(this.codes.subarray(0, rows));
    return { codes, dictionary: this.texts.texts };
  }
}

/** The place of a column from the letters of a reference such as `AB12`; -1 where there are none. */
function placeOf(reference: string): number {
  let place = 0;
  for (let at = 0; at < 3; at++) {
    const letter = reference.charCodeAt(at) & 0xdf;
    if (!(letter >= 65 && letter <= 90)) break;
    place = place * 26 + letter - 64;
  }
  return place - 1;
}

/** Texts with signs that XML cannot hold are written with their numbers. */
const unescaped = (text: string) =>
  text.includes("_x")
    ? text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)))
    : text;

const QUOTE = 34;
const SLASH = 47;
const [LOWER_C, LOWER_F, LOWER_I, LOWER_R, LOWER_S, LOWER_T, LOWER_V] = [99, 102, 105, 114, 115, 116, 118];
/** True behind the name of a tag: a space, a slash or the bracket. */
const endsName = (unit: number) => unit <= 32 || unit === SLASH || unit === 62;

/**
 * Takes the XML of a sheet piece by piece, each ending behind a row: a million rows are more text
 * than one string may hold. Cells and rows that do not say where they stand follow those before them.
 */
export class SheetScanner {
  private readonly filling = new Map<number, Filling>();
  private readonly rows: number[] = [];
  private prefix: string | undefined;
  private rowNumber = 0;
  private place = -1;
  private cells = 0;
  private errors = 0;
  private errorExample: string | undefined;
  private unfinished = 0;
  /** Attributes of the cell that is read. */
  private type = "n";
  private style = 0;

  constructor(
    private readonly name: string,
    private readonly hidden: boolean,
    private readonly shared: Shared,
  ) {}

  take(piece: string) {
    this.prefix ??= /<([\w.-]+):worksheet[\s>]/.exec(piece)?.[1] ?? "";
    const xml = this.prefix ? piece.replaceAll(`<${this.prefix}:`, "<").replaceAll(`</${this.prefix}:`, "</") : piece;
    for (let at = xml.indexOf("<"); at >= 0; at = xml.indexOf("<", at + 1)) {
      const unit = xml.charCodeAt(at + 1);
      if (unit === LOWER_C && endsName(xml.charCodeAt(at + 2))) at = this.cell(xml, at);
      else if (unit === LOWER_R && xml.startsWith("row", at + 1) && endsName(xml.charCodeAt(at + 4)))
        this.beginRow(xml, at);
    }
  }

  private beginRow(xml: string, at: number) {
    const tag = xml.slice(at, xml.indexOf(">", at));
    this.rowNumber = Number(/\sr=["'](\d+)/.exec(tag)?.[1] ?? this.rowNumber + 1);
    this.place = -1;
  }

  /** Reads the attributes of a cell, of which three with one letter matter; answers where its tag ends. */
  private attributes(xml: string, from: number): number {
    this.type = "n";
    this.style = 0;
    let place = -1;
    let at = from;
    for (;;) {
      while (xml.charCodeAt(at) <= 32) at += 1;
      const unit = xml.charCodeAt(at);
      if (unit === 62 || unit !== unit) break;
      if (unit === SLASH) {
        at += 1;
        continue;
      }
      const open = xml.indexOf("=", at) + 1;
      const close = xml.indexOf(xml.charCodeAt(open) === QUOTE ? '"' : "'", open + 1);
      if (open === 0 || close < 0) return xml.length;
      if (open === at + 2) {
        const value = xml.slice(open + 1, close);
        if (unit === LOWER_R) place = placeOf(value);
        else if (unit === LOWER_S) this.style = Number(value);
        else if (unit === LOWER_T) this.type = value;
      }
      at = close + 1;
    }
    this.place = place >= 0 ? place : this.place + 1;
    return at;
  }

  /** Reads a cell; answers a place in its end tag. */
  private cell(xml: string, from: number): number {
    const tagEnd = this.attributes(xml, from + 2);
    if (xml.charCodeAt(tagEnd - 1) === SLASH) return tagEnd;
    let [start, stop, formula] = [-1, -1, false];
    let at = xml.indexOf("<", tagEnd);
    for (; at >= 0; at = xml.indexOf("<", at + 1)) {
      const unit = xml.charCodeAt(at + 1);
      if (unit === SLASH && xml.charCodeAt(at + 2) === LOWER_C && endsName(xml.charCodeAt(at + 3))) break;
      if (unit === LOWER_V && endsName(xml.charCodeAt(at + 2))) {
        start = xml.indexOf(">", at) + 1;
        stop = xml.indexOf("<", start);
        if (stop > start && xml.charCodeAt(start - 2) !== SLASH) at = stop - 1;
        else start = -1;
      } else if (unit === LOWER_F) formula = true;
      else if (unit === LOWER_I && xml.startsWith("is", at + 1)) {
        const end = xml.indexOf("</is>", at);
        this.text(unescaped(textIn(xml.slice(at, end < 0 ? xml.length : end))));
        at = end < 0 ? xml.length : end;
      }
    }
    if (start > 0) this.value(xml, start, stop);
    else if (formula && this.type !== "str") this.unfinished += 1;
    return at < 0 ? xml.length : at;
  }

  private value(xml: string, start: number, stop: number) {
    const { type } = this;
    if (type === "s") return this.sharedText(Number(xml.slice(start, stop)));
    if (type === "e") {
      this.errors += 1;
      this.errorExample ??= decodeEntities(xml.slice(start, stop));
      return;
    }
    if (type === "b") return this.text(xml[start] === "1" ? "true" : "false");
    if (type === "str" || type === "d") return this.text(unescaped(decodeEntities(xml.slice(start, stop))));
    const meaning = this.shared.meanings[this.style] ?? "number";
    const serial =
      meaning === "number" ? undefined : writeSerial(Number(xml.slice(start, stop)), meaning, this.shared.from1904);
    if (serial !== undefined) return this.text(serial);
    const filling = this.beginCell();
    filling.put(this.rows.length - 1, filling.texts.codeOf(xml, start, stop));
  }

  private sharedText(at: number) {
    const text = this.shared.strings[at];
    if (text === undefined || text === "") return;
    const filling = this.beginCell();
    let code = filling.shared.get(at);
    if (code === undefined) {
      code = filling.texts.codeOf(text, 0, text.length);
      filling.shared.set(at, code);
    }
    filling.put(this.rows.length - 1, code);
  }

  private text(text: string) {
    if (text === "") return;
    const filling = this.beginCell();
    filling.put(this.rows.length - 1, filling.texts.codeOf(text, 0, text.length));
  }

  /** The column of the cell. A row begins to be there with its first cell that holds something. */
  private beginCell(): Filling {
    if (this.rows.at(-1) !== this.rowNumber) this.rows.push(this.rowNumber);
    let filling = this.filling.get(this.place);
    if (!filling) {
      filling = new Filling();
      this.filling.set(this.place, filling);
    }
    this.cells += 1;
    const room = this.rows.length * this.filling.size;
    if (room > LIMITS.tableCells || (room > LIMITS.sparseCells && this.cells * 100 < room)) {
      throw new TooLarge(
        `the sheet "${this.name}" has ${this.filling.size} columns by ${this.rows.length} rows, of which ` +
          `${this.cells} cells hold something; that is more room than a table may take. ${BOUNDS.sparseCells.told}`,
      );
    }
    return filling;
  }

  finish(): SheetCells {
    const rowNumbers = Int32Array.from(this.rows);
    const columns = [...this.filling]
      .sort(([a], [b]) => a - b)
      .map(([place, filling]) => ({ place, cells: filling.finish(rowNumbers.length) }));
    return {
      name: this.name,
      hidden: this.hidden,
      rowNumbers,
      columns,
      errors: this.errors,
      unfinished: this.unfinished,
      ...(this.errorExample === undefined ? {} : { errorExample: this.errorExample }),
    };
  }
}

/**
 * The text of an item: its own, or that of its runs one after the other; how it is pronounced does not belong to
 * it.
 */
export function textIn(item: string): string {
  const own = item.includes("rPh") ? item.replace(/<(?:[\w.-]+:)?rPh(?=[\s>]).*?<\/(?:[\w.-]+:)?rPh>/gs, "") : item;
  let text = "";
  for (const [, part] of own.matchAll(/<(?:[\w.-]+:)?t(?:\s[^>]*)?>([^<]*)</g)) text += part;
  return decodeEntities(text);
}
