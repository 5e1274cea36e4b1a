import { listed, nearest } from "../finding/nearest";
import { AGGREGATES } from "../formula/aggregate-names";
import { globTest } from "../formula/functions";
import { printFormula } from "../formula/print";
import { type Formula, partsOf, settingsOf } from "../formula/tree";
import type { StepSpec } from "../sheet/schema";
import type { Path } from "../sheet/tree";
import type { NamedResult, SortKey, Step } from "../steps/step";
import type { Table } from "../table/table";
import { addFinding, type CheckedFormula, type Compiling, checkedFormula } from "./compiling";

/** A step made ready, with how the ledger calls it. */
export interface ReadyStep {
  step: Step;
  text: string;
}

interface StepPlace {
  compiling: Compiling;
  path: Path;
  tableName: string;
  table: Table;
}

const asList = <T>(value: T | T[]): T[] => (Array.isArray(value) ? value : [value]);

/** Names of columns, with patterns filled in; a finding for each that is not there. */
function columnNames(place: StepPlace, key: string, spec: string[] | { all_but: string[] }): string[] | undefined {
  const { path, table } = place;
  const inner = Array.isArray(spec) ? [...path, key] : [...path, key, "all_but"];
  const names = Array.isArray(spec) ? spec : spec.all_but;
  const found: string[] = [];
  let sound = true;
  names.forEach((name, at) => {
    if (table.columns.has(name)) {
      if (!found.includes(name)) found.push(name);
      return;
    }
    const matching = /[*?]/.test(name) ? [...table.columns.keys()].filter(globTest(name)) : [];
    if (matching.length) {
      for (const match of matching) if (!found.includes(match)) found.push(match);
      return;
    }
    sound = false;
    unknownColumn(place, [...inner, at], name);
  });
  if (!sound) return undefined;
  return Array.isArray(spec) ? found : [...table.columns.keys()].filter((name) => !found.includes(name));
}

function unknownColumn({ compiling, table, tableName }: StepPlace, path: Path, name: string) {
  const near = nearest(name, table.columns.keys());
  const span = compiling.sheet.source.valueSpan(path);
  const message = `${tableName} has no column "${name}" here${near ? `; did you mean ${near}?` : `; its columns are ${listed(table.columns.keys())}`}`;
  addFinding(compiling, path, "unknown-column", message, {
    piece: `tables.${tableName}`,
    ...(near && span ? { fix: { title: `write ${near}`, edits: [{ ...span, text: near }] } } : {}),
  });
}

function formulaAt(place: StepPlace, path: Path, text: string, options: Parameters<typeof checkedFormula>[5] = {}): CheckedFormula | undefined {
  return checkedFormula(place.compiling, path, text, place.tableName, place.table, { piece: `tables.${place.tableName}`, ...options });
}

/** Sort items: one leading minus means descending for the whole item. */
export function sortKey(text: string): { text: string; descending: boolean; offset: number } {
  const match = /^\s*-\s*/.exec(text);
  return match ? { text: text.slice(match[0].length), descending: true, offset: match[0].length } : { text, descending: false, offset: 0 };
}

/** Checks one step against the columns it finds. Answers nothing where it cannot run. */
export function readyStep(place: StepPlace, spec: StepSpec): ReadyStep | undefined {
  const { path, table } = place;
  const within = spec.within ? columnNames(place, "within", spec.within) : [];
  if (!within) return undefined;
  if (spec.keep !== undefined) {
    const test = formulaAt(place, [...path, "keep"], spec.keep, { wanted: "boolean" });
    return test && { step: { do: "keep", test: test.formula, within }, text: `keep ${spec.keep}` };
  }
  if (spec.add) return addStep(place, spec.add, within);
  if (spec.only || spec.drop) {
    const key = spec.only ? "only" : "drop";
    const names = columnNames(place, key, (spec.only ?? spec.drop) as string[]);
    if (!names) return undefined;
    const columns = key === "only" ? names : [...table.columns.keys()].filter((name) => !names.includes(name));
    return { step: { do: "only", columns }, text: `${key} ${names.join(", ")}` };
  }
  if (spec.rename) return renameStep(place, spec.rename);
  if (spec.unique) {
    const columns = spec.unique === "all" ? [...table.columns.keys()] : columnNames(place, "unique", spec.unique);
    return columns && { step: { do: "unique", columns }, text: spec.unique === "all" ? "unique rows" : `unique by ${columns.join(", ")}` };
  }
  if (spec.group) return groupStep(place, spec.group);
  if (spec.sort) {
    const items = asList(spec.sort);
    const keys = items.map((item, at): SortKey | undefined => {
      const { text, descending, offset } = sortKey(item);
      const inner = Array.isArray(spec.sort) ? [...path, "sort", at] : [...path, "sort"];
      const by = formulaAt(place, inner, text, { offset });
      return by && { by: by.formula, descending };
    });
    if (keys.some((key) => key === undefined)) return undefined;
    return { step: { do: "sort", keys: keys as SortKey[] }, text: `sort by ${items.join(", ")}` };
  }
  for (const key of ["first", "last"] as const) {
    const rows = spec[key];
    if (rows === undefined) continue;
    const count = formulaAt(place, [...path, key], rows, { wanted: "number" });
    return count && { step: { do: key, rows: count.formula, within }, text: `${key} ${rows}${within.length ? ` within ${within.join(", ")}` : ""}` };
  }
  return undefined;
}

