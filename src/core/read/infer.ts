import { type Column, type Kind, type NumericKind, textColumn } from "../table/column";
import { type ColumnReport, MOST_EXAMPLES } from "./report";
import { dayMonthReader, readDuration, readIsoDate, readIsoDatetime, type TimeReader, timeReader } from "../table/time-text";

/** What the sheet says of a column before it is read. */
export interface ColumnWish {
  type?: Exclude<Kind, "place">;
  /** strptime letters for dates, datetimes and durations. */
  read?: string;
}

type CellReader = (text: string) => number;

/** The share of known cells that must be readable before a kind is taken. */
const ENOUGH = 0.95;

const NUMBER = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/;
const GROUPED = /^[+-]?\d{1,3}(?:,\d{3})+(?:\.\d+)?$/;
const LEADING_ZERO = /^[+-]?0\d/;

/** A number as people write it; `NaN` for anything else. Thousands may be parted by commas. */
export const readNumber: CellReader = (text) => {
  const trimmed = text.trim();
  if (NUMBER.test(trimmed)) {
    const value = Number(trimmed);
    return Number.isFinite(value) ? value : Number.NaN;
  }
  return GROUPED.test(trimmed) ? Number(trimmed.replaceAll(",", "")) : Number.NaN;
};

const readInferredNumber: CellReader = (text) => (LEADING_ZERO.test(text) ? Number.NaN : readNumber(text));

const BOOLEANS = new Map([["true", 1], ["false", 0], ["yes", 1], ["no", 0], ["TRUE", 1], ["FALSE", 0], ["Yes", 1], ["No", 0], ["True", 1], ["False", 0]]);
const readBoolean: CellReader = (text) => BOOLEANS.get(text.trim()) ?? Number.NaN;
const trimmed = (reader: TimeReader): CellReader => (text) => reader(text.trim());

interface Candidate {
  kind: NumericKind;
  read: CellReader;
  note?: string;
}

const CANDIDATES: readonly Candidate[] = [
  { kind: "number", read: readInferredNumber },
  { kind: "datetime", read: trimmed(readIsoDatetime) },
  { kind: "date", read: trimmed(readIsoDate) },
  { kind: "duration", read: trimmed(readDuration) },
  { kind: "boolean", read: readBoolean },
  { kind: "date", read: trimmed(dayMonthReader("day first")), note: "read as day, month, year" },
  { kind: "date", read: trimmed(dayMonthReader("month first")), note: "read as month, day, year" },
];

/** The readers for a kind that the sheet asks for by name. */
function wished(kind: NumericKind): CellReader {
  if (kind === "number") return readNumber;
  if (kind === "boolean") return (text) => (text === "1" ? 1 : text === "0" ? 0 : readBoolean(text));
  if (kind === "duration") return trimmed(readDuration);
  const dayFirst = dayMonthReader("day first");
  const whole: CellReader = (text) => {
    const t = text.trim();
    const date = readIsoDate(t);
    if (date === date) return date;
    const moment = readIsoDatetime(t);
    return moment === moment ? moment : dayFirst(t);
  };
  return kind === "datetime" ? whole : (text) => Math.floor(whole(text) / 86400) * 86400;
}

function readAll(texts: readonly (string | null)[], read: CellReader): { values: Float64Array; unread: number } {
  const values = new Float64Array(texts.length);
  let unread = 0;
  for (let row = 0; row < texts.length; row++) {
    const text = texts[row] as string | null;
    const value = text === null ? Number.NaN : read(text);
    values[row] = value;
    if (text !== null && value !== value) unread += 1;
  }
  return { values, unread };
}

/** A cell is missing when it is empty, only spaces, or one of the spellings that the sheet adds. */
export function markMissing(texts: (string | null)[], spellings: ReadonlySet<string>): number {
  let missing = 0;
  for (let row = 0; row < texts.length; row++) {
    const text = texts[row];
    if (text === null || text === undefined || text === "" || spellings.has(text) || text.trim() === "") {
      texts[row] = null;
      missing += 1;
    }
  }
  return missing;
}

/**
 * Turns the texts of a column into a column, by the sheet's wish or by looking at every cell.
 * `texts` holds `null` where a cell is missing. Cells that cannot be read become missing and are counted.
 */
export function inferColumn(name: string, texts: readonly (string | null)[], missing: number, wish: ColumnWish = {}): { column: Column; report: ColumnReport } {
  const report: ColumnReport = { name, kind: "text", missing, unread: 0, examples: [] };
  const known = texts.length - missing;
  const asText = () => ({ column: textColumn(texts, texts.length), report });
  const take = (kind: NumericKind, values: Float64Array, unread: number, note?: string) => {
    report.kind = kind;
    report.unread = unread;
    if (note) report.note = note;
    for (let row = 0; unread > 0 && row < texts.length && report.examples.length < MOST_EXAMPLES; row++) {
      const text = texts[row];
      if (text !== null && text !== undefined && Number.isNaN(values[row])) report.examples.push({ row: row + 1, text });
    }
    return { column: { kind, values } as Column, report };
  };
  if (wish.type === "text") return asText();
  if (wish.type) {
    const kind = wish.type;
    let read = wished(kind);
    if (wish.read && (kind === "date" || kind === "datetime" || kind === "duration")) {
      const made = timeReader(wish.read, kind);
      if (typeof made === "function") read = trimmed(made);
    }
    const { values, unread } = readAll(texts, read);
    return take(kind, values, unread);
  }
  if (known === 0) return asText();
  const probe = texts.filter((text): text is string => text !== null).slice(0, 60);
  const readable = CANDIDATES.filter(({ read }) => probe.filter((text) => !Number.isNaN(read(text))).length >= probe.length * 0.6);
  let best: { candidate: Candidate; values: Float64Array; unread: number } | undefined;
  for (const candidate of readable) {
    const { values, unread } = readAll(texts, candidate.read);
    if (known - unread < known * ENOUGH) continue;
    if (!best || unread < best.unread) best = { candidate, values, unread };
    else if (unread === best.unread && candidate.note && best.candidate.note) {
      report.note = "looks like dates, but day and month cannot be told apart; say how with read: \"%d/%m/%Y\"";
      return asText();
    }
    if (unread === 0 && !candidate.note) break;
  }
  return best ? take(best.candidate.kind, best.values, best.unread, best.candidate.note) : asText();
}
