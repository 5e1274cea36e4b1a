import { lookSpec, SET_LOOKS, type SetLookName } from "../../control/index";
import { listed } from "../../finding/nearest";
import type { SetControlPlan, SettingPlan } from "../../plan/plan";
import { categoriesOf } from "../../query/categories";
import { categoryText } from "../../query/write";
import type { ControlSpec } from "../../sheet/schema-controls";
import type { Kind } from "../../table/column";
import type { Table } from "../../table/table";
import { readIsoDate } from "../../table/time-text";
import { spaced } from "../channels";
import type { Compiling } from "../compiling";
import { type ControlDraft, niceStep, wrongControl } from "./draft";

const NUMBER = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/;

/** A list that follows a table: its columns of a kind, or the values of one of its columns. */
const FOLLOWS = /^(columns|values)\(\s*([^,()]+?)\s*(?:,\s*([^,()]+?)\s*)?\)$/;

/** Reads the settings first: tables and formulas need their kinds. */
export function readSettings(compiling: Compiling) {
  for (const [name, spec] of compiling.sheet.controls) {
    if (spec.set !== undefined) compiling.settings.set(name, settingOf(spec));
    // How often a button was pressed is what the draws of its tables follow.
    else if (spec.does === "redraw") compiling.settings.set(name, { kind: "number", start: 0 });
  }
}

/** The buttons that have the draws of a table made anew. */
export function redrawsOf({ sheet }: Compiling, table: string): string[] {
  return [...sheet.controls].flatMap(([name, { does, to }]) =>
    does === "redraw" && to?.includes(table) ? [name] : [],
  );
}

/** The values of a list as written, without their labels; nothing where it follows a table. */
function writtenValues({ of }: ControlSpec): string[] | undefined {
  if (of === undefined || typeof of === "string") return undefined;
  return Array.isArray(of) ? of : Object.keys(of);
}

function settingOf(spec: ControlSpec): SettingPlan {
  const values = writtenValues(spec);
  if (Array.isArray(spec.set)) return listOf(spec.set, values);
  const start = spec.set as string;
  if (NUMBER.test(start) && (values ?? []).every((value) => NUMBER.test(value)) && typeof spec.of !== "string")
    return { kind: "number", start: Number(start) };
  if ((start === "true" || start === "false") && !values) return { kind: "boolean", start: start === "true" };
  return {
    kind: "text",
    start,
    ...(values ? { of: values } : {}),
    ...(spec.as === "date" ? { day: true as const } : {}),
  };
}

/** A setting that is a list of values, all of one kind. */
function listOf(start: readonly string[], values: readonly string[] | undefined): SettingPlan {
  const isNumbers = [...start, ...(values ?? [])].every((value) => NUMBER.test(value));
  return {
    kind: isNumbers ? "number" : "text",
    list: true,
    start: JSON.stringify(isNumbers ? start.map(Number) : start),
    ...(values ? { of: [...values] } : {}),
  };
}

/** Tables that settings take their lists from: they are built before others. */
export function tablesOfSettings(compiling: Compiling): string[] {
  return [...compiling.sheet.controls.values()].flatMap(({ of }) => {
    const table = typeof of === "string" ? FOLLOWS.exec(of)?.[2] : undefined;
    return table === undefined ? [] : [table];
  });
}

/** Gives settings whose list follows a table that is built by now all that they may be. */
export function followTable(compiling: Compiling, tableName: string) {
  const table = compiling.tables.get(tableName)?.table;
  for (const [name, spec] of compiling.sheet.controls) {
    const setting = compiling.settings.get(name);
    const found = typeof spec.of === "string" ? FOLLOWS.exec(spec.of) : null;
    if (!setting || !table || found?.[2] !== tableName) continue;
    const [, what, , third] = found;
    if (what === "columns")
      setting.of = [...table.columns]
        .filter(([, column]) => third === undefined || column.kind === third)
        .map(([column]) => column);
    else if (third !== undefined) followValues(setting, spec, valuesFollowed(table, third));
  }
}

