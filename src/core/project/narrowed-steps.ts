import { applyEdits, type TextEdit } from "../finding/finding";
import type { PlanTable } from "../plan/plan";
import { type SheetValue, setValue } from "../sheet/edit/edit";
import { insertStep, removeStep, type StepValue } from "../sheet/edit/step-edit";
import type { StepSpec, TableSpec } from "../sheet/schema-tables";
import { columnsAfter } from "../steps/run";
import type { Step } from "../steps/step";
import type { Kind } from "../table/column";

/**
 * The text with the steps of a table that run in the dashboard as they can be read again over the tables that were
 * packed: columns that nothing needed are not there, and steps do not speak of them.
 */
export function narrowSteps(
  text: string,
  name: string,
  { steps: specs = [] }: TableSpec,
  tables: readonly PlanTable[],
): string {
  const table = tables.find((one) => one.name === name);
  const live = table?.steps ?? [];
  // Steps that are switched off are in no plan.
  const on = specs.flatMap((spec, at) => (spec.off ? [] : [{ spec, at }])).slice(-live.length || specs.length);
  if (table?.from === undefined || on.length !== live.length) return text;
  let there = columnsThere(table.from, tables);
  let left = text;
  // The last first, so that the places of steps stay what they are.
  const changes: ((written: string) => TextEdit[] | undefined)[] = [];
  for (const [place, { spec, at }] of on.entries()) {
    const step = live[place] as Step;
    for (const [key, value] of Object.entries(narrowed(spec, step, there)))
      changes.unshift((written) =>
        isNothing(value) ? removeStep(written, name, at) : setValue(written, ["tables", name, "steps", at, key], value),
      );
    for (const before of step.do === "stack" ? evened(step.tables, there, tables) : [])
      changes.unshift((written) => insertStep(written, name, at, before));
    there = columnsAfter(step, new Set(there));
  }
  for (const change of changes) left = applyEdits(left, change(left) ?? []);
  return left;
}

/**
 * Steps before a stack by which a table has the columns of those that it stacks: without those that were packed for
 * its own steps alone, and with missing ones for those that were packed for theirs.
 */
function evened(stacked: readonly string[], there: ReadonlySet<string>, tables: readonly PlanTable[]): StepValue[] {
  const add: Record<string, string> = {};
  const drop = new Set<string>();
  for (const name of stacked) {
    const columns = columnsThere(name, tables);
    for (const column of there) if (!columns.has(column)) drop.add(column);
    const kinds = tables.find((one) => one.name === name)?.columns ?? {};
    for (const column of columns)
      if (!there.has(column)) add[column] = `if(false, ${LITERALS[kinds[column] ?? "text"]}, missing)`;
  }
  return [...(drop.size ? [{ drop: [...drop] }] : []), ...(isNothing(add) ? [] : [{ add }])];
}

/** A value of each kind as a formula writes it. */
const LITERALS: Readonly<Record<Kind, string>> = {
  number: "0",
  text: '""',
  boolean: "true",
  date: 'date("2000-01-01")',
  datetime: 'datetime("2000-01-01")',
  duration: "duration(0)",
  place: '""',
};

/**
 * The columns that a table has in the dashboard, where those that nothing needs are not there. It stands after the
 * one that it is made of; a foreign plan in which it does not leads nowhere.
 */
function columnsThere(name: string, tables: readonly PlanTable[]): ReadonlySet<string> {
  const at = tables.findIndex((one) => one.name === name);
  const table = tables[at];
  if (table?.from === undefined) return new Set(Object.keys(table?.columns ?? {}));
  return (table.steps ?? []).reduce<ReadonlySet<string>>(
    (columns, step) => columnsAfter(step, new Set(columns)),
    columnsThere(table.from, tables.slice(0, at)),
  );
}

const isNothing = (value: SheetValue) => typeof value === "object" && Object.keys(value ?? {}).length === 0;

/** The keys of a step of which some names are left, with these; of a step that stays as it is, none. */
function narrowed(spec: StepSpec, step: Step, there: ReadonlySet<string>): Record<string, SheetValue> {
  const entries = {
    add: step.do === "add" && entriesLeft(spec.add, new Set(step.columns.map(({ name }) => name))),
    fill: step.do === "fill" && entriesLeft(spec.fill, there),
    rename: step.do === "rename" && entriesLeft(spec.rename, there),
  };
  for (const [key, left] of Object.entries(entries)) if (left) return { [key]: left };
  if (step.do === "join" && spec.join) {
    const left = new Set(step.get.map(([own]) => own));
    const { get } = spec.join;
    const kept = Array.isArray(get) ? namesLeft(get, left) : entriesLeft(get, left);
    return kept ? { join: { ...spec.join, get: kept } as SheetValue } : {};
  }
  for (const key of ["drop", "only", "fill_forward"] as const) {
    const names = spec[key];
    const left = Array.isArray(names) ? namesLeft(names, there) : undefined;
    if (left) return { [key]: left };
  }
  return {};
}

/** The names of a list that are kept; nothing where all are. Globs and all but some take what is there. */
function namesLeft(names: readonly unknown[], kept: ReadonlySet<string>): SheetValue[] | undefined {
  const left = names.filter((one) => typeof one !== "string" || /[*?]/.test(one) || kept.has(one));
  return left.length < names.length ? (left as SheetValue[]) : undefined;
}

/** The entries of a map whose names are kept; nothing where all are. */
function entriesLeft(of: object | undefined, kept: ReadonlySet<string>): Record<string, SheetValue> | undefined {
  const all = Object.entries(of ?? {});
  // A list of all but some is written as a map too.
  if (all.some(([, value]) => Array.isArray(value))) return undefined;
  const left = all.filter(([name]) => kept.has(name));
  return left.length < all.length ? Object.fromEntries(left) : undefined;
}
