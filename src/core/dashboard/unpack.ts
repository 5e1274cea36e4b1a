import type { Column, NumericKind } from "../table/column";
import { makeTable, type Table } from "../table/table";
import { fromPlanes, type PackedColumn, type PackedTable } from "./encoding";

/** Reads a column back from its inflated bytes. */
export function unpackColumn(packed: PackedColumn, whole: Uint8Array, rowCount: number): Column {
  const { encoding, missingBytes, dictionaryBytes } = packed;
  const missing = whole.subarray(0, missingBytes);
  const planes = whole.subarray(missingBytes, whole.length - dictionaryBytes);
  const bytes = fromPlanes(planes, encoding.width);
  const aligned = bytes.byteOffset % 8 === 0 ? bytes : bytes.slice();
  const { buffer, byteOffset } = aligned;
  // Widened at once by the engine itself, so that the loops below meet one kind of array only.
  const values = new Float64Array(
    encoding.type === "float"
      ? encoding.width === 4
        ? new Float32Array(buffer, byteOffset, rowCount)
        : new Float64Array(buffer, byteOffset, rowCount)
      : encoding.width === 1
        ? new Uint8Array(buffer, byteOffset, rowCount)
        : encoding.width === 2
          ? new Uint16Array(buffer, byteOffset, rowCount)
          : new Uint32Array(buffer, byteOffset, rowCount),
  );
  const { base, divisor, delta } = encoding;
  if (delta) {
    let last = base;
    for (let row = 0; row < rowCount; row++) {
      const fold = values[row] as number;
      last += fold % 2 === 1 ? -(fold + 1) / 2 : fold / 2;
      values[row] = last / divisor;
    }
  } else if (divisor !== 1) for (let row = 0; row < rowCount; row++) values[row] = ((values[row] as number) + base) / divisor;
  else if (base !== 0) for (let row = 0; row < rowCount; row++) values[row] = (values[row] as number) + base;
  if (missingBytes) for (let row = 0; row < rowCount; row++) if ((missing[row >> 3] as number) & (1 << (row & 7))) values[row] = Number.NaN;
  if (packed.kind !== "text") return { kind: packed.kind as NumericKind, values };
  const dictionary = JSON.parse(new TextDecoder().decode(whole.subarray(whole.length - dictionaryBytes))) as string[];
  const codes = new Int32Array(rowCount);
  for (let row = 0; row < rowCount; row++) {
    const code = values[row] as number;
    codes[row] = code === code ? code : -1;
  }
  return { kind: "text", codes, dictionary, ...(packed.ordered ? { ordered: true } : {}) };
}

/** Reads a table back from the inflated bytes of its columns. */
export function unpackTable(packed: PackedTable, blocks: readonly Uint8Array[]): Table {
  return makeTable(
    packed.rowCount,
    packed.columns.map((column, place) => [column.name, unpackColumn(column, blocks[place] as Uint8Array, packed.rowCount)] as const),
  );
}
