import { evaluate, frameOf } from "../formula/evaluate";
import { columnOf } from "../formula/vector";
import { inclusiveEnd } from "../link/predicate";
import { OPEN_HIGH, OPEN_LOW, type SelectionPlan, type SelectionState } from "../link/selection";
import type { ControlPlan, PickControlPlan } from "../plan/plan";
import { nameAt } from "../query/categories";
import type { Kind, NumericKind, Scalar } from "../table/column";
import { extentOf } from "../table/extent";
import { readIsoDate, readIsoDatetime } from "../table/time-text";
import { addFinding, type Compiling, settingValue } from "./compiling";

/** A number, length of time or date as it is written in a sheet, a state or an address. */
export function readValue(kind: string, text: string): number {
  if (kind === "date" || kind === "datetime") {
    const date = readIsoDate(text);
    return date === date ? date : readIsoDatetime(text);
  }
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
    if (control.type !== "pick") continue;
    const nothing = control.holds === "values" && control.none === "nothing" && !control.full;
    if (!control.start && !nothing) continue;
    const selection = selections.find(({ name }) => name === control.name);
    const state = startOf(compiling, control);
    if (selection && state) selection.start = state;
  }
}

/** The range of a control that holds one end of it; the other is open. */
function boundState({ end }: PickControlPlan, value: number): SelectionState {
  return { x: end === "low" ? [value, OPEN_HIGH] : [OPEN_LOW, value] };
}

/** True for a range over all known values, which is off. */
function isWhole(compiling: Compiling, { from, channel }: PickControlPlan, low: number, high: number): boolean {
  const table = compiling.tables.get(from)?.table;
  const column = table && columnOf(evaluate(channel.formula, frameOf(table, settingValue(compiling))), table.rowCount);
  const extent = column && column.kind !== "text" ? extentOf(column.values) : undefined;
  return extent !== undefined && low <= extent[0] && inclusiveEnd(channel.kind, high) > extent[1];
}

function startOf(compiling: Compiling, control: PickControlPlan): SelectionState | undefined {
  const start = control.start ?? [];
  const { kind, text } = control.channel;
  if (control.holds === "values") return { keys: start.map((name) => ({ [text]: valueNamed(kind, name) })) };
  if (control.holds === "bound") return boundState(control, readValue(kind, start[0] as string));
  const [low, high] = start.map((text) => readValue(control.channel.kind, text)) as [number, number];
  if (low <= high) return isWhole(compiling, control, low, high) ? undefined : { x: [low, high] };
  addFinding(
    compiling,
    ["controls", control.name, "start"],
    "wrong-value",
    `[${start.join(", ")}] are not two ends for a ${control.channel.kind}`,
    { piece: control.name },
  );
  return undefined;
}
