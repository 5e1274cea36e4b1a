import { nearest } from "../finding/nearest";
import { evaluate, frameOf } from "../formula/evaluate";
import { columnOf } from "../formula/vector";
import { inclusiveEnd } from "../link/predicate";
import { OPEN_HIGH, OPEN_LOW, type SelectionPlan, type SelectionState } from "../link/selection";
import type { ControlPlan, PickControlPlan } from "../plan/plan";
import { categoriesOf, nameAt } from "../query/categories";
import { keyName } from "../query/query";
import type { Column, Kind, NumericKind, Scalar } from "../table/column";
import { extentOf } from "../table/extent";
import { readDuration, readIsoDate, readIsoDatetime } from "../table/time-text";
import { addFinding, type Compiling, settingValue } from "./compiling";

/** A number, length of time or date as it is written in a sheet, a state or an address. */
export function readValue(kind: string, text: string): number {
  if (kind === "date" || kind === "datetime") {
    const date = readIsoDate(text);
    return date === date ? date : readIsoDatetime(text);
  }
  if (kind === "duration" && text.includes(":")) return readDuration(text);
  return /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/.test(text) ? Number(text) : Number.NaN;
}

/** The name by which a reader's list knows a value as written in a sheet; nothing for what the kind cannot hold. */
export function nameOfWritten(kind: Kind, text: string): string | undefined {
  if (kind === "text" || kind === "place") return text;
  if (kind === "boolean") return text === "true" || text === "false" ? text : undefined;
  const value = readValue(kind, text);
  return value === value
    ? (nameAt({ kind: kind as NumericKind, values: Float64Array.of(value) }, 0) as string)
    : undefined;
}

/** The value behind such a name, as keys of selections hold it. */
export function valueNamed(kind: Kind, name: string): Scalar {
  if (kind === "boolean") return name === "true";
  return kind === "number" || kind === "duration" ? Number(name) : name;
}

/** Puts the starts that controls ask for into their selections. */
export function startStates(
  compiling: Compiling,
  controls: readonly ControlPlan[],
  selections: readonly SelectionPlan[],
) {
  for (const control of controls) {
    const state = stateAtStart(compiling, control);
    const selection = state && selections.find(({ name }) => name === control.name);
    if (selection) selection.start = state;
  }
}

function stateAtStart(compiling: Compiling, control: ControlPlan): SelectionState | undefined {
  if (control.type === "search") return control.start === undefined ? undefined : { search: control.start };
  if (control.type === "any") return control.start && { conditions: control.start };
  if (control.type !== "pick") return undefined;
  const nothing = control.holds === "values" && control.none === "nothing" && !control.full;
  return control.start || nothing ? startOf(compiling, control) : undefined;
}

/** The range of a control that holds one end of it; the other is open. */
function boundState({ end }: PickControlPlan, value: number): SelectionState {
  return { x: end === "low" ? [value, OPEN_HIGH] : [OPEN_LOW, value] };
}

/** What a control picks from, row by row; nothing where its table was found wrong. */
function columnPicked(compiling: Compiling, { from, channel }: PickControlPlan): Column | undefined {
  const table = compiling.tables.get(from)?.table;
  return table && columnOf(evaluate(channel.formula, frameOf(table, settingValue(compiling))), table.rowCount);
}

/** The state of a range; none where it is over all known values, which is off. An end that is not written is open. */
function rangeState(compiling: Compiling, control: PickControlPlan): SelectionState | undefined {
  const { start = [], channel } = control;
  const column = columnPicked(compiling, control);
  const extent = column && column.kind !== "text" ? extentOf(column.values) : undefined;
  const endOf = (at: 0 | 1) => {
    const text = start[at] ?? "";
    return text === "" && extent ? extent[at] : readValue(channel.kind, text);
  };
  const [low, high] = [endOf(0), endOf(1)];
  const isWhole = extent && low <= extent[0] && inclusiveEnd(channel.kind, high) > extent[1];
  if (low <= high) return isWhole ? undefined : { x: [low, high] };
  const message = `[${start.join(", ")}] are not two ends for a ${channel.kind}`;
  addFinding(compiling, ["controls", control.name, "start"], "wrong-value", message, { piece: control.name });
  return undefined;
}

/** The names that are picked at the start and are there; others are told, as next month's table may not have them. */
function namesThere(compiling: Compiling, control: PickControlPlan): string[] {
  const column = columnPicked(compiling, control);
  const values = column ? categoriesOf(column).flatMap(({ name }) => name ?? []) : [];
  const { split, start = [] } = control;
  const there = new Set(split === undefined ? values : values.flatMap((text) => text.split(split)));
  return start.filter((name) => {
    if (!column || there.has(name)) return true;
    const near = nearest(name, there);
    const message = `${control.channel.text} has no value "${name}"${near ? `; did you mean ${near}?` : ""}`;
    addFinding(compiling, ["controls", control.name, "start"], "unknown-value", message, {
      severity: "warning",
      piece: control.name,
    });
    return false;
  });
}

function startOf(compiling: Compiling, control: PickControlPlan): SelectionState | undefined {
  const { start = [], channel, holds, none } = control;
  if (holds === "range") return rangeState(compiling, control);
  if (holds === "bound") return boundState(control, readValue(channel.kind, start[0] as string));
  const names = namesThere(compiling, control);
  // Where none of them is there, all would be left out.
  if (names.length === 0 && start.length > 0 && none === "all") return undefined;
  return { keys: names.map((name) => ({ [keyName(channel)]: valueNamed(channel.kind, name) })) };
}
