import fc from "fast-check";
import { readerOf } from "../compile/sources";
import { decodeFile } from "../read/decode";
import type { ReadResult } from "../read/texts";

/** A few accidents: bytes overwritten, cut out, doubled. */
export const accidents = fc.array(
  fc.record({
    at: fc.nat(8000),
    length: fc.nat(40),
    kind: fc.constantFrom("write", "cut", "double", "zero"),
    bytes: fc.uint8Array({ maxLength: 8 }),
  }),
  { minLength: 1, maxLength: 5 },
);

export function damagedBytes(
  bytes: Uint8Array,
  hits: readonly { at: number; length: number; kind: string; bytes: Uint8Array }[],
): Uint8Array {
  let now = bytes;
  for (const { at, length, kind, bytes: written } of hits) {
    const start = at % (now.length + 1);
    const end = Math.min(now.length, start + length);
    const middle =
      kind === "write"
        ? written
        : kind === "double"
          ? [...now.subarray(start, end), ...now.subarray(start, end)]
          : kind === "zero"
            ? new Uint8Array(end - start)
            : [];
    const next = new Uint8Array(start + middle.length + (now.length - end));
    next.set(now.subarray(0, start));
    next.set(middle, start);
    next.set(now.subarray(end), start + middle.length);
    now = next;
  }
  return now;
}

/**
 * Reads bytes as a file of that name, decoding it ahead where that is needed. Answers how long it took, in
 * milliseconds.
 */
export async function readAs(name: string, bytes: Uint8Array): Promise<{ result: ReadResult; milliseconds: number }> {
  const started = performance.now();
  await decodeFile(name, bytes);
  const reader = readerOf(name);
  if (!reader) throw new RangeError(`no reader for ${name}`);
  const result = reader(name, bytes, {});
  return { result, milliseconds: performance.now() - started };
}

/**
 * What must hold of anything that was read: columns as long as the table, everything counted, nothing without a
 * word.
 */
export function soundProblem({ table, report, findings }: ReadResult): string | undefined {
  for (const [name, column] of table.columns) {
    const length = column.kind === "text" ? column.codes.length : column.values.length;
    if (length !== table.rowCount) return `${name} has ${length} of ${table.rowCount} rows`;
    if (column.kind === "text" && column.codes.some((code) => code >= column.dictionary.length))
      return `${name} has a code without a text`;
  }
  if (table.columns.size === 0 && findings.length === 0) return "nothing was read and nothing was said";
  if (findings.some(({ message }) => message.length < 8)) return "a finding says too little";
  const counted = report.columns.find(({ missing, unread }) => missing + unread > report.rows);
  return counted && `${counted.name} has lost more cells than there are rows`;
}