/** Kinds whose values a setting may take. */
const TAKEN: ReadonlySet<Kind> = new Set(["text", "number", "boolean", "date"]);

/** The values of a column that a setting may be, in the order in which they stand as categories. */
function valuesFollowed(table: Table, name: string): { kind: Kind; values: string[] } | undefined {
  const column = table.columns.get(name);
  if (!column || !TAKEN.has(column.kind)) return undefined;
  const values = categoriesOf(column, table.info.get(name)?.order).flatMap((one) => one.name ?? []);
  return { kind: column.kind, values };
}

/** A setting that is one of the values of a column is of that column's kind. */
function followValues(setting: SettingPlan, { set }: ControlSpec, found: ReturnType<typeof valuesFollowed>) {
  if (!found || Array.isArray(set)) {
    if (found?.kind === "text") setting.of = found.values;
    return;
  }
  const { kind, values } = found;
  if (kind === "number") Object.assign(setting, { kind, start: Number(set) });
  else if (kind === "boolean") Object.assign(setting, { kind, start: set === "true" });
  else {
    setting.of = values;
    if (kind === "date") setting.day = true;
  }
}

/** The table whose columns some names are, if they are. */
function tableWithAll({ tables }: Compiling, names: readonly string[]): Table | undefined {
  return [...tables.values()].find(({ table }) => names.every((name) => table.columns.has(name)))?.table;
}

/** The list of a setting with the words by which readers know each value. */
function labelled({ compiling, spec }: ControlDraft, values: readonly string[]): SetControlPlan["of"] {
  const { of } = spec;
  if (of !== undefined && typeof of === "object" && !Array.isArray(of))
    return Object.entries(of).map(([value, label]) => ({ value, label }));
  const follows = typeof of === "string" ? FOLLOWS.exec(of) : null;
  if (follows?.[1] === "values") return valueWords(compiling, follows, values);
  // Names of columns are known to readers by their labels, also where the sheet lists them itself.
  const table = tableWithAll(compiling, values);
  return values.map((value) => ({
    value,
    label: table ? (table.info.get(value)?.label ?? spaced(value)) : value,
  }));
}

/** Values of a column with the words in which charts name them. */
function valueWords({ tables }: Compiling, [, , from = "", name = ""]: string[], values: readonly string[]) {
  const table = tables.get(from)?.table;
  const { format } = table?.info.get(name) ?? {};
  const channel = { kind: table?.columns.get(name)?.kind ?? "text", ...(format === undefined ? {} : { format }) };
  return values.map((value) => ({ value, label: categoryText(value, channel) }));
}

