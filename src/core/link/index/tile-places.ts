import { extentOf, justAbove } from "../../table/extent";
import { findBetween } from "./axis-places";
import { MergedPlaces, type Places, RowPlaces } from "./row-places";

/** Tiles across and down a plane, at the most, and at how many levels four go into one for questions of many groups. */
export const TILES = 64;
export const LEVELS = 3;

/** So many values are looked at to find where equally many rows lie. */
const SAMPLE = 16_384;

/**
 * Edges along an axis between which about equally many rows lie, at most `parts` stretches of them; together they
 * hold every known value. Tiles that are even in rows leave few of them at the rim of a box, wherever it stands.
 */
export function evenEdges(values: Float64Array, parts: number): Float64Array {
  const [least, most] = extentOf(values) ?? [0, 0];
  const stride = Math.max(1, Math.floor(values.length / SAMPLE));
  const known: number[] = [];
  for (let row = 0; row < values.length; row += stride) {
    const value = values[row] as number;
    if (value === value) known.push(value);
  }
  const sorted = Float64Array.from(known).sort();
  const edges = [least];
  for (let part = 1; part < parts; part++) {
    const edge = sorted[Math.floor((part * sorted.length) / parts)] as number;
    if (edge > (edges[edges.length - 1] as number)) edges.push(edge);
  }
  // The largest value lies within the last stretch.
  edges.push(justAbove(most));
  return Float64Array.from(edges);
}

/** Tiles over two values of each row, numbered line by line. */
export interface Tiles {
  places: Places;
  xEdges: Float64Array;
  yEdges: Float64Array;
}

/**
 * Rows by the tile in which their two values lie: at most `parts` across and down, then half as many, and so on,
 * where four tiles go into one. The rows of each lie side by side at every level.
 */
export function tileLevels(x: Float64Array, y: Float64Array, parts: number, levels: number): Tiles[] {
  const [xEdges, yEdges] = [evenEdges(x, parts), evenEdges(y, parts)];
  const [across, down] = [xEdges.length - 1, yEdges.length - 1];
  const findIn = (found: Int32Array, from: number, to: number) => {
    const columns = new Int32Array(to - from);
    findBetween(x.subarray(from, to), xEdges, columns, 0, to - from);
    findBetween(y, yEdges, found, from, to);
    for (let row = from; row < to; row++) {
      const [column, line] = [columns[row - from] as number, found[row] as number];
      found[row] = column < 0 || line < 0 ? -1 : line * across + column;
    }
  };
  const finest = new RowPlaces(x.length, across * down, findIn, nestedRanks(across, down));
  const coarser = Array.from({ length: levels - 1 }, (_, level) => {
    const n = 2 ** (level + 1);
    const [own, others] = [everyNth(xEdges, n), everyNth(yEdges, n)];
    const into = Int32Array.from(
      { length: finest.count },
      (_, tile) => Math.floor(Math.floor(tile / across) / n) * (own.length - 1) + Math.floor((tile % across) / n),
    );
    const places = new MergedPlaces(finest, (own.length - 1) * (others.length - 1), into);
    return { places, xEdges: own, yEdges: others };
  });
  return [{ places: finest, xEdges, yEdges }, ...coarser];
}

const everyNth = (edges: Float64Array, n: number): Float64Array =>
  edges.filter((_, at) => at % n === 0 || at === edges.length - 1);

/** The order in which all four tiles that go into one follow one another, at every level: bits of both taken in turn. */
function nestedRanks(across: number, down: number): Int32Array {
  const spread = (value: number) => {
    let bits = 0;
    for (let bit = 0; value >> bit > 0; bit++) bits |= ((value >> bit) & 1) << (2 * bit);
    return bits;
  };
  const codes = Array.from(
    { length: across * down },
    (_, tile) => spread(tile % across) | (spread(Math.floor(tile / across)) << 1),
  );
  const ranks = new Int32Array(codes.length);
  [...codes.keys()]
    .sort((a, b) => (codes[a] as number) - (codes[b] as number))
    .forEach((tile, rank) => {
      ranks[tile] = rank;
    });
  return ranks;
}
