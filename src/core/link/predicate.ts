import { ownOf } from "../finding/own";
import { evaluate, frameOf } from "../formula/evaluate";
import { groupRows } from "../formula/groups";
import { type Formula, settingsOf } from "../formula/tree";
import { columnOf } from "../formula/vector";
import { nameAt } from "../query/categories";
import type { SettingValues } from "../steps/step";
import { DAY } from "../table/calendar";
import { type Column, type Kind, type Scalar, type TextColumn, valuesIn } from "../table/column";
import { justAbove } from "../table/extent";
import type { Table } from "../table/table";
import { readIsoDate, readIsoDatetime } from "../table/time-text";
import { andOutline } from "./outline";
import type { Condition, Key, SelectionPlan, SelectionState } from "./selection";

/** Columns of formulas over a table, evaluated once each. */
export class FormulaColumns {
  private readonly cache = new Map<Formula, Column>();

  constructor(
    readonly table: Table,
    private readonly setting: SettingValues,
  ) {}

  get(formula: Formula): Column {
    let column = this.cache.get(formula);
    if (!column) {
      column = columnOf(evaluate(formula, frameOf(this.table, this.setting)), this.table.rowCount);
      this.cache.set(formula, column);
    }
    return column;
  }

  /** Lets go of what follows a setting. */
  forget(setting: string) {
    for (const formula of this.cache.keys()) if (settingsOf(formula).has(setting)) this.cache.delete(formula);
  }
}

/** The number by which a column knows a value of a key; `undefined` when no row can have it. */
export function codeOfValue(column: Column, value: Scalar): number | undefined {
  if (column.kind === "text") {
    const code = value === null ? -1 : column.dictionary.indexOf(String(value));
    return value !== null && code < 0 ? undefined : code;
  }
  if (value === null) return Number.NaN;
  if (column.kind === "boolean") return value === true || value === "true" ? 1 : 0;
  if ((column.kind === "date" || column.kind === "datetime") && typeof value === "string") {
    const date = readIsoDate(value);
    const moment = date === date ? date : readIsoDatetime(value);
    return moment === moment ? moment : undefined;
  }
  const number = typeof value === "number" ? value : Number(value);
  return number === number ? number : undefined;
}

/** Leaves rows whose value lies in `[low, high)`. */
function andRange(pass: Uint8Array, values: Float64Array, low: number, high: number) {
  for (let row = 0; row < pass.length; row++) {
    const value = values[row] as number;
    // Without a branch: rows pass at random.
    pass[row] = (pass[row] as number) & Number(value >= low) & Number(value < high);
  }
}

function andKey(pass: Uint8Array, column: Column, wanted: Scalar | [number, number]) {
  if (Array.isArray(wanted)) {
    if (column.kind === "text") pass.fill(0);
    else andRange(pass, column.values, wanted[0], wanted[1]);
    return;
  }
  const code = codeOfValue(column, wanted);
  if (code === undefined) {
    pass.fill(0);
    return;
  }
  if (column.kind === "text") {
    for (let row = 0; row < pass.length; row++) if (column.codes[row] !== code) pass[row] = 0;
    return;
  }
  const missing = code !== code;
  for (let row = 0; row < pass.length; row++) {
    const value = column.values[row] as number;
    if (missing ? value === value : value !== code) pass[row] = 0;
  }
}

/** Cells of several values pass if one of them is wanted. */
function andAnyOf(pass: Uint8Array, { codes, dictionary }: TextColumn, wanted: string, split: string) {
  const holds = Uint8Array.from(dictionary, (text) => (valuesIn(text, split).includes(wanted) ? 1 : 0));
  for (let row = 0; row < pass.length; row++) if (!holds[codes[row] as number]) pass[row] = 0;
}

/** The upper end of a range that holds it: the whole of its day for a day, else the very value. */
export function inclusiveEnd(kind: Kind, high: number): number {
  if (kind === "date" || (kind === "datetime" && high % DAY === 0)) return high + DAY;
  return justAbove(high);
}

