import type { ChartInput, LayerInput } from "../chart/inputs";
import type { Answer } from "../query/answer";
import { LayerValues } from "../query/values";
import { taken } from "../table/taken";
import type { AxisName } from "./mark";
import { colorOrder } from "./paints";

/** From where to where each mark goes, in values of the measured axis. */
export interface Ends {
  from: Float64Array;
  to: Float64Array;
}

type PlaceKey = string | number | null;

/** Puts marks of several colours on one another at each place, or lets each begin at zero; ranges stay as they are. */
export function stackEnds(input: ChartInput, values: LayerValues, ids: Int32Array): Ends {
  const measured = input.plan.along === "x" ? "y" : "x";
  const numbers = values.numbers(measured);
  const from = new Float64Array(ids.length);
  const to = new Float64Array(ids.length);
  const { stacking } = input.plan;
  if (!numbers) return { from, to };
  const others = values.numbers(`${measured}_to`);
  if (others) return { from: taken(numbers, ids), to: taken(others, ids) };
  if (stacking === "off" || stacking === "beside") {
    for (let i = 0; i < ids.length; i++) {
      const value = numbers[ids[i] as number] as number;
      from[i] = value === value ? 0 : Number.NaN;
      to[i] = value;
    }
    return { from, to };
  }
  const along = values.get(input.plan.along);
  const keyAt = (i: number): PlaceKey => {
    const id = ids[i] as number;
    return along ? (along.kind === "text" ? (along.codes[id] as number) : (along.values[id] as number)) : 0;
  };
  const { up, down } = heap(input, values, ids, numbers, keyAt, { from, to });
  const wholeAt = (i: number) => (up.get(keyAt(i)) ?? 0) - (down.get(keyAt(i)) ?? 0);
  if (stacking === "percent") {
    for (let i = 0; i < ids.length; i++) {
      const whole = wholeAt(i);
      from[i] = whole ? (from[i] as number) / whole : Number.NaN;
      to[i] = whole ? (to[i] as number) / whole : Number.NaN;
    }
  } else if (stacking === "stream") {
    // Streams lie about the middle, as wide above it as below.
    for (let i = 0; i < ids.length; i++) {
      const half = ((up.get(keyAt(i)) ?? 0) + (down.get(keyAt(i)) ?? 0)) / 2;
      from[i] = (from[i] as number) - half;
      to[i] = (to[i] as number) - half;
    }
  }
  return { from, to };
}

/** Heaps values at each place in the order of their colours, what is below zero downwards. */
function heap(
  input: ChartInput,
  values: LayerValues,
  ids: Int32Array,
  numbers: Float64Array,
  keyAt: (i: number) => PlaceKey,
  { from, to }: Ends,
): { up: Map<PlaceKey, number>; down: Map<PlaceKey, number> } {
  const colors = colorOrder(input, values, ids);
  const order = Int32Array.from(ids.keys()).sort((a, b) => (colors[a] as number) - (colors[b] as number) || a - b);
  const up = new Map<PlaceKey, number>();
  const down = new Map<PlaceKey, number>();
  for (const i of order) {
    const value = numbers[ids[i] as number] as number;
    if (value !== value) {
      from[i] = Number.NaN;
      to[i] = Number.NaN;
      continue;
    }
    const heaped = value < 0 ? down : up;
    const base = heaped.get(keyAt(i)) ?? 0;
    from[i] = base;
    to[i] = base + value;
    heaped.set(keyAt(i), base + value);
  }
  return { up, down };
}

/** What the axes of bars and areas must hold: both ends of each of them, or their places. */
export function measuredEnds(
  input: ChartInput,
  layer: LayerInput,
  answer: Answer,
  ids: Int32Array,
  axis: AxisName,
): Iterable<number> {
  const values = new LayerValues(answer, layer.all);
  if (axis === input.plan.along) {
    const own = [axis, `${axis}_to`].flatMap((name) => values.numbers(name) ?? []);
    return own.flatMap((numbers) => [...taken(numbers, ids)]);
  }
  const ends = stackEnds(input, values, ids);
  const plan = input.plan.axes[axis === "y" && layer.plan.side === "right" ? "y2" : axis];
  // Where the sheet wants no zero on the axis, a length may begin below it.
  const begins = plan?.fromZero || values.numbers(`${axis}_to`) ? ends.from : ends.from.filter((value) => value !== 0);
  return [...begins, ...ends.to];
}
