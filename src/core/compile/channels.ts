import { AGGREGATES } from "../formula/aggregate-names";
import { checkFormula } from "../formula/check";
import { isFormat } from "../formula/format";
import { madeBy } from "../formula/made";
import { printFormula } from "../formula/print";
import { type BinaryOperator, type Formula, withoutPlaces } from "../formula/tree";
import { choiceKey } from "../query/choices";
import { intervalOf } from "../query/interval";
import type { Channel } from "../query/query";
import type { Path } from "../sheet/tree";
import type { Kind } from "../table/column";
import type { Table } from "../table/table";
import { choicesOf } from "./choices";
import { addFinding, type CheckedFormula, type Compiling, checkedFormula, scopeOf } from "./compiling";

/** A column's name as a reader sees it when the sheet gives no label. */
export const spaced = (name: string): string => name.replaceAll("_", " ");

interface ChannelPlace {
  compiling: Compiling;
  path: Path;
  tableName: string;
  table: Table;
  piece: string;
}

/** What the rows of a table are called. */
export const nounOf = ({ sheet }: Pick<Compiling, "sheet">, table: string): string =>
  sheet.tables.get(table)?.label ?? spaced(table);

/** What a formula is about: `tonnes` of `sum(tonnes)`, `minutes(waited)` of `bin(minutes(waited), 20)`. */
function subjectOf(formula: Formula): Formula | undefined {
  if (formula.type === "of") return subjectOf(formula.aggregate);
  if (formula.type !== "call") return undefined;
  const about = formula.name === "by" ? formula.arguments[1] : formula.arguments[0];
  if (about?.type === "column" || (about?.type === "call" && about.name === "count")) return about;
  // Of anything else the reader is told by the formula itself.
  const isNamed = about?.type === "call" && (UNITS.has(about.name) || SAME_UNIT.has(about.name));
  return isNamed && subjectOf(about) ? about : undefined;
}

/** Functions that measure a length of time, and what in. */
const UNITS = new Map([
  ["days", "days"],
  ["hours", "h"],
  ["minutes", "min"],
  ["seconds", "s"],
]);
/** Functions whose result is still measured in the column's own unit. */
const SAME_UNIT = new Set([
  "sum",
  "mean",
  "median",
  "quantile",
  "min",
  "max",
  "stdev",
  "first",
  "last",
  "bin",
  "bin_width",
  "by",
  "round",
  "abs",
  "floor",
  "ceil",
]);
/** Functions whose result is one of the values themselves. */
const ONE_OF_THEM = new Set(["min", "max", "first", "last", "bin", "bin_width"]);

/** Functions whose result is spoken of by the column's own label. */
const SAME_LABEL = new Set([
  "sum",
  "first",
  "last",
  "bin",
  "bin_width",
  "by",
  "by_year",
  "by_quarter",
  "by_month",
  "by_week",
  "by_day",
  "by_hour",
  "by_minute",
  "round",
]);

/** Functions whose result is a part of a date. */
const PARTS_OF_DATES = new Set(["year", "quarter", "month", "weekday", "day", "hour", "minute"]);

/** How parts of a whole are written. */
const SHARE = ".1~%";

