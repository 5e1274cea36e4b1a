import { markDraw } from "../mark/draws";
import type { AxisName } from "../mark/mark";
import type { Answer } from "../query/answer";
import { drawnIds, filledStarts } from "../query/drawn";
import { stretchEnd } from "../query/interval";
import { isSummed } from "../query/summed";
import { LayerValues } from "../query/values";
import { leftByLegend } from "./categories";
import type { ChartInput, LayerInput } from "./inputs";
import type { AxisPlan, LayerPlan } from "./plan";

/** Extent of raw values under an answer, remembered as long as the answer. */
const extents = new WeakMap<Answer, Map<string, [number, number]>>();

function rawExtent(layer: LayerInput, answer: Answer, channel: string, positive: boolean): [number, number] {
  const cached = extents.get(answer) ?? new Map<string, [number, number]>();
  extents.set(answer, cached);
  const key = `${channel}${positive}`;
  const known = cached.get(key);
  if (known) return known;
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const values = new LayerValues(answer, layer.all).numbers(channel);
  if (values) {
    for (let id = 0; id < values.length; id++) {
      if ((answer.counts[id] as number) === 0) continue;
      const value = values[id] as number;
      if (positive && value <= 0) continue;
      if (value < low) low = value;
      if (value > high) high = value;
    }
  }
  cached.set(key, [low, high]);
  return [low, high];
}

/** Ends that marks make of single rows, remembered as long as the answer: a curve is not fitted again at every move. */
const made = new WeakMap<Answer, Map<string, readonly number[]>>();

function endsOnce(
  { plan }: ChartInput,
  { plan: { draw, query }, options }: LayerInput,
  answer: Answer,
  axis: AxisName,
  panel: number,
  own: () => Iterable<number>,
): Iterable<number> {
  // What stands on one another follows more than its rows.
  if (query.grouped || plan.stacking !== "off") return own();
  const known = made.get(answer) ?? new Map<string, readonly number[]>();
  made.set(answer, known);
  const key = JSON.stringify([axis, panel, draw, options, plan.along]);
  const found = known.get(key) ?? [...own()];
  known.set(key, found);
  return found;
}

/**
 * The answers whose values an axis holds. Unless its range is said it stays where controls have left it, but what a
 * brush or click leaves of means and the like may lie beyond, and would be cut off: once the gesture has ended the
 * axis holds that too.
 */
function answersFor(axis: AxisPlan, layer: LayerInput): Answer[] {
  if (axis.range === "all") return [layer.all];
  if (axis.range === "left") return [layer.left];
  return isNarrowed(layer) ? [layer.controls, layer.rest] : [layer.controls];
}

/** True for marks that sum rows up, in groups or by themselves: those of some rows can lie beyond those of all. */
export const sumsUp = ({ draw, query }: LayerPlan): boolean => query.grouped || markDraw(draw).ends !== undefined;

/** True while a gesture, and not a control, leaves a part of the rows that are summed up. */
const isNarrowed = ({ plan, controls, current }: LayerInput): boolean =>
  sumsUp(plan) && current.counts !== controls.counts;

/**
 * Where the first and the last bin or period begin that an axis holds: those that controls leave, unless its range
 * is said.
 */
function stretchOf(
  { range }: AxisPlan,
  { all, left, controls }: LayerInput,
  name: AxisName,
  among?: (answer: Answer) => Int32Array,
) {
  const answer = range === "default" ? controls : range === "left" ? left : all;
  return filledStarts(answer, name, among?.(answer));
}

/**
 * Groups without those empty bins and periods that lie outside of what an axis has closed on: they are neither drawn
 * nor zero.
 */
export function withinStretch({ plan }: ChartInput, layer: LayerInput, answer: Answer, ids: Int32Array): Int32Array {
  const { along } = plan;
  const axis = plan.axes[along];
  const column = answer.prepared.keys.get(along);
  if (!axis || axis.scale === "category" || !answer.prepared.edges.has(along) || column?.kind === "text") return ids;
  const stretch = stretchOf(axis, layer, along);
  if (!stretch || !column) return ids;
  const [first, last] = stretch;
  const isOn = (id: number) => (column.values[id] as number) >= first && (column.values[id] as number) <= last;
  return ids.every(isOn) ? ids : ids.filter((id) => isOn(id) || answer.counts[id]);
}

/** The part of an axis without zero by which it goes beyond the shortest length, which would be none otherwise. */
const BEYOND_SHORTEST = 0.1;

