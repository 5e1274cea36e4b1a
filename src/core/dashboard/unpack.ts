import type { Column, NumericKind } from "../table/column";
import { makeTable, type Table } from "../table/table";
import { fromPlanes, type PackedColumn, type PackedTable } from "./encoding";

/** Calls back with every row whose bit is set; whole bytes without one are passed over. */
function eachMissing(bits: Uint8Array, rowCount: number, mark: (row: number) => void) {
  for (let at = 0; at < bits.length; at++) {
    const byte = bits[at] as number;
    if (byte === 0) continue;
    const end = Math.min(rowCount, at * 8 + 8);
    for (let row = at * 8; row < end; row++) if (byte & (1 << (row & 7))) mark(row);
  }
}

/** The numbers of a column, as they stand in the planes of its bytes. */
function numbersIn({ type, width }: PackedColumn["encoding"], planes: Uint8Array, rowCount: number): Float64Array {
  if (type === "float") {
    const { buffer, byteOffset } = fromPlanes(planes, width);
    const bytes = byteOffset % 8 === 0 ? buffer : buffer.slice(byteOffset, byteOffset + rowCount * width);
    const at = byteOffset % 8 === 0 ? byteOffset : 0;
    return width === 4
      ? new Float64Array(new Float32Array(bytes, at, rowCount))
      : new Float64Array(bytes, at, rowCount).slice();
  }
  if (width === 1) return new Float64Array(planes);
  const values = new Float64Array(rowCount);
  if (width === 2)
    for (let row = 0; row < rowCount; row++)
      values[row] = (planes[row] as number) | ((planes[rowCount + row] as number) << 8);
  else
    for (let row = 0; row < rowCount; row++)
      values[row] =
        ((planes[row] as number) |
          ((planes[rowCount + row] as number) << 8) |
          ((planes[2 * rowCount + row] as number) << 16) |
          ((planes[3 * rowCount + row] as number) << 24)) >>>
        0;
  return values;
}

/** Reads a column back from its inflated bytes. */
export function unpackColumn(packed: PackedColumn, whole: Uint8Array, rowCount: number): Column {
  const { encoding, missingBytes, dictionaryBytes } = packed;
  const missing = whole.subarray(0, missingBytes);
  const planes = whole.subarray(missingBytes, whole.length - dictionaryBytes);
  const { base, divisor, delta } = encoding;
  // Codes without a change to make are taken over by the engine itself, without a loop of ours.
  if (packed.dictionaryBytes && !delta && divisor === 1 && base === 0 && encoding.width === 1)
    return textOf(packed, whole, new Int32Array(planes), missing);
  const values = numbersIn(encoding, planes, rowCount);
  if (delta) {
    let last = base;
    for (let row = 0; row < rowCount; row++) {
      const fold = values[row] as number;
      last += fold % 2 === 1 ? -(fold + 1) / 2 : fold / 2;
      values[row] = last / divisor;
    }
  } else if (divisor !== 1)
    for (let row = 0; row < rowCount; row++) values[row] = ((values[row] as number) + base) / divisor;
  else if (base !== 0) for (let row = 0; row < rowCount; row++) values[row] = (values[row] as number) + base;
  if (packed.dictionaryBytes) return textOf(packed, whole, new Int32Array(values), missing);
  eachMissing(missing, rowCount, (row) => {
    values[row] = Number.NaN;
  });
  return { kind: packed.kind as NumericKind, values };
}

function textOf(packed: PackedColumn, whole: Uint8Array, codes: Int32Array<ArrayBuffer>, missing: Uint8Array): Column {
  eachMissing(missing, codes.length, (row) => {
    codes[row] = -1;
  });
  const dictionary = JSON.parse(
    new TextDecoder().decode(whole.subarray(whole.length - packed.dictionaryBytes)),
  ) as string[];
  const { kind, ordered } = packed;
  return { kind: "text", codes, dictionary, ...(ordered && { ordered }), ...(kind === "place" && { place: true }) };
}

/** Reads a table back from the inflated bytes of its columns. */
export function unpackTable(packed: PackedTable, blocks: readonly Uint8Array[]): Table {
  return makeTable(
    packed.rowCount,
    packed.columns.map(
      (column, place) => [column.name, unpackColumn(column, blocks[place] as Uint8Array, packed.rowCount)] as const,
    ),
  );
}
