import { type Column, type Kind, type NumericKind, textColumn } from "../table/column";
import { partedThousands } from "../table/parted-thousands";
import type { ColumnInfo } from "../table/table";
import { isFiner, readIsoDate, timeReader } from "../table/time-text";
import type { QuickColumn, ToldReader } from "./cell-column";
import {
  type Candidate,
  type CellReader,
  candidates,
  eitherOf,
  type Habits,
  OTHER,
  trimmed,
  USUAL,
  wishedReader,
} from "./cell-readers";
import { hasOffset, isoDatetime, length } from "./dates";
import { fineLengths } from "./fine-lengths";
import { type DecimalMark, isAmbiguous, isCode, numberReader, undress } from "./numbers";
import { type ColumnReport, MOST_EXAMPLES } from "./report";
import { twoWords } from "./two-words";

/** What the sheet says of a column before it is read. */
export interface ColumnWish {
  type?: Kind;
  /** strptime letters for dates, datetimes and durations; for numbers an example with their marks. */
  read?: string;
  /** Spellings of missing in this column, beside those of the table. */
  missingAs?: readonly string[];
}

/** The spellings of missing in a column: the table's and its own. */
const spellingsIn = ({ missingAs }: ColumnWish, spellings: ReadonlySet<string>): ReadonlySet<string> =>
  missingAs ? new Set([...spellings, ...missingAs]) : spellings;

const CUT_DOWN = "times finer than milliseconds are cut down to them";

/** The share of known cells that must be readable before a kind is taken. */
const ENOUGH = 0.95;

/** More different odd spellings than this are no way of writing missing. */
const MOST_ODD = 3;

/** What a reader makes of every different text, and how many cells it cannot read. */
function readAll(
  { dictionary }: RawColumn,
  counts: Uint32Array,
  read: CellReader,
): { byCode: Float64Array; unread: number } {
  const byCode = new Float64Array(dictionary.length);
  let unread = 0;
  for (let code = 0; code < byCode.length; code++) {
    const value = read(dictionary[code] as string);
    byCode[code] = value;
    if (value !== value) unread += counts[code] as number;
  }
  return { byCode, unread };
}

/** A cell is missing when it is empty, only spaces, or one of the spellings that the sheet adds. */
export function isMissingText(text: string, spellings: ReadonlySet<string>): boolean {
  const first = text.charCodeAt(0);
  if (spellings.size > 0 && spellings.has(text)) return true;
  // Nearly all texts begin with a sign that is no space, and need no further look.
  return first > 32 && first < 127 ? false : text.trim() === "";
}

/** Cells as they stand in a file: one code a row, a place among the different texts; -1 is missing. */
export interface RawColumn {
  codes: Int32Array;
  dictionary: readonly string[];
}

/** A column as it was read, what became of its cells, and what its cells say of themselves. */
export interface Inferred {
  column: Column;
  report: ColumnReport;
  info?: ColumnInfo;
}

/** Signs that stood beside numbers: percent makes a format, one currency a unit. */
function dressOf({ dictionary }: RawColumn, counts: Uint32Array): { info?: ColumnInfo; note?: string } {
  let [percent, plain] = [0, 0];
  const currencies = new Set<string>();
  dictionary.forEach((text, code) => {
    const cells = counts[code] as number;
    const last = text.charCodeAt(text.length - 1);
    const first = text.charCodeAt(0);
    // Only cells that begin or end with something else than a digit can wear a sign.
    const dress = last >= 48 && last <= 57 && first >= 48 && first <= 57 ? undefined : undress(text)?.dress;
    if (dress?.percent) percent += cells;
    else plain += cells;
    if (dress?.currency) currencies.add(dress.currency);
  });
  if (percent && plain)
    return {
      info: { format: ".1~%" },
      note: `${percent} cells have a percent sign and ${plain} have none; 12 % was read as 0.12, 12 as 12`,
    };
  if (percent) return { info: { format: ".1~%" }, note: "percent: 12 % was read as 0.12" };
  const [currency] = currencies;
  if (currencies.size > 1) return { note: `amounts in several currencies: ${[...currencies].join(", ")}` };
  return currency === undefined ? {} : { info: { unit: currency }, note: `amounts in ${currency}` };
}