/** True for a layer that is measured on an axis: the upright one at its own side. */
const standsOn = ({ plan: { side } }: LayerInput, on: AxisName | "y2"): boolean =>
  on === "x" || (side === "right") === (on === "y2");

/** True where something is drawn as a length from zero, whether its axis holds that or not. */
function hasLengths({ plan, layers }: ChartInput, on: AxisName | "y2"): boolean {
  const name = on === "x" ? "x" : "y";
  const isLength = ({ plan: { draw, query } }: LayerInput) =>
    markDraw(draw).lengths && !(`${name}_to` in query.channels);
  return name !== plan.along && layers.some((layer) => standsOn(layer, on) && isLength(layer));
}

/** The ends of an axis of lengths, all on one side of zero, with room for the shortest of them. */
function withRoom(low: number, high: number): [number, number] {
  const room = (high - low || Math.abs(low)) * BEYOND_SHORTEST;
  if (low > 0) return [Math.max(0, low - room), high];
  return high < 0 ? [low, Math.min(0, high + room)] : [low, high];
}

/** The part of a logarithmic axis that lies under the least length. */
const UNDER_LEAST = 0.06;

/** Leaves those groups or rows that stand in a panel. */
export type Within = (answer: Answer, ids: Int32Array) => Int32Array;

/**
 * Both ends of the values on a continuous axis, of all groups or those that `within` leaves. What marks make of
 * several rows they make in each of the `panels` that share the axis. Without any values the first end is above the
 * second.
 */
export function axisDomain(
  input: ChartInput,
  on: AxisName | "y2",
  axis: AxisPlan,
  within?: Within,
  panels: readonly (Within | undefined)[] = [undefined],
): [number, number] {
  if (Array.isArray(axis.range)) return axis.range;
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const take = (value: number) => {
    if (!Number.isFinite(value) || (axis.scale === "log" && value <= 0)) return;
    if (value < low) low = value;
    if (value > high) high = value;
  };
  const name: AxisName = on === "x" ? "x" : "y";
  for (const layer of input.layers) {
    if (!standsOn(layer, on)) continue;
    const { channels } = layer.all.prepared.query;
    const own = [name, `${name}_to`].filter((channel) => channel in channels);
    const { ends } = markDraw(layer.plan.draw);
    if (own.length === 0 && !ends) continue;
    const edges = layer.all.prepared.edges.get(name);
    if (edges) {
      const among = within && ((answer: Answer) => within(answer, drawnIds(answer, "")));
      const [first, last] = stretchOf(axis, layer, name, among) ?? [edges.starts[0] as number, undefined];
      take(first);
      take(last === undefined ? edges.end : stretchEnd(edges, last));
      continue;
    }
    // Of sums and counts the part that is left lies between the whole and nothing.
    if (axis.range === "default" && isNarrowed(layer) && isSummed(channels[name])) take(0);
    const refits = input.plan.legend.refit && input.off.size > 0;
    if (!ends && !within && !layer.all.prepared.query.grouped && !refits) {
      for (const channel of own) {
        const [from, to] = rawExtent(layer, answersFor(axis, layer)[0] as Answer, channel, axis.scale === "log");
        take(from);
        take(to);
      }
      continue;
    }
    for (const answer of answersFor(axis, layer)) {
      let ids = withinStretch(input, layer, answer, drawnIds(answer, input.plan.along));
      if (within) ids = within(answer, ids);
      if (refits) ids = leftByLegend(input, answer, ids);
      if (ends) {
        panels.forEach((part, panel) => {
          const own = () => ends(input, layer, answer, part ? part(answer, ids) : ids, name);
          for (const value of within || refits ? own() : endsOnce(input, layer, answer, name, panel, own)) take(value);
        });
      } else {
        const values = new LayerValues(answer, layer.all);
        for (const channel of own) {
          const numbers = values.numbers(channel);
          if (numbers) for (const id of ids) take(numbers[id] as number);
        }
      }
    }
  }
  if (axis.fromZero && axis.scale !== "log") take(0);
  else if (axis.scale !== "log" && hasLengths(input, on)) return withRoom(low, high);
  // Lengths begin below the least of them, which would be none otherwise.
  if (axis.fromZero && axis.scale === "log" && low < high) low /= Math.max(1.5, (high / low) ** UNDER_LEAST);
  return [low, high];
}
