import type { SchemaElement, SchemaTree } from "hyparquet";
import type { Column } from "../table/column";
import { textsColumn, writeMoment } from "./decoded";

/** A column made of the values that stand in a file, and what is to be said of it. */
export interface MadeColumn {
  column: Column;
  note?: string;
}

/** How the values of one leaf of the schema are understood. */
export interface LeafReader {
  column: (values: readonly unknown[]) => MadeColumn;
  /** One value as text, for lists and maps within cells. */
  text: (value: unknown) => string;
}

const isMissing = (value: unknown) => value === null || value === undefined;
const LARGEST = 9007199254740992n;

const hexadecimal = (bytes: Uint8Array) => Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");

function textsOf(values: readonly unknown[], text: LeafReader["text"], note?: string): MadeColumn {
  return {
    column: textsColumn(values.map((value) => (isMissing(value) ? null : text(value)))),
    ...(note === undefined ? {} : { note }),
  };
}

const texts = (text: LeafReader["text"]): LeafReader => ({ text, column: (values) => textsOf(values, text) });

type Numeric = Exclude<Column["kind"], "text">;

/** Numbers, of which infinite ones are missing, as everywhere. */
function numbers(
  kind: Numeric,
  read: (value: unknown) => number,
  text: LeafReader["text"] = (value) => String(read(value)),
): LeafReader {
  return {
    text,
    column(values) {
      let infinite = 0;
      const found = Float64Array.from(values, (value) => {
        const number = isMissing(value) ? Number.NaN : read(value);
        if (number === Number.POSITIVE_INFINITY || number === Number.NEGATIVE_INFINITY) infinite += 1;
        return Number.isFinite(number) ? number : Number.NaN;
      });
      return {
        column: { kind, values: found },
        ...(infinite ? { note: `${infinite} infinite values are missing` } : {}),
      };
    },
  };
}

/** Whole numbers; a column with one beyond what a number holds exactly is text, for two of them would become one. */
const wholeNumbers: LeafReader = {
  text: String,
  column(values) {
    const beyond = values.some((value) => typeof value === "bigint" && (value > LARGEST || value < -LARGEST));
    return beyond
      ? textsOf(values, String, "whole numbers beyond 2^53 are kept as text")
      : numbers("number", Number).column(values);
  },
};

/** Two's complement, the highest byte first. */
function wholeOf(value: unknown): bigint {
  if (!(value instanceof Uint8Array)) return BigInt(value as number | bigint);
  let whole = 0n;
  for (const byte of value) whole = whole * 256n + BigInt(byte);
  return value.length && (value[0] as number) > 127 ? whole - (1n << BigInt(value.length * 8)) : whole;
}

function decimalText(whole: bigint, scale: number): string {
  const digits = String(whole < 0n ? -whole : whole).padStart(scale + 1, "0");
  return `${whole < 0n ? "-" : ""}${scale ? `${digits.slice(0, -scale)}.${digits.slice(-scale)}` : digits}`;
}

/** Decimals as the numbers nearest to them, or as text where that would make one of two. */
function decimals(scale: number): LeafReader {
  const text = (value: unknown) => decimalText(wholeOf(value), scale);
  return {
    text,
    column(values) {
      const wholes = values.map((value) => (isMissing(value) ? null : wholeOf(value)));
      if (wholes.some((whole) => whole !== null && (whole > LARGEST || whole < -LARGEST)))
        return textsOf(values, text, "decimals of more than 15 digits are kept as text");
      return {
        column: {
          kind: "number",
          values: Float64Array.from(wholes, (whole) =>
            whole === null ? Number.NaN : scale > 22 ? Number(decimalText(whole, scale)) : Number(whole) / 10 ** scale,
          ),
        },
      };
    },
  };
}

const PER_SECOND: Record<string, number> = { MILLIS: 1e3, MICROS: 1e6, NANOS: 1e9 };

/** Milliseconds of a count of some unit since 1970, cut down also before it, and whether that lost anything. */
function milliseconds(value: unknown, perSecond: number): { whole: number; finer: boolean } {
  const unit = BigInt(perSecond / 1000);
  const count = BigInt(value as number | bigint);
  const rest = ((count % unit) + unit) % unit;
  return { whole: Number((count - rest) / unit), finer: rest !== 0n };
}

function moments(perSecond: number): LeafReader {
  return {
    text: (value) => writeMoment(milliseconds(value, perSecond).whole / 1000),
    column(values) {
      let finer = 0;
      const seconds = Float64Array.from(values, (value) => {
        if (isMissing(value)) return Number.NaN;
        const found = milliseconds(value, perSecond);
        if (found.finer) finer += 1;
        return found.whole / 1000;
      });
      return {
        column: { kind: "datetime", values: seconds },
        ...(finer ? { note: `${finer} times are finer than milliseconds and were cut down to them` } : {}),
      };
    },
  };
}

const decoder = new TextDecoder();
const strict = new TextDecoder("utf-8", { fatal: true });
const decodedText = (value: unknown) =>
  value instanceof Uint8Array
    ? decoder.decode(value)
    : typeof value === "object"
      ? JSON.stringify(value)
      : String(value);

/** The text that bytes without any word about them hold, if they can be one. */
function plainText(bytes: Uint8Array): string | undefined {
  try {
    const text = strict.decode(bytes);
    // Signs below a space, other than tabs and line breaks, are in no text.
    return /[^\P{Cc}\t\n\r]/u.test(text) ? undefined : text;
  } catch {
    return undefined;
  }
}