function addStep(place: StepPlace, spec: Record<string, string>, within: string[]): ReadyStep | undefined {
  // Each column sees those above it, so kinds are gathered as they come.
  const seen = { ...place, table: place.table };
  const columns: NamedResult[] = [];
  let sound = true;
  for (const [name, text] of Object.entries(spec)) {
    const checked = formulaAt(seen, [...place.path, "add", name], text);
    if (!checked) {
      sound = false;
      continue;
    }
    columns.push({ name, formula: checked.formula });
    const kinds = new Map(seen.table.columns);
    kinds.set(name, checked.kind === "text" || checked.kind === "place" ? { kind: "text", codes: new Int32Array(0), dictionary: [] } : { kind: checked.kind, values: new Float64Array(0) });
    seen.table = { ...seen.table, columns: kinds };
  }
  return sound ? { step: { do: "add", columns, within }, text: `add ${Object.keys(spec).join(", ")}` } : undefined;
}

function renameStep(place: StepPlace, spec: Record<string, string>): ReadyStep | undefined {
  const { compiling, path, table, tableName } = place;
  let sound = true;
  const taken = new Set([...table.columns.keys()].filter((name) => !(name in spec)));
  for (const [from, to] of Object.entries(spec)) {
    if (!table.columns.has(from)) {
      sound = false;
      unknownColumn(place, [...path, "rename", from], from);
    } else if (taken.has(to)) {
      sound = false;
      addFinding(compiling, [...path, "rename", from], "doubled-column", `${tableName} has a column "${to}" already`, { piece: `tables.${tableName}` });
    }
    taken.add(to);
  }
  return sound ? { step: { do: "rename", names: Object.entries(spec) }, text: `rename ${Object.entries(spec).map(([from, to]) => `${from} to ${to}`).join(", ")}` } : undefined;
}

function groupStep(place: StepPlace, spec: NonNullable<StepSpec["group"]>): ReadyStep | undefined {
  const { compiling, path, tableName } = place;
  const piece = `tables.${tableName}`;
  let sound = true;
  const byTexts = asList(spec.by);
  const by: NamedResult[] = [];
  byTexts.forEach((text, at) => {
    const inner = Array.isArray(spec.by) ? [...path, "group", "by", at] : [...path, "group", "by"];
    const checked = formulaAt(place, inner, text, { named: true, aggregates: "none" });
    if (!checked) sound = false;
    else by.push({ name: checked.name ?? (checked.formula.type === "column" ? checked.formula.name : printFormula(checked.formula)), formula: checked.formula });
  });
  const keys = new Set(by.map(({ formula }) => printFormula(formula)));
  const get: NamedResult[] = [];
  for (const [name, text] of Object.entries(spec.get ?? {})) {
    const inner = [...path, "group", "get", name];
    const checked = formulaAt(place, inner, text);
    if (!checked) {
      sound = false;
      continue;
    }
    const bare = bareColumn(checked.formula, keys);
    if (bare !== undefined || (!checked.aggregate && !checked.constant && !keys.has(printFormula(checked.formula)))) {
      sound = false;
      addFinding(compiling, inner, "bare-column", `${bare ?? text} has several values in a group; take one with sum(), mean(), first() or another aggregate`, { piece });
    } else if (by.some((key) => key.name === name)) {
      sound = false;
      addFinding(compiling, inner, "doubled-column", `"${name}" is the name of a key already`, { piece });
    } else get.push({ name, formula: checked.formula });
  }
  return sound ? { step: { do: "group", by, get }, text: `group by ${byTexts.join(", ")}` } : undefined;
}

/** A column that stands beside an aggregate without being a key: it has no one value there. */
export function bareColumn(formula: Formula, keys: ReadonlySet<string>): string | undefined {
  if (keys.has(printFormula(formula))) return undefined;
  if (formula.type === "column") return formula.name;
  if (formula.type === "call" && AGGREGATES.has(formula.name)) return undefined;
  for (const part of partsOf(formula)) {
    const bare = bareColumn(part, keys);
    if (bare !== undefined) return bare;
  }
  return undefined;
}

/** True if a step's formulas read a setting. */
export function usesSettings(step: Step): boolean {
  const any = (formulas: Formula[]) => formulas.some((formula) => settingsOf(formula).size > 0);
  switch (step.do) {
    case "keep":
      return any([step.test]);
    case "add":
      return any(step.columns.map(({ formula }) => formula));
    case "group":
      return any([...step.by, ...step.get].map(({ formula }) => formula));
    case "sort":
      return any(step.keys.map(({ by }) => by));
    case "first":
    case "last":
      return any([step.rows]);
    default:
      return false;
  }
}