/** The same for texts in a row each, `null` where one is missing. */
export function inferColumn(
  name: string,
  texts: readonly (string | null)[],
  wish: ColumnWish = {},
  habits: Habits = USUAL,
  spellings: ReadonlySet<string> = new Set(),
): Inferred {
  return inferCells(name, textColumn(texts, texts.length), wish, habits, spellings);
}

/** A column that is looked at: its cells, how many there are of each text, and what is said of it. */
interface Looked {
  raw: RawColumn;
  /** Cells of each text of the dictionary. */
  counts: Uint32Array;
  /** Cells that are not missing. */
  known: number;
  report: ColumnReport;
}

/** What a reader has made of every text. */
type Read = ReturnType<typeof readAll>;

function lookAt(name: string, raw: RawColumn): Looked {
  const counts = new Uint32Array(raw.dictionary.length);
  let missing = 0;
  for (const code of raw.codes) {
    if (code < 0) missing += 1;
    else counts[code] = (counts[code] as number) + 1;
  }
  const report: ColumnReport = { name, kind: "text", missing, unread: 0, examples: [] };
  return { raw, counts, known: raw.codes.length - missing, report };
}

const asText = ({ raw, report }: Looked, note?: string): Inferred => ({
  column: { kind: "text", ...raw },
  report: note === undefined ? report : { ...report, note },
});

/** Notes the spellings that could not be read, if they are so few that they may stand for missing. */
function noteUnread({ raw, counts, report }: Looked, byCode: Float64Array) {
  const odd = new Set<string>();
  for (let code = 0; code < byCode.length && odd.size <= MOST_ODD; code++)
    if (counts[code] && Number.isNaN(byCode[code])) odd.add((raw.dictionary[code] as string).trim());
  noteOdd(report, odd);
}

/** The column of a kind, of what a reader has made of its texts. */
function asKind(looked: Looked, kind: NumericKind, { byCode, unread }: Read, habits: Habits, note?: string): Inferred {
  const { raw, report } = looked;
  report.kind = kind;
  report.unread = unread;
  const said =
    kind === "number"
      ? dressOf(raw, looked.counts)
      : kind === "boolean"
        ? { info: twoWords(raw.dictionary) }
        : kind === "datetime" && raw.dictionary.some(hasOffset)
          ? { info: { unit: habits.zoneName }, note: `times with an offset are told in ${habits.zoneName}` }
          : {};
  const finer = kind === "datetime" && raw.dictionary.some(isFiner) ? CUT_DOWN : undefined;
  const notes = [note, said.note, finer].filter((words) => words !== undefined);
  if (notes.length) report.note = notes.join("; ");
  const values = new Float64Array(raw.codes.length);
  for (let row = 0; row < values.length; row++) {
    const code = raw.codes[row] as number;
    values[row] = code < 0 ? Number.NaN : (byCode[code] as number);
  }
  if (unread) {
    addExamples(report, raw, byCode);
    noteUnread(looked, byCode);
  }
  return numericColumn(kind, values, report, said.info);
}

/** A column of numbers with what its signs say of it, or else its values. */
function numericColumn(kind: NumericKind, values: Float64Array, report: ColumnReport, said?: ColumnInfo): Inferred {
  const info = said ?? (kind === "duration" ? fineLengths(values) : undefined);
  return { column: { kind, values }, report, ...(info ? { info } : {}) };
}

/** The candidates that can read enough of a few texts from everywhere: those are tried on every one. */
function likely({ raw: { dictionary }, counts }: Looked, habits: Habits): Candidate[] {
  const stride = Math.max(1, Math.floor(dictionary.length / 60));
  const probe = [...counts.keys()].filter((code) => code % stride === 0 && counts[code]).slice(0, 60);
  const cellsOf = (codes: readonly number[]) => codes.reduce((sum, code) => sum + (counts[code] as number), 0);
  return candidates(habits).filter(
    ({ read }) =>
      cellsOf(probe.filter((code) => !Number.isNaN(read(dictionary[code] as string)))) >= cellsOf(probe) * 0.3,
  );
}

