import { writeFix } from "../finding/finding";
import { Glob } from "../finding/glob";
import { boundMessage, LIMITS } from "../finding/limits";
import { listed, nearest } from "../finding/nearest";
import { printFormula } from "../formula/print";
import type { ColumnsSpec } from "../sheet/schema-tables";
import type { Path } from "../sheet/tree";
import type { NamedResult, SortKey, Step } from "../steps/step";
import { kindOf } from "../table/column";
import type { Table } from "../table/table";
import { addFinding, type CheckedFormula, type Compiling, checkedFormula } from "./compiling";

/** A step made ready, with how the ledger calls it. */
export interface ReadyStep {
  step: Step;
  text: string;
}

/** Where a step stands and what it finds there. */
export interface StepPlace {
  compiling: Compiling;
  path: Path;
  tableName: string;
  table: Table;
  /** Another table of the sheet, built if it was not yet; nothing where it cannot be. */
  other: (name: string, path: Path) => Table | undefined;
  /** From what random draws of this table follow. */
  seed: number;
  /** Buttons that have the draws of the table made anew; how often each was pressed is a setting of its name. */
  redraws: readonly string[];
  /** The number of the next draw in this table. */
  nextDraw: () => number;
}

export const asList = <T>(value: T | T[]): T[] => (Array.isArray(value) ? value : [value]);

/** The path of an item of what may be one item or a list. */
export const itemPath = (path: Path, value: unknown, at: number): Path => (Array.isArray(value) ? [...path, at] : path);

/** Says that something is wrong with a step. */
export function wrongStep({ compiling, tableName }: StepPlace, path: Path, code: string, message: string): undefined {
  addFinding(compiling, path, code, message, { piece: `tables.${tableName}` });
  return undefined;
}

/** Names of columns, with patterns and all but some filled in; a finding for each that is not there. */
export function columnNames(
  place: StepPlace,
  path: Path,
  spec: string | ColumnsSpec,
  table = place.table,
  tableName = place.tableName,
): string[] | undefined {
  if (typeof spec === "string" || !Array.isArray(spec) || spec.every((item) => typeof item === "string"))
    return namesOf(place, path, spec as string | readonly string[] | { all_but: string[] }, table, tableName);
  const items = spec.map((item, at) => namesOf(place, [...path, at], item, table, tableName));
  return items.every((names) => names !== undefined) ? [...new Set(items.flat())] : undefined;
}

function namesOf(
  place: StepPlace,
  path: Path,
  spec: string | readonly string[] | { all_but: string[] },
  table: Table,
  tableName: string,
): string[] | undefined {
  const chosen = typeof spec === "object" && !Array.isArray(spec) ? (spec as { all_but: string[] }).all_but : undefined;
  const names = chosen ?? (typeof spec === "string" ? [spec] : (spec as readonly string[]));
  const inner = chosen ? [...path, "all_but"] : path;
  const found = new Set<string>();
  let sound = true;
  names.forEach((name, at) => {
    if (table.columns.has(name)) {
      found.add(name);
      return;
    }
    if (name.length > LIMITS.patternLength) {
      sound = false;
      wrongStep(place, [...inner, at], "too-long", boundMessage("patternLength", name.length, "this name"));
      return;
    }
    const glob = /[*?]/.test(name) ? new Glob(name) : undefined;
    const matching = glob ? [...table.columns.keys()].filter((column) => glob.fits(column)) : [];
    for (const match of matching) found.add(match);
    if (matching.length) return;
    sound = false;
    unknownColumn(place, typeof spec === "string" ? inner : [...inner, at], name, table, tableName);
  });
  if (!sound) return undefined;
  return chosen ? [...table.columns.keys()].filter((name) => !found.has(name)) : [...found];
}

export function unknownColumn(
  { compiling, ...place }: StepPlace,
  path: Path,
  name: string,
  table = place.table,
  tableName = place.tableName,
) {
  const near = nearest(name, table.columns.keys());
  const span = compiling.sheet.source.valueSpan(path);
  const message =
    `${tableName} has no column "${name}" ` +
    `here${near ? `; did you mean ${near}?` : `; its columns are ${listed(table.columns.keys())}`}`;
  addFinding(compiling, path, "unknown-column", message, {
    piece: `tables.${place.tableName}`,
    ...writeFix(span, near),
  });
}

export function formulaAt(
  place: StepPlace,
  path: Path,
  text: string,
  options: Parameters<typeof checkedFormula>[5] = {},
): CheckedFormula | undefined {
  return checkedFormula(place.compiling, path, text, place.tableName, place.table, {
    piece: `tables.${place.tableName}`,
    ...options,
  });
}

/** Sort items: one leading minus means descending for the whole item. */
export function sortKey(text: string): { text: string; descending: boolean; offset: number } {
  const match = /^\s*-\s*/.exec(text);
  return match
    ? { text: text.slice(match[0].length), descending: true, offset: match[0].length }
    : { text, descending: false, offset: 0 };
}

/** The keys of a sort, or of the order in which functions look at other rows. */
export function sortKeys(place: StepPlace, path: Path, spec: string | string[]): SortKey[] | undefined {
  const keys = asList(spec).map((item, at): SortKey | undefined => {
    const { text, descending, offset } = sortKey(item);
    const by = formulaAt(place, itemPath(path, spec, at), text, { offset });
    return by && { by: by.formula, descending };
  });
  return keys.some((key) => key === undefined) ? undefined : (keys as SortKey[]);
}

/** Keys of groups, under their own names. */
export function keysBy(place: StepPlace, path: Path, spec: string | string[] | undefined): NamedResult[] | undefined {
  const keys = (spec === undefined ? [] : asList(spec)).map((text, at): NamedResult | undefined => {
    const checked = formulaAt(place, itemPath(path, spec, at), text, {
      named: true,
      aggregates: "none",
      rowFunctions: "none",
    });
    return checked && { name: nameOf(checked), formula: checked.formula };
  });
  return keys.some((key) => key === undefined) ? undefined : (keys as NamedResult[]);
}

/** What a result is called: as the sheet says, else as its column, else as it is written. */
export function nameOf(checked: CheckedFormula): string {
  return checked.name ?? (checked.formula.type === "column" ? checked.formula.name : printFormula(checked.formula));
}

/** What the kinds of columns are, in words. */
export function kindsIn(table: Table, names: readonly string[]): string[] {
  return [...new Set(names.map((name) => kindOf(table.columns.get(name) as Parameters<typeof kindOf>[0])))];
}