function keyPass(key: Key, plan: SelectionPlan, columns: FormulaColumns): Uint8Array {
  const pass = new Uint8Array(columns.table.rowCount).fill(1);
  for (const [text, wanted] of Object.entries(key)) {
    const formula: Formula = ownOf(plan.keys, text) ?? { type: "column", name: text };
    const column = columns.get(stableFormula(columns, text, formula));
    if (plan.split !== undefined && column.kind === "text" && typeof wanted === "string")
      andAnyOf(pass, column, wanted, plan.split);
    else andKey(pass, column, wanted);
  }
  return pass;
}

/** Rows that one of some keys holds. */
function anyKey(keys: readonly Key[], plan: SelectionPlan, columns: FormulaColumns): Uint8Array {
  const any = new Uint8Array(columns.table.rowCount);
  for (const key of keys) {
    const one = keyPass(key, plan, columns);
    for (let row = 0; row < any.length; row++) any[row] = (any[row] as number) | (one[row] as number);
  }
  return any;
}

/**
 * Which texts of one column some keys hold, missing before the first; nothing where they are not all values of one
 * column of texts.
 */
export function textsHeld(
  keys: readonly Key[],
  plan: SelectionPlan,
  columns: FormulaColumns,
): { codes: Int32Array; wanted: Uint8Array } | undefined {
  const [text, ...more] = Object.keys(keys[0] ?? {});
  if (text === undefined || more.length || plan.split !== undefined) return undefined;
  const column = columns.get(stableFormula(columns, text, ownOf(plan.keys, text) ?? { type: "column", name: text }));
  if (column.kind !== "text") return undefined;
  const wanted = new Uint8Array(column.dictionary.length + 1);
  for (const key of keys) {
    const value = ownOf(key, text);
    if (value === undefined || Array.isArray(value) || Object.keys(key).length !== 1) return undefined;
    const code = codeOfValue(column, value);
    if (code !== undefined) wanted[code + 1] = 1;
  }
  return { codes: column.codes, wanted };
}

/** Rows that one of some keys holds, in one pass where these are texts of one column. */
function anyOfTexts(keys: readonly Key[], plan: SelectionPlan, columns: FormulaColumns): Uint8Array | undefined {
  const held = textsHeld(keys, plan, columns);
  if (!held) return undefined;
  const { codes, wanted } = held;
  const any = new Uint8Array(codes.length);
  for (let row = 0; row < any.length; row++) any[row] = wanted[(codes[row] as number) + 1] as number;
  return any;
}

/** Leaves rows that hold a text, in whatever case, in one of the columns that are searched. */
function andSearch(
  pass: Uint8Array,
  wanted: string,
  { columns: searched = {} }: SelectionPlan,
  columns: FormulaColumns,
) {
  const found = new Uint8Array(pass.length);
  for (const formula of Object.values(searched)) orHolds(found, columns.get(formula), wanted);
  for (let row = 0; row < pass.length; row++) pass[row] = (pass[row] as number) & (found[row] as number);
}

/** Adds rows whose text, as it is known by name, holds another text, in whatever case. */
function orHolds(found: Uint8Array, column: Column, wanted: string) {
  const part = wanted.toLowerCase();
  if (column.kind === "text") {
    const holds = Uint8Array.from(column.dictionary, (text) => (text.toLowerCase().includes(part) ? 1 : 0));
    for (let row = 0; row < found.length; row++) {
      const code = column.codes[row] as number;
      if (code >= 0 && holds[code]) found[row] = 1;
    }
    return;
  }
  for (let row = 0; row < found.length; row++) if (nameAt(column, row)?.toLowerCase().includes(part)) found[row] = 1;
}

/** Leaves rows for which a reader's condition holds; what is missing fulfils none but that it is missing. */
function andCondition(
  pass: Uint8Array,
  { column: name, test, value }: Condition,
  plan: SelectionPlan,
  columns: FormulaColumns,
) {
  const column = columns.get(ownOf(plan.columns ?? {}, name) ?? { type: "column", name });
  if (test === "is") andKey(pass, column, value);
  else if (test === "is_not") {
    const is = new Uint8Array(pass.length).fill(1);
    andKey(is, column, value);
    for (let row = 0; row < pass.length; row++) if (is[row]) pass[row] = 0;
  } else if (test === "contains") {
    const holds = new Uint8Array(pass.length);
    orHolds(holds, column, String(value ?? ""));
    for (let row = 0; row < pass.length; row++) if (!holds[row]) pass[row] = 0;
  } else {
    const bound = codeOfValue(column, value);
    if (column.kind === "text" || bound === undefined) pass.fill(0);
    else if (test === "at_least") andRange(pass, column.values, bound, Number.POSITIVE_INFINITY);
    else andRange(pass, column.values, Number.NEGATIVE_INFINITY, inclusiveEnd(column.kind, bound));
  }
}

