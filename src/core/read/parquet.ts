import { parquetMetadata, parquetScan, parquetSchema, type SchemaTree } from "hyparquet";
import { compressors } from "hyparquet-compressors";
import { damageWords } from "../finding/fault-words";
import { keepBound, keepRoom } from "../finding/limits";
import type { Decoded, LeftOut } from "./decoded";
import { bareElement, type LeafReader, leafReader, listReader, type MadeColumn } from "./parquet-values";

/** A leaf of the schema with the path to it and how its values are understood. */
interface Leaf {
  path: string[];
  make: (values: readonly unknown[]) => MadeColumn;
}

const DEEPEST = 8;

/** Leaves of the schema; maps within maps become dotted names. Lists are kept as text; what cannot be read is named. */
function leavesOf(tree: SchemaTree, path: string[], left: LeftOut[]): Leaf[] {
  return tree.children.flatMap((child): Leaf[] => {
    const own = [...path, child.element.name];
    const leaveOut = (why: string) => {
      left.push({ name: own.join("."), why });
      return [];
    };
    const { converted_type, logical_type, repetition_type } = child.element;
    const logical = logical_type?.type;
    if (converted_type === "MAP" || converted_type === "MAP_KEY_VALUE" || logical === "MAP")
      return leaveOut("holds maps of keys");
    if (logical === "VARIANT") return leaveOut("holds values of varying kinds");
    if (own.length > DEEPEST) return leaveOut("is nested too deep");
    if (converted_type === "LIST" || logical === "LIST" || repetition_type === "REPEATED") {
      const text = listReader(child);
      return typeof text === "string" ? leaveOut(text) : [{ path: own, make: ofTexts(text) }];
    }
    if (child.children.length) return leavesOf(child, own, left);
    const reader = leafReader(child.element);
    return typeof reader === "string" ? leaveOut(reader) : [{ path: own, make: reader.column }];
  });
}

const ofTexts =
  (text: LeafReader["text"]) =>
  (values: readonly unknown[]): MadeColumn => {
    const list = leafReader({ name: "", type: "BYTE_ARRAY", converted_type: "UTF8" }) as LeafReader;
    return list.column(values.map((value) => (value === null || value === undefined ? null : text(value))));
  };

function valueAt(value: unknown, path: readonly string[]): unknown {
  let inner = value;
  for (const part of path)
    inner = typeof inner === "object" && inner !== null ? (inner as Record<string, unknown>)[part] : undefined;
  return inner ?? null;
}

/** Nothing is made of these values before we see them: moments stay whole numbers. */
const RAW = { timestampFromNanoseconds: (nanoseconds: bigint) => nanoseconds as unknown as Date };

/**
 * Reads Parquet into columns of the kinds that the file itself names. Columns that cannot be read are left out
 * alone, and named.
 */
export async function decodeParquet(bytes: Uint8Array): Promise<Decoded> {
  const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
  const metadata = parquetMetadata(buffer);
  const left: LeftOut[] = [];
  const leaves = leavesOf(parquetSchema(metadata), [], left);
  const rows = Number(metadata.num_rows);
  // By what the file says of itself, before anything of it is unpacked.
  keepBound("fileColumns", leaves.length, "the file");
  keepRoom(rows, Math.max(1, leaves.length), "the file");
  keepBound("unpackedBytes", unpackedBytes(metadata), "the file");
  const bare = { ...metadata, schema: metadata.schema.map(bareElement) };
  const scan = await parquetScan({
    file: buffer,
    metadata: bare,
    compressors,
    utf8: false,
    parsers: RAW as never,
    useOffsetIndex: false,
  });
  const notes: string[] = [];
  const columns: [string, MadeColumn["column"]][] = [];
  for (const top of new Set(leaves.map(({ path }) => path[0] as string))) {
    const inner = leaves.filter(({ path }) => path[0] === top);
    try {
      const values: unknown[] = [];
      for (const range of scan.ranges)
        for (const value of await scan.readColumn({ column: top, ...range })) values.push(value);
      if (values.length !== rows) throw new RangeError(`has ${values.length} values in ${rows} rows`);
      for (const { path, make } of inner) {
        const { column, note } = make(
          path.length === 1 ? values : values.map((value) => valueAt(value, path.slice(1))),
        );
        columns.push([path.join("."), column]);
        if (note !== undefined) notes.push(`${path.join(".")}: ${note}`);
      }
    } catch (fault) {
      for (const { path } of inner)
        left.push({
          name: path.join("."),
          why: `is damaged or packed in a way that is not known here: ${damageWords(fault)}`,
        });
    }
  }
  return columns.length ? { type: "columns", rows, notes, columns, left } : nothingIn(left);
}

/** What the columns of a file take unpacked, as it says itself. */
const unpackedBytes = ({ row_groups }: ReturnType<typeof parquetMetadata>): number =>
  row_groups
    .flatMap(({ columns }) => columns)
    .reduce((sum, { meta_data }) => sum + Number(meta_data?.total_uncompressed_size ?? 0), 0);

function nothingIn(left: readonly LeftOut[]): Decoded {
  const examples = left.slice(0, 3).map(({ name, why }) => `${name} ${why}`);
  const why = examples.length ? `: ${examples.join("; ")}` : "";
  return { type: "problem", code: "empty-file", message: `holds no column that can be read${why}` };
}