/** Checks the control of a setting; nothing where it cannot be shown. */
export function readSetting(draft: ControlDraft): SetControlPlan | undefined {
  const { compiling, name, spec, label } = draft;
  for (const key of ["from", "none", "only", "fade", "highlight", "zoom", "all", "most", "start"] as const)
    if (spec[key] !== undefined) wrongControl(draft, key, "wrong-key", `"${key}" goes with pick:, not with set:`);
  const setting = compiling.settings.get(name) as SettingPlan;
  const values = setting.of ?? (typeof spec.of === "string" ? followedList(draft, spec.of) : writtenValues(spec));
  if (values === null) return undefined;
  if (Array.isArray(spec.set)) return readListSetting(draft, spec.set, values);
  const look = spec.as ?? naturalLook(setting, values !== undefined, spec.range !== undefined);
  const { set } = lookSpec(look);
  if (!set || !(SET_LOOKS as readonly string[]).includes(look))
    return wrongControl(draft, "as", "wrong-value", `a setting is shown as ${listed(SET_LOOKS, 20)}`);
  const problem = set.fits({ kind: setting.kind, closed: values !== undefined, ranged: spec.range !== undefined });
  if (problem !== undefined)
    return wrongControl(draft, /needs its/.test(problem) ? undefined : "set", codeOf(problem), problem);
  if (values && !values.includes(spec.set as string))
    return wrongControl(draft, "set", "wrong-value", `"${spec.set}" is not one of ${listed(values, 20)}`);
  if (setting.day && Number.isNaN(readIsoDate(setting.start as string)))
    return wrongControl(draft, "set", "wrong-value", `"${spec.set}" is no day; one is written as 2024-03-01`);
  if (look === "color" && !/^#[0-9a-fA-F]{6}$/.test(String(setting.start)))
    return wrongControl(draft, "set", "wrong-value", `"${spec.set}" is no colour; one is written as "#a07f1a"`);
  const plan: SetControlPlan = { type: "set", name, label, as: look as SetLookName };
  if (values) plan.of = labelled(draft, values) as NonNullable<SetControlPlan["of"]>;
  if (spec.act) plan.onRelease = true;
  return withRange(draft, plan, setting);
}

/** The values of a column of numbers or of true and false; `null` where a list cannot be read, which is said. */
function followedList(draft: ControlDraft, of: string): string[] | null {
  const { tables, sheet } = draft.compiling;
  const [, what, from = "", name = ""] = FOLLOWS.exec(of) ?? [];
  if (sheet.broken.has(`tables.${from}`)) return null;
  const table = tables.get(from)?.table;
  const found = what === "values" && table ? valuesFollowed(table, name) : undefined;
  if (found) return found.values;
  const column = table?.columns.get(name);
  const message =
    what === "values" && column
      ? `a setting takes values of text, numbers, dates or true and false; ${name} holds ${column.kind}`
      : "a list is written as [a, b], {value: label}, columns(TABLE, number) or values(TABLE, COLUMN)";
  wrongControl(draft, "of", "wrong-value", message);
  return null;
}

/** A setting of which readers take several values of a closed list. */
function readListSetting(
  draft: ControlDraft,
  start: readonly string[],
  values: readonly string[] | undefined,
): SetControlPlan | undefined {
  const { name, spec, label } = draft;
  if (!values)
    return wrongControl(draft, undefined, "key-missing", "a setting that is a list needs of: all that may be in it");
  if (spec.as !== undefined && spec.as !== "menu")
    return wrongControl(draft, "as", "wrong-value", `a list is shown as menu, not as ${spec.as}`);
  const odd = start.find((value) => !values.includes(value));
  if (odd !== undefined)
    return wrongControl(draft, "set", "wrong-value", `"${odd}" is not one of ${listed(values, 20)}`);
  const of = labelled(draft, values) ?? [];
  return { type: "set", name, label, as: "menu", several: true, of };
}

const codeOf = (problem: string) => (/needs its/.test(problem) ? "key-missing" : "wrong-kind");

function naturalLook({ kind }: SettingPlan, closed: boolean, ranged: boolean): SetLookName {
  if (closed) return "menu";
  if (kind === "number") return ranged ? "slider" : "stepper";
  return kind === "boolean" ? "switch" : "text";
}

/** Adds the ends and the step of a number. */
function withRange(draft: ControlDraft, plan: SetControlPlan, setting: SettingPlan): SetControlPlan | undefined {
  const { spec } = draft;
  if (!spec.range) {
    if (setting.kind === "number" && spec.step !== undefined) plan.step = spec.step;
    return plan;
  }
  if (setting.kind !== "number") return wrongControl(draft, "range", "wrong-key", "range: goes with numbers");
  const [low, high] = spec.range.map(Number) as [number, number];
  const start = setting.start as number;
  if (Number.isNaN(low) || Number.isNaN(high))
    return wrongControl(draft, "range", "wrong-value", "the range of a setting is two numbers");
  if (!(low < high) || start < low || start > high)
    return wrongControl(draft, "range", "wrong-value", `the start ${start} must lie between ${low} and ${high}`);
  if (spec.scale === "log" && low <= 0)
    return wrongControl(draft, "range", "wrong-value", "a log rail begins above zero");
  plan.range = [low, high];
  plan.step = spec.step ?? niceStep(low, high);
  if (spec.scale === "log") plan.log = true;
  return plan;
}