/** The candidate that reads most cells; `"torn"` where two read as many, differently; nothing where none reads enough. */
function bestOf(looked: Looked, habits: Habits): { candidate: Candidate; read: Read } | "torn" | undefined {
  const { raw, counts, known, report } = looked;
  let best: { candidate: Candidate; read: Read } | undefined;
  for (const candidate of likely(looked, habits)) {
    const { proof, note, kind, rival } = candidate;
    if (proof && !raw.dictionary.some((text, code) => counts[code] && !Number.isNaN(proof(text)))) continue;
    const read = readAll(raw, counts, candidate.read);
    const cells = known - read.unread;
    if (cells < known * ENOUGH) {
      const isNear = note === undefined && kind !== "boolean" && cells >= known * 0.6;
      if (isNear && report.odd === undefined) noteUnread(looked, read.byCode);
      continue;
    }
    if (!best || read.unread < best.read.unread) best = { candidate, read };
    else if (
      read.unread === best.read.unread &&
      rival !== undefined &&
      best.candidate.rival === rival &&
      differ(read.byCode, best.read.byCode)
    )
      return "torn";
    if (read.unread === 0 && note === undefined) break;
  }
  return best;
}

/**
 * Turns the cells of a column into a column, by the sheet's wish or by looking at every cell. Cells
 * that cannot be read become missing and are counted.
 */
export function inferCells(
  name: string,
  cells: RawColumn,
  wish: ColumnWish,
  habits: Habits,
  spellings: ReadonlySet<string>,
): Inferred {
  const looked = lookAt(name, withoutMissing(cells, spellingsIn(wish, spellings)));
  const { raw, counts, known, report } = looked;
  if (wish.type === "text") return asText(looked);
  if (wish.type === "place")
    return { column: { kind: "text", ...raw, place: true }, report: { ...report, kind: "place" } };
  if (wish.type)
    return asKind(
      looked,
      wish.type,
      readAll(raw, counts, wishedReader(wish.type, wish.read, habits, raw.dictionary)),
      habits,
    );
  if (known === 0) return asText(looked);
  const best = bestOf(looked, habits);
  if (!best) return asText(looked);
  if (best === "torn")
    return asText(looked, 'looks like dates, but day and month cannot be told apart; say how with read: "%d/%m/%Y"');
  const { kind, note } = best.candidate;
  if (kind === "number") {
    if (raw.dictionary.some(isCode))
      return asText(looked, "digits with leading zeros, or too many for a number, are kept as text");
    const ambiguous = note === undefined ? ambiguity(raw.dictionary, habits.decimal) : undefined;
    if (ambiguous !== undefined) return asKind(looked, kind, best.read, habits, ambiguous);
    const inferred = asKind(looked, kind, best.read, habits, note);
    noteThousands(inferred, note === undefined ? habits.decimal : OTHER[habits.decimal]);
    return inferred;
  }
  return asKind(looked, kind, best.read, habits, note);
}

/**
 * A column that was read as it came. Answers nothing where its odd cells show that it may be
 * something else: then every cell must be looked at.
 */
