import type { LayerPlan } from "../chart/plan";
import { printFormula } from "../formula/print";
import type { Engine } from "../link/engine";
import { selectionPass } from "../link/predicate";
import type { SelectionPlan } from "../link/selection";
import type { Answer } from "../query/answer";
import { stretchEnd } from "../query/interval";
import type { Channel } from "../query/query";

/** 1 for those groups or rows of an answer that are picked. */
export type Picked = (layer: LayerPlan, answer: Answer, ids: Int32Array) => Uint8Array;

/** How selections that were made on a chart mark its groups and rows; nothing where there are none. */
export function pickedBy(engine: Engine, selections: readonly SelectionPlan[]): Picked | undefined {
  if (selections.length === 0) return undefined;
  return (layer, answer, ids) => {
    const picked = new Uint8Array(ids.length).fill(1);
    for (const selection of selections) {
      const one = brushedIds(selection, engine, layer, answer, ids) ?? idsOfRows(selection, engine, answer, ids);
      for (let i = 0; i < ids.length; i++) picked[i] = (picked[i] as number) & (one[i] as number);
    }
    return picked;
  };
}

/** Ids of which some row is held; all of them in a layer with another table, of whose rows nothing is said. */
function idsOfRows(selection: SelectionPlan, engine: Engine, answer: Answer, ids: Int32Array): Uint8Array {
  if (answer.prepared.query.from !== selection.table) return new Uint8Array(ids.length).fill(1);
  const state = engine.state(selection.name) ?? {};
  const pass = selectionPass(selection, state, engine.columnsOf(selection.table));
  const { groups, groupCount, table } = answer.prepared;
  const any = new Uint8Array(groupCount);
  const base = engine.baseRows(table);
  for (let row = 0; row < groups.length; row++)
    if (pass[base ? (base[row] as number) : row] && (groups[row] as number) >= 0) any[groups[row] as number] = 1;
  return Uint8Array.from(ids, (id) => any[id] as number);
}

/** Ids whose stretch or value lies in a brush, by looking at the ids alone. */
function brushedIds(
  selection: SelectionPlan,
  engine: Engine,
  layer: LayerPlan,
  answer: Answer,
  ids: Int32Array,
): Uint8Array | undefined {
  const state = engine.state(selection.name);
  if (!state || state.keys || state.rows || state.outline || selection.by.length) return undefined;
  const picked = new Uint8Array(ids.length).fill(1);
  for (const axis of ["x", "y"] as const) {
    const range = state[axis];
    if (!range) continue;
    const channel = layer.query.channels[axis];
    const column = answer.prepared.keys.get(axis);
    if (!channel || !column || column.kind === "text") return undefined;
    if (state.on?.[axis] === undefined ? !isHeldOn(selection, channel, axis) : state.on[axis] !== channel.text)
      return undefined;
    const edges = answer.prepared.edges.get(axis);
    ids.forEach((id, i) => {
      const value = column.values[id] as number;
      const end = edges ? stretchEnd(edges, value) : value;
      if (!(edges ? end > range[0] && value < range[1] : value >= range[0] && value < range[1])) picked[i] = 0;
    });
  }
  return picked;
}

/** True where a brush is about what a layer shows on an axis, and not about another layer's measure there. */
function isHeldOn({ axes, ons }: SelectionPlan, { interval, formula }: Channel, axis: "x" | "y"): boolean {
  const held = axes[axis];
  return ons !== undefined || held === undefined || printFormula(held) === printFormula(interval?.of ?? formula);
}
