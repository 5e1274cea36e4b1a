const SPACE = 32;
const QUOTE = 34;
const LINE_FEED = 10;
const CARRIAGE_RETURN = 13;

/** So many cells with odd quotes are remembered. */
const MOST_ODD = 3;

/** Takes cells, as texts or as ranges of a longer text, which need no text of their own. */
export interface CellTaker {
  push(text: string): void;
  take(source: string, from: number, to: number): void;
}

/**
 * Cuts separated text (RFC 4180, with any separator, and with any sort of line break) row by row
 * without making a text of every cell: of a million rows most cells are numbers, times and names
 * that were there before. A quote that opens a cell and does not end it before a separator or a
 * line break is a sign like any other: the cell is taken as it stands, and the rows behind it are
 * not swallowed.
 */
export class RowCutter {
  private starts = new Int32Array(64);
  private ends = new Int32Array(64);
  /** Where a quote inside a quoted cell stands twice. */
  private doubled = new Uint8Array(64);
  /** Carriage returns alone break lines only in files that have no other line breaks. */
  private readonly lineBreak: "\n" | "\r";
  /** Where the next ones stand that are not behind us. */
  private nextSeparator = -1;
  private nextBreak = -1;
  /** Cells in the row that stands. */
  count = 0;
  /** Places of cells whose opening quote is not closed; of many only the first. */
  readonly oddQuotes: number[] = [];
  oddCount = 0;

  /** Cuts `source` between two places, counted in UTF-16 units. */
  constructor(
    private readonly source: string,
    private readonly separator: string,
    /** Where the next row begins; behind the end when there is none. */
    public at = 0,
    private readonly end = source.length,
  ) {
    this.lineBreak = source.includes("\n") ? "\n" : "\r";
    if (at >= end) this.at = end + 1;
  }

  /** Goes to the next row; false when there is none. */
  next(): boolean {
    const { source, end } = this;
    let { at, starts, ends } = this;
    if (at > end) return false;
    let count = 0;
    for (;;) {
      if (count === starts.length) ({ starts, ends } = this.widen());
      this.doubled[count] = 0;
      const close = at < end && source.charCodeAt(at) === QUOTE ? this.closing(at, count) : -1;
      starts[count] = close < 0 ? at : at + 1;
      if (close >= 0) at = this.behindSpaces(close + 1);
      if (this.nextSeparator < at) this.nextSeparator = this.find(this.separator, at);
      if (this.nextBreak < at) this.nextBreak = this.find(this.lineBreak, at);
      if (this.nextSeparator < this.nextBreak) {
        ends[count++] = close < 0 ? this.nextSeparator : close;
        at = this.nextSeparator + 1;
        continue;
      }
      const stop = this.nextBreak;
      ends[count] =
        close >= 0
          ? close
          : stop > at &&
              stop < end &&
              source.charCodeAt(stop) === LINE_FEED &&
              source.charCodeAt(stop - 1) === CARRIAGE_RETURN
            ? stop - 1
            : stop;
      this.count = count + 1;
      this.at = stop + 1;
      return true;
    }
  }

  /** The first place of a sign; the end where there is none. */
  private find(sign: string, from: number): number {
    const found = this.source.indexOf(sign, from);
    return found < 0 || found > this.end ? this.end : found;
  }

  /** How many units the line break has that stands at a place; 0 where none does. */
  private breakAt(at: number): number {
    const unit = this.source.charCodeAt(at);
    if (unit === LINE_FEED) return 1;
    if (unit !== CARRIAGE_RETURN) return 0;
    if (at + 1 < this.end && this.source.charCodeAt(at + 1) === LINE_FEED) return 2;
    return this.lineBreak === "\r" ? 1 : 0;
  }

  /** Where the quote stands that ends the cell that one opens; -1 where none does. */
  private closing(open: number, place: number): number {
    const { source, end } = this;
    for (let at = open + 1; ; at += 2) {
      at = source.indexOf('"', at);
      if (at < 0 || at >= end) break;
      if (at + 1 < end && source.charCodeAt(at + 1) === QUOTE) {
        this.doubled[place] = 1;
        continue;
      }
      const next = this.behindSpaces(at + 1);
      if (next >= end || source[next] === this.separator || this.breakAt(next) > 0) return at;
      break;
    }
    this.doubled[place] = 0;
    this.oddCount += 1;
    if (this.oddQuotes.length < MOST_ODD) this.oddQuotes.push(open);
    return -1;
  }

  /** The first place that is no space; behind a closing quote they mean nothing. */
  private behindSpaces(at: number): number {
    let place = at;
    while (place < this.end && this.source.charCodeAt(place) === SPACE) place += 1;
    return place;
  }

  private widen() {
    const { starts, ends, doubled } = this;
    this.starts = new Int32Array(starts.length * 2);
    this.starts.set(starts);
    this.ends = new Int32Array(starts.length * 2);
    this.ends.set(ends);
    this.doubled = new Uint8Array(starts.length * 2);
    this.doubled.set(doubled);
    return this;
  }

  /** The text of a cell; one that the row does not have is empty. */
  cell(place: number): string {
    if (place >= this.count) return "";
    const text = this.source.slice(this.starts[place] as number, this.ends[place] as number);
    return this.doubled[place] ? text.replaceAll('""', '"') : text;
  }

  /** True if this is the text of a cell. */
  is(place: number, text: string): boolean {
    if (place >= this.count || this.doubled[place]) return this.cell(place) === text;
    const start = this.starts[place] as number;
    return (this.ends[place] as number) - start === text.length && this.source.startsWith(text, start);
  }

  giveTo(taker: CellTaker, place: number) {
    if (place >= this.count || this.doubled[place]) taker.push(this.cell(place));
    else taker.take(this.source, this.starts[place] as number, this.ends[place] as number);
  }
}
