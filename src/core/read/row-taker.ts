import { keepBound } from "../finding/limits";
import { CellColumn } from "./cell-column";
import { mayTurnOut, toldReader } from "./infer";
import type { RowCutter } from "./row-cutter";
import { headNames, type ReadOptions } from "./texts";

/** Takes the rows of a separated file into columns, and counts those that are not as they should be. */
export class RowTaker {
  names: string[] = [];
  rows = 0;
  private heads: string[] = [];
  private columns: CellColumn[] = [];
  private readonly headNotes: string[] = [];
  private readonly spellings: ReadonlySet<string>;
  private seen = 0;
  private short = 0;
  private long = 0;
  private repeated = 0;

  constructor(
    /** The row that names the columns, from 1, or none. */
    private readonly header: number | "none",
    private readonly options: ReadOptions,
    private readonly mayBeQuick: boolean,
  ) {
    this.spellings = new Set(options.missingAs ?? []);
  }

  take(cells: RowCutter) {
    this.seen += 1;
    if (this.names.length === 0) {
      if (this.header !== "none" && this.seen < this.header) return;
      if (isBlank(cells)) return;
      this.begin(cells);
      if (this.header !== "none") return;
    }
    const width = this.names.length;
    if (cells.count !== width) {
      // A line with nothing in it.
      if (cells.count === 1 && cells.cell(0) === "") return;
      if (cells.count < width) this.short += 1;
      // Empty cells at the end are commas too many, and lose nothing.
      else if (hasText(cells, width)) this.long += 1;
    } else if (width > 1 && this.repeatsHeads(cells)) {
      this.repeated += 1;
      return;
    }
    for (let place = 0; place < width; place++) cells.giveTo(this.columns[place] as CellColumn, place);
    this.rows += 1;
  }

  private begin(cells: RowCutter) {
    keepBound("fileColumns", cells.count, "the file");
    const texts = Array.from({ length: cells.count }, (_, place) => cells.cell(place));
    const { header, options } = this;
    this.heads = header === "none" ? [] : texts;
    this.names = header === "none" ? texts.map((_, place) => `column_${place + 1}`) : headNames(texts, this.headNotes);
    this.columns = this.names.map((name) => {
      const wish = options.columns?.get(name) ?? {};
      return new CellColumn(this.mayBeQuick && mayTurnOut(wish), toldReader(wish, this.spellings));
    });
  }

  /** Files that were put together by hand have their heads again in the middle. */
  private repeatsHeads(cells: RowCutter): boolean {
    const { heads } = this;
    if (heads.length === 0) return false;
    for (let place = 0; place < heads.length; place++) if (!cells.is(place, heads[place] as string)) return false;
    return true;
  }

  /** True if a column turned out to be something else than it seemed at its beginning. */
  get failed(): boolean {
    return this.columns.some(({ failed }) => failed);
  }

  /** What the columns took, in the order of {@link names}. */
  finish() {
    return this.columns.map((column) => column.finish());
  }

  /** What is to be said of the rows, in words. */
  notes(headerWasGuessed: boolean): string[] {
    const notes = [...this.headNotes];
    if (headerWasGuessed && this.header !== "none" && this.header > 1)
      notes.push(`row ${this.header} names the columns; what stands above it was left out`);
    const say = (count: number, one: string, several: string) => {
      if (count) notes.push(count === 1 ? `1 row ${one}` : `${count} rows ${several}`);
    };
    say(
      this.short,
      "has fewer cells than there are heads; the rest is missing",
      "have fewer cells than there are heads; the rest is missing",
    );
    say(
      this.long,
      "has more cells than there are heads; the rest was left out",
      "have more cells than there are heads; the rest was left out",
    );
    say(this.repeated, "repeats the heads and was left out", "repeat the heads and were left out");
    return notes;
  }
}

const hasText = (cells: RowCutter, from: number): boolean => {
  for (let place = from; place < cells.count; place++) if (cells.cell(place) !== "") return true;
  return false;
};

const isBlank = (cells: RowCutter): boolean => !hasText(cells, 0);