/** A format of numbers as spreadsheets write it, as it is written here; nothing for any other text. */
function spreadsheetFormat(format: string): string | undefined {
  const found = /^(#,##)?0(?:\.(0+))?(%)?$/.exec(format);
  // A zero alone is one of ours: it fills up with zeros.
  return found && format !== "0" ? `${found[1] ? "," : ""}.${found[2]?.length ?? 0}${found[3] ?? "f"}` : undefined;
}

/** Why values of a kind are not written so. */
export function formatProblem(kind: Kind, format: string): string | undefined {
  if (kind === "text" || kind === "place") return "text is written as it stands; formats are for numbers and dates";
  const own = kind === "number" ? spreadsheetFormat(format) : undefined;
  // "0.0" is one of ours too, but rounds to digits that count, which with such a text nobody means.
  if (isFormat(kind, format) && (own === undefined || format.endsWith("%"))) return undefined;
  if (kind === "boolean") return `"${format}" is no format for a boolean; two words are, as in "yes/no"`;
  const usual =
    kind === "duration"
      ? 'lengths of time are written as "h:mm:ss", "h:mm", "m:ss" or "m:ss.00"'
      : own === undefined
        ? 'numbers are written as ",.1f", dates as "%-d %b %Y"'
        : `here it is "${own}"`;
  return `"${format}" is no format for a ${kind}; ${usual}`;
}

/** How days are written that stand for a whole month, quarter or year. */
const PERIODS = { month: "%b %Y", quarter: "Q%q %Y", year: "%Y" } as const;

const periodFormat = (kind: Kind | undefined, period: keyof typeof PERIODS): string | undefined =>
  kind === "date" ? PERIODS[period] : undefined;

/** A label within other words: its first letter is small, unless more than that is large, or other words are too. */
const within = (label: string) =>
  /^\p{Lu}(?:\p{Ll}|\s)(?!.*[\s-]\p{Lu}\p{Ll})/u.test(label)
    ? `${label.charAt(0).toLowerCase()}${label.slice(1)}`
    : label;

/** The words of a channel: what is said of its column, else what the formula does. */
function wordsOf(
  formula: Formula,
  kind: Kind,
  noun: string,
  table: Table,
): Pick<Channel, "label" | "unit" | "format" | "order" | "column" | "image"> {
  if (formula.type === "column") {
    const info = table.info.get(formula.name);
    const period = info?.period && periodFormat(table.columns.get(formula.name)?.kind, info.period);
    const format = info?.format ?? (info?.unparted ? "d" : period);
    return {
      label: info?.label ?? spaced(formula.name),
      column: formula.name,
      ...(info?.unit === undefined ? {} : { unit: info.unit }),
      ...(format === undefined ? {} : { format }),
      ...(info?.order === undefined ? {} : { order: info.order }),
      ...(info?.role === "image" ? { image: true } : {}),
    };
  }
  const call = formula.type === "of" ? formula.aggregate : formula;
  if (call.type === "call") {
    if (call.name === "count" && call.arguments.length === 0) return { label: noun };
    if (call.name === "share" && call.arguments[0])
      return { label: `share of ${within(wordsOf(call.arguments[0], "number", noun, table).label)}`, format: SHARE };
    const subject = subjectOf(formula);
    if (subject) return wordsAbout(subject, call.name, kind, noun, table);
  }
  return { label: composedLabel(formula, noun, table) ?? printFormula(formula) };
}

/** Signs of arithmetic as they are written for readers. */
const SIGNS: Partial<Record<BinaryOperator, string>> = { "+": "+", "-": "\u2212", "*": "\u00d7", "/": "/" };
/** A label of more signs than this is no easier to read than the formula. */
const MOST_LABEL = 48;

/** What is reckoned of columns and measures, by their labels: `Unmetered / fed in`; nothing for other formulas. */
function composedLabel(formula: Formula, noun: string, table: Table): string | undefined {
  if (formula.type !== "binary") return undefined;
  const sign = SIGNS[formula.operator];
  const [left, right] = [partLabel(formula.left, noun, table), partLabel(formula.right, noun, table)];
  if (sign === undefined || left === undefined || right === undefined) return undefined;
  // What is reckoned first stands in brackets, where it would not be read first.
  const isFirst = formula.left.type !== "binary" || isProduct(formula.left) || !isProduct(formula);
  const [first, second] = [isFirst ? left : `(${left})`, formula.right.type === "binary" ? `(${right})` : right];
  const label = `${first} ${sign} ${within(second)}`;
  return label.length <= MOST_LABEL ? label : undefined;
}

const isProduct = (formula: Formula) =>
  formula.type === "binary" && (formula.operator === "*" || formula.operator === "/");

/** The label of a part of what is reckoned: of a column, a measure, a number, or of parts of its own. */
function partLabel(part: Formula, noun: string, table: Table): string | undefined {
  if (part.type === "number") return printFormula(part);
  if (part.type === "binary") return composedLabel(part, noun, table);
  const isMeasure =
    part.type === "call" && (AGGREGATES.has(part.name) || UNITS.has(part.name) || SAME_LABEL.has(part.name));
  if (part.type !== "column" && !isMeasure) return undefined;
  const { label } = wordsOf(part, "number", noun, table);
  return isMeasure && label === printFormula(part) ? undefined : label;
}

/** The words of what a function makes of a column, or of one measured otherwise. */
function wordsAbout(
  subject: Formula,
  name: string,
  kind: Kind,
  noun: string,
  table: Table,
): Pick<Channel, "label" | "unit" | "format"> {
  const { label: own, unit: ownUnit, format: ownFormat } = wordsOf(subject, kind, noun, table);
  const info = subject.type === "column" ? table.info.get(subject.name) : undefined;
  const measuredIn = UNITS.get(name);
  const unit = measuredIn ?? (SAME_UNIT.has(name) ? ownUnit : undefined);
  const label =
    measuredIn !== undefined || SAME_LABEL.has(name)
      ? own
      : PARTS_OF_DATES.has(name)
        ? `${name} of ${within(own)}`
        : `${name === "distinct" ? "different" : spaced(name)} ${within(own)}`;
  // What names something is written so only where the result is one of them.
  const format = info?.unparted && info.format === undefined && !ONE_OF_THEM.has(name) ? undefined : ownFormat;
  const keepsFormat =
    SAME_UNIT.has(name) && format !== undefined && kindAbout(subject, table) === kind && isFormat(kind, format);
  const written = name === "year" ? "d" : keepsFormat ? format : undefined;
  return { label, ...(unit === undefined ? {} : { unit }), ...(written === undefined ? {} : { format: written }) };
}

const kindAbout = (subject: Formula, table: Table): Kind | undefined =>
  subject.type === "column" ? table.columns.get(subject.name)?.kind : "number";

/** Makes a channel of a checked formula over a table whose rows have a name. */
export function channelOf(checked: CheckedFormula, noun: string, table: Table): Channel {
  const formula = withoutPlaces(checked.formula);
  const words = wordsOf(formula, checked.kind, noun, table);
  const interval = checked.aggregate ? undefined : intervalOf(formula);
  const made = interval && madeBy(formula);
  const period = made?.period && periodFormat(checked.kind, made.period);
  return {
    formula,
    text: printFormula(formula),
    kind: checked.kind,
    aggregate: checked.aggregate,
    ...words,
    ...(period === undefined || words.format !== undefined ? {} : { format: period }),
    ...(checked.name === undefined ? {} : { label: spaced(checked.name) }),
    ...(interval ? { interval } : {}),
  };
}

export interface ReadChannel {
  channel: Channel;
  checked: CheckedFormula;
}

/** Reads, checks and makes a channel; nothing where it fails. */
export function readChannel(
  place: ChannelPlace,
  text: string,
  options: Parameters<typeof checkedFormula>[5] = {},
): ReadChannel | undefined {
  const checked = checkedFormula(place.compiling, place.path, text, place.tableName, place.table, {
    piece: place.piece,
    mixed: true,
    ...options,
  });
  if (!checked) return undefined;
  const channel = channelOf(checked, nounOf(place.compiling, place.tableName), place.table);
  const choices = choicesOf(place.compiling, checked.formula, (formula) => chosenChannel(place, formula, checked));
  if (!choices) return { channel, checked };
  if (Object.keys(choices.of).length === 0) return undefined;
  const start = choices.settings.map((name) => place.compiling.settings.get(name)?.start ?? null);
  // Before anything is chosen it is what its settings start with.
  const first = choices.of[choiceKey(start)] ?? channel;
  return { channel: { ...first, formula: channel.formula, text: channel.text, choices }, checked };
}

/** The channel that a formula makes once a reader has chosen; a choice that cannot stand there is a finding. */
function chosenChannel(place: ChannelPlace, formula: Formula, checked: CheckedFormula): Channel | undefined {
  const scope = scopeOf(place.compiling, place.tableName, place.table, "allowed");
  const seen = checkFormula(formula, scope);
  const [problem] = seen.problems;
  if (problem) {
    addFinding(
      place.compiling,
      place.path,
      problem.code,
      `once ${printFormula(formula)} is chosen: ${problem.message}`,
      {
        piece: place.piece,
      },
    );
    return undefined;
  }
  if (seen.kind === "missing" || seen.kind === "list") return undefined;
  return channelOf({ ...checked, formula, kind: seen.kind }, nounOf(place.compiling, place.tableName), place.table);
}
