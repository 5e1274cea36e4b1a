import { type Column, type Kind, type NumericKind, textColumn } from "../table/column";
import type { ColumnInfo } from "../table/table";
import { readIsoDate, type TimeReader, timeReader } from "../table/time-text";
import { type DateReaders, dayFirst, hasOffset, isoDatetime, isoMonth, length, minutesSeconds, monthFirst, written, yearFirst } from "./dates";
import { type DecimalMark, decimalOf, isAmbiguous, isCode, numberReader, undress } from "./numbers";
import { type ColumnReport, MOST_EXAMPLES } from "./report";

/** What the sheet says of a column before it is read. */
export interface ColumnWish {
  type?: Kind;
  /** strptime letters for dates, datetimes and durations; for numbers an example with their marks. */
  read?: string;
}

/** What is known of a file's habits while its columns are looked at. */
export interface Habits {
  /** Where the separator is a semicolon, numbers mostly have decimal commas. */
  decimal: DecimalMark;
  /** Seconds by which times that came with an offset are ahead of UTC. */
  zone: number;
  /** How `zone` is spelt. */
  zoneName: string;
}

export const USUAL: Habits = { decimal: ".", zone: 0, zoneName: "UTC" };

type CellReader = (text: string) => number;

/** The share of known cells that must be readable before a kind is taken. */
const ENOUGH = 0.95;

/** More different odd spellings than this are no way of writing missing. */
const MOST_ODD = 3;

const BOOLEANS = new Map([["true", 1], ["false", 0], ["yes", 1], ["no", 0]]);
const readBoolean: CellReader = (text) => BOOLEANS.get(text.length <= 8 ? text.trim().toLowerCase() : text) ?? Number.NaN;
const trimmed = (reader: TimeReader): CellReader => (text) => reader(text.trim());

interface Candidate {
  kind: NumericKind;
  read: CellReader;
  /** How cells were understood, where there is another way to see them. */
  note?: string;
  /** Another order of day and month, which must not read as many cells. */
  rival?: string;
}

function dates(readers: DateReaders, note?: string, rival?: string): Candidate[] {
  const more = { ...(note === undefined ? {} : { note }), ...(rival === undefined ? {} : { rival }) };
  return [
    { kind: "datetime", read: trimmed(readers.datetime), ...more },
    { kind: "date", read: trimmed(readers.date), ...more },
  ];
}

const OTHER: Record<DecimalMark, DecimalMark> = { ".": ",", ",": "." };
const MARKS: Record<DecimalMark, string> = { ".": "decimal points", ",": "decimal commas" };

function candidates({ decimal, zone }: Habits): Candidate[] {
  return [
    { kind: "number", read: numberReader(decimal) },
    { kind: "datetime", read: trimmed(isoDatetime(zone)) },
    { kind: "date", read: trimmed(readIsoDate) },
    { kind: "duration", read: trimmed(length) },
    { kind: "boolean", read: readBoolean },
    { kind: "number", read: numberReader(OTHER[decimal]), note: `read with ${MARKS[OTHER[decimal]]}` },
    ...dates(yearFirst),
    ...dates(written),
    { kind: "date", read: trimmed(isoMonth), note: "a month stands for its first day" },
    ...dates(dayFirst, "read as day, month, year", "day and month"),
    ...dates(monthFirst, "read as month, day, year", "day and month"),
    { kind: "duration", read: trimmed(minutesSeconds), note: 'read as minutes and seconds; for hours and minutes say {type: duration, read: "%H:%M"}' },
  ];
}

/** The readers for a kind that the sheet asks for by name. */
function wished(kind: NumericKind, habits: Habits): CellReader {
  if (kind === "number") {
    const [usual, other] = [numberReader(habits.decimal), numberReader(OTHER[habits.decimal])];
    return (text) => {
      const value = usual(text);
      return value === value ? value : other(text);
    };
  }
  if (kind === "boolean") return (text) => (text === "1" ? 1 : text === "0" ? 0 : readBoolean(text));
  if (kind === "duration") return firstOf([length, minutesSeconds]);
  const whole = firstOf([readIsoDate, isoDatetime(habits.zone), ...[yearFirst, written, dayFirst].flatMap(({ date, datetime }) => [date, datetime]), isoMonth]);
  return kind === "datetime" ? whole : (text) => Math.floor(whole(text) / 86400) * 86400;
}

