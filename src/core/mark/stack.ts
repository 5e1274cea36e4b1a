import type { ChartInput } from "../chart/inputs";
import type { LayerValues } from "../query/values";
import { colorPlaces } from "./paints";

/** From where to where each bar goes, in values of the measured axis. */
export interface Ends {
  from: Float64Array;
  to: Float64Array;
}

/** Stacks bars of several colours at each place, or lets each begin at zero. */
export function stackEnds(input: ChartInput, values: LayerValues, ids: Int32Array): Ends {
  const measured = input.plan.along === "x" ? "y" : "x";
  const numbers = values.numbers(measured);
  const from = new Float64Array(ids.length);
  const to = new Float64Array(ids.length);
  const { stacking } = input.plan;
  if (!numbers) return { from, to };
  if (stacking === "off" || stacking === "beside") {
    for (let i = 0; i < ids.length; i++) {
      const value = numbers[ids[i] as number] as number;
      from[i] = value === value ? 0 : Number.NaN;
      to[i] = value;
    }
    return { from, to };
  }
  const along = values.get(input.plan.along);
  const colors = colorPlaces(input, values, ids);
  const order = Int32Array.from(ids.keys()).sort((a, b) => (colors[a] as number) - (colors[b] as number) || a - b);
  const up = new Map<string | number | null, number>();
  const down = new Map<string | number | null, number>();
  const keyAt = (id: number) =>
    along ? (along.kind === "text" ? (along.codes[id] as number) : (along.values[id] as number)) : 0;
  for (const i of order) {
    const id = ids[i] as number;
    const value = numbers[id] as number;
    if (value !== value) {
      from[i] = Number.NaN;
      to[i] = Number.NaN;
      continue;
    }
    const heap = value < 0 ? down : up;
    const base = heap.get(keyAt(id)) ?? 0;
    from[i] = base;
    to[i] = base + value;
    heap.set(keyAt(id), base + value);
  }
  if (stacking === "percent") {
    for (let i = 0; i < ids.length; i++) {
      const whole = (up.get(keyAt(ids[i] as number)) ?? 0) - (down.get(keyAt(ids[i] as number)) ?? 0);
      from[i] = whole ? (from[i] as number) / whole : Number.NaN;
      to[i] = whole ? (to[i] as number) / whole : Number.NaN;
    }
  }
  return { from, to };
}
