import { extentOf } from "../table/extent";

/** Stretches of a number line that lie side by side, numbered upwards. */
export interface Bins {
  /** Where the bin of a number begins: the float that is nearest to the decimal. */
  edge: (index: number) => number;
  /** The number of the bin that holds a value. */
  indexOf: (value: number) => number;
}

/** Bins between two ends; the last one holds its upper end too. */
export interface EqualBins extends Bins {
  count: number;
}

const MOST_EXACT = 2 ** 53;
/** The largest power of ten that a float holds. */
const MOST_PLACES = 22;

/**
 * A number as the decimal that it is written as: `digits / divisor`, or nothing where that takes more than a
 * float holds.
 */
function decimalOf(value: number): { digits: number; places: number } | undefined {
  const written = /^(-?)(\d+)(?:\.(\d+))?(?:e([+-]\d+))?$/.exec(String(value));
  if (!written) return undefined;
  const [, sign, whole = "", fraction = "", power = "0"] = written;
  const places = fraction.length - Number(power);
  const digits = Number(whole + fraction) * (places < 0 ? 10 ** -places : 1);
  if (digits >= MOST_EXACT || places > MOST_PLACES) return undefined;
  return { digits: sign ? -digits : digits, places: Math.max(0, places) };
}

/** Bins of one width from zero on, whose edges are its decimal multiples. */
export function widthBins(width: number): Bins | undefined {
  if (!(width > 0) || !Number.isFinite(width)) return undefined;
  const decimal = decimalOf(width);
  const edge = (index: number) => {
    const digits = decimal && index * decimal.digits;
    return digits !== undefined && Math.abs(digits) < MOST_EXACT
      ? digits / 10 ** (decimal as { places: number }).places
      : index * width;
  };
  return { edge, indexOf: (value) => settled(Math.floor(value / width), value, edge) };
}

/** The bins of `bin(x, count)` over all values; none when nothing is known. */
export function equalBins(values: Float64Array, count: number): EqualBins | undefined {
  const range = extentOf(values);
  if (!range) return undefined;
  const [low, high] = range;
  const whole = Math.max(1, Math.round(count) || 1);
  const span = high - low;
  const width = Number.isFinite(span) ? span / whole : high / whole - low / whole;
  // One value alone, or values so close that no float lies between them.
  if (!(width > 0)) return { count: 1, edge: (index) => (index === 0 ? low : low + index), indexOf: () => 0 };
  const between = decimalEdges(low, high, whole) ?? ((index: number) => low + index * width);
  const edge = (index: number) => (index === whole ? high : between(index));
  return {
    count: whole,
    edge,
    indexOf: (value) => Math.max(0, Math.min(whole - 1, settled(Math.floor((value - low) / width), value, edge))),
  };
}

/** Edges between two decimals as whole numbers over one power of ten, which a division rounds once. */
function decimalEdges(low: number, high: number, count: number): ((index: number) => number) | undefined {
  const [first, last] = [decimalOf(low), decimalOf(high)];
  if (!first || !last) return undefined;
  const places = Math.max(first.places, last.places);
  const from = first.digits * 10 ** (places - first.places);
  const to = last.digits * 10 ** (places - last.places);
  const divisor = count * 10 ** places;
  if (Math.max(Math.abs(from), Math.abs(to)) * count * 2 >= MOST_EXACT || divisor >= MOST_EXACT) return undefined;
  return (index) => (from * count + index * (to - from)) / divisor;
}

/** So many edges are worked out ahead. */
const MOST_KEPT = 1 << 16;

/** The same bins with the edges from one number to another at hand, for going over many rows. */
export function keptEdges({ edge, indexOf }: Bins, from: number, to: number): (value: number) => number {
  const count = to - from + 2;
  if (!(count <= MOST_KEPT)) return (value) => edge(indexOf(value));
  const edges = Float64Array.from({ length: count }, (_, at) => edge(from + at));
  const [first, width] = [edges[0] as number, ((edges[count - 1] as number) - (edges[0] as number)) / (count - 1)];
  const last = count - 2;
  return (value) => {
    let at = Math.max(0, Math.min(last, Math.floor((value - first) / width)));
    if (at < last && (edges[at + 1] as number) <= value) at += 1;
    else if (at > 0 && (edges[at] as number) > value) at -= 1;
    return edges[at] as number;
  };
}

/** Division rounds; the edges themselves decide. */
function settled(guess: number, value: number, edge: (index: number) => number): number {
  if (edge(guess + 1) <= value) return guess + 1;
  return edge(guess) > value ? guess - 1 : guess;
}