function firstOf(readers: readonly TimeReader[]): CellReader {
  return (text) => {
    const bare = text.trim();
    for (const read of readers) {
      const value = read(bare);
      if (value === value) return value;
    }
    return Number.NaN;
  };
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

/** A column as it was read, what became of its cells, and what its cells say of themselves. */
export interface Inferred {
  column: Column;
  report: ColumnReport;
  info?: ColumnInfo;
}

/** Signs that stood beside numbers: percent makes a format, one currency a unit. */
function dressOf(texts: readonly (string | null)[]): { info?: ColumnInfo; note?: string } {
  let [percent, plain] = [0, 0];
  const currencies = new Set<string>();
  for (const text of texts) {
    if (text === null) continue;
    const last = text.charCodeAt(text.length - 1);
    const first = text.charCodeAt(0);
    // Only cells that begin or end with something else than a digit can wear a sign.
    if (last >= 48 && last <= 57 && first >= 48 && first <= 57) {
      plain += 1;
      continue;
    }
    const dress = undress(text)?.dress;
    if (dress?.percent) percent += 1;
    else plain += 1;
    if (dress?.currency) currencies.add(dress.currency);
  }
  if (percent && plain) return { info: { format: ".1~%" }, note: `${percent} cells have a percent sign and ${plain} have none; 12 % was read as 0.12, 12 as 12` };
  if (percent) return { info: { format: ".1~%" }, note: "percent: 12 % was read as 0.12" };
  const [currency] = currencies;
  if (currencies.size > 1) return { note: `amounts in several currencies: ${[...currencies].join(", ")}` };
  return currency === undefined ? {} : { info: { unit: currency }, note: `amounts in ${currency}` };
}

/**
 * Turns the texts of a column into a column, by the sheet's wish or by looking at every cell.
 * `texts` holds `null` where a cell is missing. Cells that cannot be read become missing and are counted.
 */
export function inferColumn(name: string, texts: readonly (string | null)[], missing: number, wish: ColumnWish = {}, habits: Habits = USUAL): Inferred {
  const report: ColumnReport = { name, kind: "text", missing, unread: 0, examples: [] };
  const known = texts.length - missing;
  const asText = (note?: string): Inferred => ({ column: textColumn(texts, texts.length), report: note === undefined ? report : { ...report, note } });
  const take = (kind: NumericKind, values: Float64Array, unread: number, note?: string): Inferred => {
    report.kind = kind;
    report.unread = unread;
    const said = kind === "number" ? dressOf(texts) : kind === "datetime" && texts.some((text) => text !== null && hasOffset(text)) ? { info: { unit: habits.zoneName }, note: `times with an offset are told in ${habits.zoneName}` } : {};
    const notes = [note, said.note].filter((words) => words !== undefined);
    if (notes.length) report.note = notes.join("; ");
    for (let row = 0; unread > 0 && row < texts.length && report.examples.length < MOST_EXAMPLES; row++) {
      const text = texts[row];
      if (text !== null && text !== undefined && Number.isNaN(values[row])) report.examples.push({ row: row + 1, text });
    }
    if (unread) addOdd(texts, values);
    return { column: { kind, values }, report, ...(said.info ? { info: said.info } : {}) };
  };
  /** Notes the spellings that could not be read, if they are so few that they may stand for missing. */
  const addOdd = (own: readonly (string | null)[], values: Float64Array) => {
    const odd = new Set<string>();
    for (let row = 0; row < own.length && odd.size <= MOST_ODD; row++) if (own[row] !== null && Number.isNaN(values[row])) odd.add((own[row] as string).trim());
    if (odd.size <= MOST_ODD && [...odd].every((text) => text.length <= 12 && !/\d/.test(text))) report.odd = [...odd];
  };
  if (wish.type === "text") return asText();
  if (wish.type === "place") return { column: { ...textColumn(texts, texts.length), place: true }, report: { ...report, kind: "place" } };
  if (wish.type) {
    const { values, unread } = readAll(texts, wishedReader(wish.type, wish.read, habits));
    return take(wish.type, values, unread);
  }
  if (known === 0) return asText();
  // A few cells from everywhere rule out most candidates; those that remain are tried on every cell.
  const stride = Math.max(1, Math.floor(texts.length / 60));
  const probe: string[] = [];
  for (let row = 0; row < texts.length && probe.length < 60; row += stride) if (texts[row] !== null) probe.push(texts[row] as string);
  for (let row = 0; probe.length < Math.min(20, known); row++) if (texts[row] !== null) probe.push(texts[row] as string);
  const readable = candidates(habits).filter(({ read }) => probe.filter((text) => !Number.isNaN(read(text))).length >= probe.length * 0.6);
  let best: { candidate: Candidate; values: Float64Array; unread: number } | undefined;
  for (const candidate of readable) {
    const { values, unread } = readAll(texts, candidate.read);
    if (known - unread < known * ENOUGH) {
      if (candidate.note === undefined && candidate.kind !== "boolean" && report.odd === undefined) addOdd(texts, values);
      continue;
    }
    if (!best || unread < best.unread) best = { candidate, values, unread };
    else if (unread === best.unread && candidate.rival !== undefined && best.candidate.rival === candidate.rival && differ(values, best.values)) {
      return asText("looks like dates, but day and month cannot be told apart; say how with read: \"%d/%m/%Y\"");
    }
    if (unread === 0 && candidate.note === undefined) break;
  }
  if (!best) return asText();
  if (best.candidate.kind === "number") {
    if (texts.some((text) => text !== null && isCode(text))) return asText("digits with leading zeros, or too many for a number, are kept as text");
    const ambiguous = best.candidate.note === undefined ? ambiguity(texts, habits.decimal) : undefined;
    if (ambiguous !== undefined) return take("number", best.values, best.unread, ambiguous);
  }
  return take(best.candidate.kind, best.values, best.unread, best.candidate.note);
}

function differ(a: Float64Array, b: Float64Array): boolean {
  return a.some((value, row) => value !== b[row] && (value === value || b[row] === b[row]));
}

/** Says how marks were understood where every cell that has one could be meant either way. */
function ambiguity(texts: readonly (string | null)[], decimal: DecimalMark): string | undefined {
  const mark = OTHER[decimal];
  let example: string | undefined;
  for (const text of texts) {
    if (text === null || !(text.includes(",") || text.includes("."))) continue;
    if (!text.includes(mark) || !isAmbiguous(text)) return undefined;
    example ??= text;
  }
  return example === undefined ? undefined : `"${example}" is read as ${numberReader(decimal)(example)}; where the ${mark === "," ? "comma" : "point"} stands before decimals, say {type: number, read: "${mark === "," ? "1,5" : "1.5"}"}`;
}

function wishedReader(kind: NumericKind, format: string | undefined, habits: Habits): CellReader {
  if (format !== undefined && kind === "number") {
    const decimal = decimalOf(format);
    if (decimal) return numberReader(decimal);
  }
  if (format !== undefined && (kind === "date" || kind === "datetime" || kind === "duration")) {
    const made = timeReader(format, kind);
    if (typeof made === "function") return trimmed(made);
  }
  return wished(kind, habits);
}