/** Bytes of which the file says nothing: text if all of them are, else their hexadecimal digits. */
const bytes: LeafReader = {
  text: (value) => plainText(value as Uint8Array) ?? hexadecimal(value as Uint8Array),
  column(values) {
    const read = values.map((value) => (value instanceof Uint8Array ? plainText(value) : null));
    if (!read.includes(undefined)) return { column: textsColumn(read as (string | null)[]) };
    return textsOf(
      values,
      (value) => hexadecimal(value as Uint8Array),
      "bytes that are no text are written as hexadecimal digits",
    );
  },
};

/** The reader of a leaf, or why there is none. */
export function leafReader({ type, converted_type, logical_type, scale }: SchemaElement): LeafReader | string {
  const logical = logical_type?.type;
  const is = (name: string) => logical === name || converted_type === name;
  const unitOf = (name: "TIMESTAMP" | "TIME") =>
    logical_type?.type === name
      ? logical_type.unit
      : converted_type?.startsWith(`${name}_`)
        ? converted_type.slice(name.length + 1)
        : undefined;
  if (is("INTERVAL")) return "holds intervals of months, days and milliseconds, which are no length of time";
  if (is("BSON") || is("VARIANT")) return `holds ${is("BSON") ? "BSON" : "values of varying kinds"}`;
  if (is("DECIMAL")) return decimals(logical_type?.type === "DECIMAL" ? logical_type.scale : (scale ?? 0));
  if (is("DATE"))
    return numbers(
      "date",
      (days) => Number(days) * 86400,
      (days) => writeMoment(Number(days) * 86400),
    );
  if (type === "INT96") return moments(1e9);
  const [moment, length] = [unitOf("TIMESTAMP"), unitOf("TIME")];
  if (moment !== undefined) return moments(PER_SECOND[moment] ?? 1e3);
  if (length !== undefined) return numbers("duration", (count) => Number(count) / (PER_SECOND[length] ?? 1e3));
  if (type === "BOOLEAN") return numbers("boolean", (value) => (value ? 1 : 0), String);
  if (is("GEOMETRY") || is("GEOGRAPHY"))
    return {
      text: (value) => JSON.stringify(value),
      column: (values) => ({
        column: { ...textsOf(values, (value) => JSON.stringify(value)).column, place: true } as Column,
      }),
    };
  if (is("UTF8") || is("STRING") || is("ENUM") || is("JSON") || is("UUID") || is("NULL")) return texts(decodedText);
  if (is("FLOAT16") || type === "FLOAT" || type === "DOUBLE") return numbers("number", Number);
  return type === "BYTE_ARRAY" || type === "FIXED_LEN_BYTE_ARRAY" ? bytes : wholeNumbers;
}

/** Annotations by which the package would turn values into something coarser before we see them. */
const LOSSY = /^(?:DECIMAL|DATE|TIMESTAMP(?:_MILLIS|_MICROS)?|JSON|ENUM|INTERVAL|BSON|NULL)$/;

/** The element without what makes its values coarser. */
export function bareElement(element: SchemaElement): SchemaElement {
  const { converted_type, logical_type, ...rest } = element;
  return {
    ...rest,
    ...(converted_type && !LOSSY.test(converted_type) ? { converted_type } : {}),
    ...(logical_type && !LOSSY.test(logical_type.type) ? { logical_type } : {}),
  };
}

const isList = ({ element: { converted_type, logical_type } }: SchemaTree) =>
  converted_type === "LIST" || logical_type?.type === "LIST";

/** What one value of any shape says as text: lists parted by commas, maps as JSON; or why it cannot be read. */
function nestedReader(tree: SchemaTree): LeafReader["text"] | string {
  if (isList(tree) || tree.element.repetition_type === "REPEATED") return listReader(tree);
  if (tree.children.length === 0) {
    const leaf = leafReader(tree.element);
    return typeof leaf === "string" ? leaf : leaf.text;
  }
  const parts = tree.children.map((child) => [child.element.name, nestedReader(child)] as const);
  const problem = parts.find(([, read]) => typeof read === "string");
  if (problem) return problem[1];
  const readers = new Map(parts as [string, LeafReader["text"]][]);
  return (value) =>
    JSON.stringify(
      Object.fromEntries(
        Object.entries(value as object).map(([key, part]) => [key, isMissing(part) ? null : readers.get(key)?.(part)]),
      ),
    );
}

/** Reads a list; those of nothing but single values are written with commas between them. */
export function listReader(tree: SchemaTree): LeafReader["text"] | string {
  const inner = isList(tree)
    ? tree.children[0]
    : { ...tree, element: { ...tree.element, repetition_type: "REQUIRED" as const } };
  const item =
    inner && isList(tree)
      ? inner.children.length === 1
        ? (inner.children[0] as SchemaTree)
        : { ...inner, element: { ...inner.element, repetition_type: "REQUIRED" as const } }
      : inner;
  if (!item || item.path.length > 12) return "holds lists of a shape that cannot be read";
  const read = nestedReader(item);
  if (typeof read === "string") return read;
  return (value) => {
    if (!Array.isArray(value)) return read(value);
    return value.map((part) => (isMissing(part) ? "" : read(part))).join(", ");
  };
}