export function inferQuick(
  name: string,
  { kind, values, empty, odd, oddCount, told }: QuickColumn,
  wish: ColumnWish,
  habits: Habits,
  spellings: ReadonlySet<string>,
): Inferred | undefined {
  const report: ColumnReport = { name, kind, missing: empty, unread: 0, examples: [] };
  if (told) {
    report.unread = oddCount;
    report.examples = [...odd].slice(0, MOST_EXAMPLES).map(([row, text]) => ({ row: row + 1, text }));
    noteOdd(report, new Set([...odd.values()].map((text) => text.trim())));
    return numericColumn(kind, values, report);
  }
  if (wish.type !== undefined && (wish.type !== kind || wish.read !== undefined)) return undefined;
  const read =
    kind === "number"
      ? numberReader(habits.decimal)
      : trimmed(kind === "duration" ? length : eitherOf(isoDatetime(habits.zone), readIsoDate));
  const unreadable = new Set<string>();
  if (kind === "datetime" && [...odd.values()].some(isFiner)) report.note = CUT_DOWN;
  const missing = spellingsIn(wish, spellings);
  for (const [row, text] of odd) {
    if (isMissingText(text, missing)) {
      report.missing += 1;
      continue;
    }
    // Signs, marks, offsets and leading zeros say more of a column than of the cell they stand in.
    if (isCode(text) || hasOffset(text) || (kind === "number" && /[%€$£¥(,]|[A-Z]{3}/.test(text))) return undefined;
    const value = read(text);
    values[row] = value;
    if (value === value) continue;
    report.unread += 1;
    unreadable.add(text.trim());
    if (report.examples.length < MOST_EXAMPLES) report.examples.push({ row: row + 1, text });
  }
  const known = values.length - report.missing;
  if (known === 0 || report.unread > known * (1 - ENOUGH)) return undefined;
  noteOdd(report, unreadable);
  const inferred = numericColumn(kind, values, report);
  noteThousands(inferred, habits.decimal);
  return inferred;
}

/** Amounts whose thousands are parted by the mark of decimals would be read a thousand times too small. */
function noteThousands({ column, report }: Inferred, decimal: DecimalMark) {
  const example = column.kind === "number" ? partedThousands(column.values) : undefined;
  if (example === undefined) return;
  const cell = example.toFixed(3).replace(".", decimal);
  report.thousands = { cell, read: `1${decimal}234${OTHER[decimal]}5` };
}

/** Spellings that could not be read may stand for missing, if they are few, short and without figures. */
function noteOdd(report: ColumnReport, odd: ReadonlySet<string>) {
  if (odd.size && odd.size <= MOST_ODD && [...odd].every((text) => text.length <= 12 && !/\d/.test(text)))
    report.odd = [...odd];
}

/** A reader that can go by the sheet's own words as cells stream by: times in letters that it gives. */
export function toldReader(wish: ColumnWish, spellings: ReadonlySet<string>): ToldReader | undefined {
  const { type, read } = wish;
  if (read === undefined || (type !== "date" && type !== "datetime" && type !== "duration")) return undefined;
  const made = timeReader(read, type);
  const missing = spellingsIn(wish, spellings);
  return typeof made === "function"
    ? { kind: type, read: trimmed(made), isMissing: (text) => isMissingText(text, missing) }
    : undefined;
}

/** Kinds that a column may turn out to be while it streams by, by what the sheet wishes of it. */
export const mayTurnOut = ({ type, read }: ColumnWish): boolean =>
  read === undefined && (type === undefined || type === "number" || type === "datetime" || type === "duration");

/** The cells with spellings of missing taken out. */
function withoutMissing({ codes, dictionary }: RawColumn, spellings: ReadonlySet<string>): RawColumn {
  const recode = new Int32Array(dictionary.length);
  const kept: string[] = [];
  dictionary.forEach((text, code) => {
    recode[code] = isMissingText(text, spellings) ? -1 : kept.push(text) - 1;
  });
  if (kept.length === dictionary.length) return { codes, dictionary };
  return { codes: codes.map((code) => (code < 0 ? -1 : (recode[code] as number))), dictionary: kept };
}

/** The first cells that could not be read, with their rows. */
function addExamples(report: ColumnReport, { codes, dictionary }: RawColumn, byCode: Float64Array) {
  for (let row = 0; row < codes.length && report.examples.length < MOST_EXAMPLES; row++) {
    const code = codes[row] as number;
    if (code >= 0 && Number.isNaN(byCode[code]))
      report.examples.push({ row: row + 1, text: dictionary[code] as string });
  }
}

function differ(a: Float64Array, b: Float64Array): boolean {
  return a.some((value, code) => value !== b[code] && (value === value || b[code] === b[code]));
}

/** Says how marks were understood where every cell that has one could be meant either way. */
function ambiguity(dictionary: readonly string[], decimal: DecimalMark): string | undefined {
  const mark = OTHER[decimal];
  let example: string | undefined;
  for (const text of dictionary) {
    if (!(text.includes(",") || text.includes("."))) continue;
    if (!text.includes(mark) || !isAmbiguous(text)) return undefined;
    example ??= text;
  }
  return example === undefined
    ? undefined
    : `"${example}" is read as ${numberReader(decimal)(example)}; where the ` +
        `${mark === "," ? "comma" : "point"} stands before decimals, say ` +
        `{type: number, read: "${mark === "," ? "1,5" : "1.5"}"}`;
}
