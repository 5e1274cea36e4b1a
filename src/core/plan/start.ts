import type { SelectionPlan, SelectionState } from "../link/selection";
import { readIsoDate, readIsoDatetime } from "../table/time-text";
import { addFinding, type Compiling } from "./compiling";
import type { ControlPlan, PickControlPlan } from "./plan";

/** A number, length of time or date as it is written in a sheet, a state or an address. */
export function readValue(kind: string, text: string): number {
  if (kind === "date" || kind === "datetime") {
    const date = readIsoDate(text);
    return date === date ? date : readIsoDatetime(text);
  }
  return /^[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?$/.test(text) ? Number(text) : Number.NaN;
}

/** Puts the starts that controls ask for into their selections. */
export function startStates(compiling: Compiling, controls: readonly ControlPlan[], selections: readonly SelectionPlan[]) {
  for (const control of controls) {
    if (control.type !== "pick" || !control.start) continue;
    const selection = selections.find(({ name }) => name === control.name);
    const state = startOf(compiling, control);
    if (selection && state) selection.start = state;
  }
}

function startOf(compiling: Compiling, control: PickControlPlan): SelectionState | undefined {
  const start = control.start as string[];
  if (control.as !== "range") return { keys: start.map((value) => ({ [control.channel.text]: value })) };
  const [low, high] = start.map((text) => readValue(control.channel.kind, text)) as [number, number];
  if (low <= high) return { x: [low, high] };
  addFinding(compiling, ["controls", control.name, "start"], "wrong-value", `[${start.join(", ")}] are not two ends for a ${control.channel.kind}`, { piece: control.name });
  return undefined;
}
