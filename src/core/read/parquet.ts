import { parquetMetadata, parquetReadObjects, parquetSchema, type SchemaTree } from "hyparquet";
import { compressors } from "hyparquet-compressors";
import type { Column } from "../table/column";
import { type Decoded, textsColumn, writeMoment } from "./decoded";

type Kind = "number" | "text" | "boolean" | "date" | "datetime" | "duration";

/** A leaf of the schema with the path to it and what its values are. */
interface Leaf {
  path: string[];
  kind: Kind;
  isList: boolean;
}

/** Beyond this many rows and columns together a browser has no room for the objects in between. */
const MOST_CELLS = 200_000_000;

function kindOfElement({ type, converted_type, logical_type }: SchemaTree["element"]): Kind {
  const logical = logical_type?.type;
  if (type === "BOOLEAN") return "boolean";
  if (logical === "DATE" || converted_type === "DATE") return "date";
  if (logical === "TIMESTAMP" || type === "INT96" || converted_type?.startsWith("TIMESTAMP")) return "datetime";
  if (logical === "TIME" || converted_type?.startsWith("TIME_")) return "duration";
  if (logical === "DECIMAL" || converted_type === "DECIMAL") return "number";
  return type === "BYTE_ARRAY" || type === "FIXED_LEN_BYTE_ARRAY" ? "text" : "number";
}

/** Leaves of the schema; maps within maps become dotted names. Lists and maps of keys are kept as text. */
function leavesOf(tree: SchemaTree, path: string[], refused: string[]): Leaf[] {
  return tree.children.flatMap((child) => {
    const own = [...path, child.element.name];
    const { converted_type, logical_type, repetition_type } = child.element;
    if (converted_type === "MAP" || converted_type === "MAP_KEY_VALUE" || logical_type?.type === "MAP" || path.length > 8) {
      refused.push(own.join("."));
      return [];
    }
    const isList = converted_type === "LIST" || logical_type?.type === "LIST" || repetition_type === "REPEATED";
    if (isList) return [{ path: own, kind: "text" as const, isList }];
    return child.children.length ? leavesOf(child, own, refused) : [{ path: own, kind: kindOfElement(child.element), isList }];
  });
}

function valueAt(row: unknown, path: readonly string[]): unknown {
  let value = row;
  for (const part of path) value = typeof value === "object" && value !== null ? (value as Record<string, unknown>)[part] : undefined;
  return value ?? null;
}

function secondsOf(value: unknown, unit: number): number {
  if (value instanceof Date) return value.getTime() / 1000;
  return typeof value === "number" || typeof value === "bigint" ? Number(value) / unit : Number.NaN;
}

const written = (value: unknown): string => {
  if (value instanceof Date) return writeMoment(value.getTime() / 1000);
  if (value instanceof Uint8Array) return [...value].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  if (typeof value === "object" && value !== null) return JSON.stringify(value, (_, part) => (typeof part === "bigint" ? Number(part) : part));
  return String(value);
};

function columnOf({ kind, isList }: Leaf, values: readonly unknown[], timeUnit: number): Column {
  if (isList) return textsColumn(values.map((value) => (value === null ? null : Array.isArray(value) && value.every((item) => typeof item !== "object" || item === null) ? value.map((item) => (item === null ? "" : String(item))).join(", ") : written(value))));
  if (kind === "text" || values.some((value) => typeof value === "bigint" && (value > 2n ** 53n || value < -(2n ** 53n)))) return textsColumn(values.map((value) => (value === null ? null : written(value))));
  const number = (value: unknown): number => {
    if (value === null) return Number.NaN;
    if (kind === "boolean") return value ? 1 : 0;
    if (kind === "date") return Math.floor(secondsOf(value, 1) / 86400) * 86400;
    if (kind === "datetime" || kind === "duration") return secondsOf(value, timeUnit);
    return Number.isFinite(Number(value)) ? Number(value) : Number.NaN;
  };
  return { kind, values: Float64Array.from(values, number) };
}

/** Reads Parquet into columns of the kinds that the file itself names. Maps of keys are refused in words. */
export async function decodeParquet(bytes: Uint8Array): Promise<Decoded> {
  const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
  const metadata = parquetMetadata(buffer);
  const schema = parquetSchema(metadata);
  const refused: string[] = [];
  const leaves = leavesOf(schema, [], refused);
  const count = Number(metadata.num_rows);
  if (leaves.length === 0) return { type: "problem", code: "empty-file", message: `holds no column that can be read${refused.length ? `; ${refused.join(", ")} are maps of keys` : ""}` };
  if (count * leaves.length > MOST_CELLS) return { type: "problem", code: "too-large", message: `has ${count} rows of ${leaves.length} columns, which is more than fits in memory here` };
  const rows = await parquetReadObjects({ file: buffer, metadata, compressors, utf8: true });
  const notes = refused.length ? [`${refused.join(", ")} hold maps of keys and were left out`] : [];
  const units: Record<string, number> = { MILLIS: 1e3, MICROS: 1e6, NANOS: 1e9 };
  const unitOf = (path: readonly string[]) => {
    let tree: SchemaTree | undefined = schema;
    for (const part of path) tree = tree?.children.find(({ element }) => element.name === part);
    const logical = tree?.element.logical_type as { unit?: string } | undefined;
    return units[logical?.unit ?? ""] ?? (tree?.element.converted_type?.endsWith("MICROS") ? 1e6 : 1e3);
  };
  return {
    type: "columns",
    rows: rows.length,
    notes,
    columns: leaves.map((leaf) => [leaf.path.join("."), columnOf(leaf, rows.map((row) => valueAt(row, leaf.path)), unitOf(leaf.path))]),
  };
}