const stable = new WeakMap<FormulaColumns, Map<string, Formula>>();

/** The same tree for the same text, so that its column is found again. */
function stableFormula(columns: FormulaColumns, text: string, formula: Formula): Formula {
  const known = stable.get(columns) ?? new Map<string, Formula>();
  stable.set(columns, known);
  const found = known.get(text);
  if (found) return found;
  known.set(text, formula);
  return formula;
}

/** What a range on an axis selects on: what the axis showed when it was chosen, where a reader can choose another. */
export function formulaOn({ axes, ons }: SelectionPlan, state: SelectionState, axis: "x" | "y"): Formula | undefined {
  const on = state.on?.[axis];
  return (on === undefined ? undefined : ons?.[on]) ?? axes[axis];
}

/** The values that a range holds, as `[low, high)`, whether its own ends belong to it or not. */
export function heldRange(
  { inclusive, openBelow }: SelectionPlan,
  kind: Kind,
  [low, high]: readonly [number, number],
): [number, number] {
  return [openBelow ? inclusiveEnd(kind, low) : low, inclusive ? inclusiveEnd(kind, high) : high];
}

/**
 * Which rows of the source's table a selection holds: 1 or 0 a row.
 * Values of one selection are alternatives, its axes must both hold.
 */
export function selectionPass(plan: SelectionPlan, state: SelectionState, columns: FormulaColumns): Uint8Array {
  const { rowCount } = columns.table;
  let pass = new Uint8Array(rowCount).fill(1);
  for (const axis of ["x", "y"] as const) {
    const range = state[axis];
    const formula = formulaOn(plan, state, axis);
    if (!range || !formula) continue;
    const column = columns.get(formula);
    if (column.kind === "text") pass.fill(0);
    else andRange(pass, column.values, ...heldRange(plan, column.kind, range));
  }
  if (state.outline && plan.outline) {
    const [x, y] = [columns.get(plan.outline.x), columns.get(plan.outline.y)];
    if (x.kind === "text" || y.kind === "text") pass.fill(0);
    else andOutline(pass, state.outline, [x.values, y.values], plan.outline.bends);
  }
  if (state.search) andSearch(pass, state.search, plan, columns);
  for (const condition of state.conditions ?? []) andCondition(pass, condition, plan, columns);
  if (state.keys) {
    const any = anyOfTexts(state.keys, plan, columns) ?? anyKey(state.keys, plan, columns);
    if (Object.keys(state).length === 1 && plan.by.length === 0) return any;
    for (let row = 0; row < rowCount; row++) pass[row] = (pass[row] as number) & (any[row] as number);
  }
  if (state.rows) {
    const chosen = new Uint8Array(rowCount);
    for (const row of state.rows) if (row >= 0 && row < rowCount) chosen[row] = 1;
    for (let row = 0; row < rowCount; row++) pass[row] = (pass[row] as number) & (chosen[row] as number);
  }
  if (plan.by.length) pass = widen(pass, plan.by, columns.table);
  return pass;
}

/** Every row that has the same values as some row of `pass` in the given columns. */
function widen(pass: Uint8Array, by: readonly string[], table: Table): Uint8Array<ArrayBuffer> {
  const keys = by.map((name) => table.columns.get(name)).filter((column): column is Column => column !== undefined);
  const groups = groupRows(keys, table.rowCount);
  const wanted = new Uint8Array(groups.count);
  for (let row = 0; row < pass.length; row++) if (pass[row]) wanted[groups.of[row] as number] = 1;
  return Uint8Array.from(pass, (_, row) => wanted[groups.of[row] as number] as number);
}
