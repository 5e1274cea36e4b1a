import { evaluate, frameOf } from "../formula/evaluate";
import { columnOf } from "../formula/vector";
import { inclusiveEnd } from "../link/predicate";
import type { SelectionPlan, SelectionState } from "../link/selection";
import type { ControlPlan, PickControlPlan } from "../plan/plan";
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

/** Puts the starts that controls ask for into their selections. */
export function startStates(
  compiling: Compiling,
  controls: readonly ControlPlan[],
  selections: readonly SelectionPlan[],
) {
  for (const control of controls) {
    if (control.type !== "pick" || !control.start) continue;
    const selection = selections.find(({ name }) => name === control.name);
    const state = startOf(compiling, control);
    if (selection && state) selection.start = state;
  }
}

/** True for a range over all known values, which is off. */
function isWhole(compiling: Compiling, { from, channel }: PickControlPlan, low: number, high: number): boolean {
  const table = compiling.tables.get(from)?.table;
  const column = table && columnOf(evaluate(channel.formula, frameOf(table, settingValue(compiling))), table.rowCount);
  const extent = column && column.kind !== "text" ? extentOf(column.values) : undefined;
  return extent !== undefined && low <= extent[0] && inclusiveEnd(channel.kind, high) > extent[1];
}

function startOf(compiling: Compiling, control: PickControlPlan): SelectionState | undefined {
  const start = control.start as string[];
  if (control.as !== "range") return { keys: start.map((value) => ({ [control.channel.text]: value })) };
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
