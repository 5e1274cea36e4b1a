import type { Key, SelectionPlan, SelectionState } from "../../link/selection";
import type { LinkStart } from "../../sheet/schema-pages";
import type { Path } from "../../sheet/tree";
import type { Kind, Scalar } from "../../table/column";
import { addFinding, type Compiling } from "../compiling";
import { nameOfWritten, readValue, valueNamed } from "../start";

/** What a link's gesture holds at the start; nothing and a finding where it cannot hold that. */
export function linkStart(
  compiling: Compiling,
  plan: SelectionPlan,
  start: LinkStart,
  path: Path,
): SelectionState | undefined {
  const wrong = (message: string) => {
    addFinding(compiling, [...path.slice(0, -1), "start"], "wrong-start", message);
    return undefined;
  };
  if (!plan.kept) return wrong(`${plan.name} holds only what is under the pointer, and begins with nothing`);
  const axes = (["x", "y"] as const).filter((axis) => plan.axes[axis]);
  const parts = typeof start === "object" && !Array.isArray(start) ? start : undefined;
  if (!parts && axes.length === 0) return keysOf(compiling, plan, plainKeys(plan, start as string | string[]), wrong);
  if (!parts && axes.length > 1) return wrong(`${plan.name} is a box: write {x: [from, to], y: [from, to]}`);
  const ranges = parts ?? { [axes[0] as "x"]: start as string[] };
  const state: SelectionState = {};
  for (const axis of ["x", "y"] as const) {
    const ends = ranges[axis];
    if (ends === undefined) continue;
    if (plan.byMarks) return wrong(`${plan.name} holds marks of groups: write {keys: [{column: value}]}`);
    if (!axes.includes(axis)) return wrong(`${plan.name} selects nothing along ${axis}`);
    const kind = plan.words[axis]?.kind ?? "number";
    const [low, high] = (Array.isArray(ends) ? ends : [ends]).map((end) => readValue(kind, end));
    if (low === undefined || high === undefined || !(low <= high))
      return wrong(`${JSON.stringify(ends)} are not two ends, [from, to], for a ${kind}`);
    state[axis] = [low, high];
  }
  if (!parts?.keys) return state;
  const keys = keysOf(compiling, plan, parts.keys, wrong);
  return keys && { ...state, ...keys };
}

/** Values by themselves are those of the first column that the gesture picks by. */
const plainKeys = ({ keys }: SelectionPlan, start: string | string[]): Record<string, string>[] =>
  [start].flat().map((value) => ({ [Object.keys(keys)[0] ?? ""]: value }));

function keysOf(
  { tables }: Compiling,
  plan: SelectionPlan,
  written: readonly Record<string, string>[],
  wrong: (message: string) => undefined,
): SelectionState | undefined {
  const columns = tables.get(plan.table)?.table.columns;
  const keys: Key[] = [];
  for (const one of written) {
    const key: Record<string, Scalar> = {};
    for (const [name, text] of Object.entries(one)) {
      const kind: Kind | undefined = plan.words[name]?.kind ?? columns?.get(name)?.kind;
      if (!kind || !(Object.hasOwn(plan.keys, name) || columns?.has(name)))
        return wrong(`${plan.name} picks by ${Object.keys(plan.keys).join(", ") || "ranges"}, not by "${name}"`);
      const known = nameOfWritten(kind, text);
      if (known === undefined) return wrong(`"${text}" is no ${kind}, and ${name} holds ${kind}`);
      key[name] = valueNamed(kind, known);
    }
    keys.push(key);
  }
  return { keys };
}
