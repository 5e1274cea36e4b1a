import type { Kind } from "../table/column";

/** How a column's numbers stand in its bytes. */
export interface Encoding {
  /** Bytes of each number. */
  width: 1 | 2 | 4 | 8;
  /** Whole numbers, or floats of that width. */
  type: "integer" | "float";
  /** Whole numbers divided by this give the values. */
  divisor: number;
  /** Added to every whole number. */
  base: number;
  /** Differences from the row before, folded to be positive. */
  delta: boolean;
}

/** A packed column as the file says of it; its bytes stand in a data block. */
export interface PackedColumn {
  name: string;
  kind: Kind;
  encoding: Encoding;
  /** Bytes of the missing-bit set before the numbers; 0 when nothing is missing. */
  missingBytes: number;
  /** Bytes of the dictionary after the numbers, as JSON; 0 for numbers. */
  dictionaryBytes: number;
  /** The dictionary stands in an order of its own. */
  ordered?: boolean;
}

export interface PackedTable {
  name: string;
  rowCount: number;
  columns: PackedColumn[];
}

/** Bytes of numbers laid out plane by plane: all lowest bytes first. Deflate likes that better. */
export function toPlanes(bytes: Uint8Array, width: number): Uint8Array {
  if (width === 1) return bytes;
  const count = bytes.length / width;
  const planes = new Uint8Array(bytes.length);
  for (let plane = 0; plane < width; plane++)
    for (let i = 0; i < count; i++) planes[plane * count + i] = bytes[i * width + plane] as number;
  return planes;
}

/** The inverse of {@link toPlanes}. */
export function fromPlanes(planes: Uint8Array, width: number): Uint8Array {
  if (width === 1) return planes;
  const count = planes.length / width;
  const bytes = new Uint8Array(planes.length);
  for (let plane = 0; plane < width; plane++)
    for (let i = 0; i < count; i++) bytes[i * width + plane] = planes[plane * count + i] as number;
  return bytes;
}
