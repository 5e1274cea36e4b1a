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

type Narrow = Float32Array | Float64Array | Uint8Array | Uint16Array | Uint32Array;

function narrowOf(
  { type, width }: PackedColumn["encoding"],
  { buffer, byteOffset }: Uint8Array,
  rowCount: number,
): Narrow {
  if (type === "float")
    return width === 4
      ? new Float32Array(buffer, byteOffset, rowCount)
      : new Float64Array(buffer, byteOffset, rowCount);
  if (width === 1) return new Uint8Array(buffer, byteOffset, rowCount);
  return width === 2 ? new Uint16Array(buffer, byteOffset, rowCount) : new Uint32Array(buffer, byteOffset, rowCount);
}

/** Reads a column back from its inflated bytes. */
export function unpackColumn(packed: PackedColumn, whole: Uint8Array, rowCount: number): Column {
  const { encoding, missingBytes, dictionaryBytes } = packed;
  const missing = whole.subarray(0, missingBytes);
  const planes = whole.subarray(missingBytes, whole.length - dictionaryBytes);
  const bytes = fromPlanes(planes, encoding.width);
  const narrow = narrowOf(encoding, bytes.byteOffset % 8 === 0 ? bytes : bytes.slice(), rowCount);
  const { base, divisor, delta } = encoding;
  // Codes without a change to make are taken over by the engine itself, without a loop of ours.
  if (packed.kind === "text" && !delta && divisor === 1 && base === 0 && encoding.type !== "float")
    return textOf(packed, whole, new Int32Array(narrow), missing);
  // Widened at once by the engine itself, so that the loops below meet one kind of array only.
  const values = new Float64Array(narrow);
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
  if (packed.kind === "text") return textOf(packed, whole, new Int32Array(values), missing);
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
  return { kind: "text", codes, dictionary, ...(packed.ordered ? { ordered: true } : {}) };
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
