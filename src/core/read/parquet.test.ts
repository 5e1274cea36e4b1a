import fc from "fast-check";
import { parquetWriteBuffer } from "hyparquet-writer";
import { describe, expect, test } from "vitest";
import { kindOf, valueAt } from "../table/column";
import { decodeFile } from "./decode";
import { decodedOf } from "./decoded";

type Schema = NonNullable<Parameters<typeof parquetWriteBuffer>[0]["schema"]>;
type Element = Schema[number];

/** A file of columns of one leaf each, whose values stand in it just as they are given. */
function fileOf(columns: { name: string; leaf: Omit<Element, "name">; data: unknown[] }[]): Uint8Array {
  const bare: Schema = [
    { name: "root", num_children: columns.length },
    ...columns.map(({ name, leaf }): Element => ({ name, repetition_type: "OPTIONAL", ...leaf })),
  ];
  return new Uint8Array(
    parquetWriteBuffer({ schema: bare, columnData: columns.map(({ name, data }) => ({ name, data })) } as Parameters<
      typeof parquetWriteBuffer
    >[0]),
  );
}

async function decoded(bytes: Uint8Array) {
  await decodeFile("x.parquet", bytes);
  const file = decodedOf(bytes);
  if (file?.type !== "columns") throw new Error(file?.type === "problem" ? file.message : "not decoded");
  const values = Object.fromEntries(
    file.columns.map(([name, column]) => [name, Array.from({ length: file.rows }, (_, row) => valueAt(column, row))]),
  );
  return { ...file, values, kinds: Object.fromEntries(file.columns.map(([name, column]) => [name, kindOf(column)])) };
}

const decimal = (type: Element["type"], scale: number, more: Partial<Element> = {}) => ({
  type,
  converted_type: "DECIMAL" as const,
  scale,
  precision: 18,
  ...more,
});

describe("decimals of Parquet", () => {
  test("are the numbers that their digits write", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: -999_999_999_999, max: 999_999_999_999 }), { minLength: 1, maxLength: 20 }),
        fc.integer({ min: 0, max: 9 }),
        async (wholes, scale) => {
          const bytes = fileOf([
            { name: "fee", leaf: decimal("INT64", scale), data: wholes.map((whole) => whole / 10 ** scale) },
          ]);
          const { values } = await decoded(bytes);
          expect(values.fee).toEqual(wholes.map((whole) => Number(`${whole}e-${scale}`)));
        },
      ),
      { numRuns: 60 },
    );
  });
  test("0.1, and others that a product with a power of ten would miss", async () => {
    const fees = [0.1, 0.3, 0.7, 1.15, 29.99, -4.35];
    expect((await decoded(fileOf([{ name: "fee", leaf: decimal("INT32", 4), data: fees }]))).values.fee).toEqual(fees);
  });
});

/** Bytes of a whole number in two's complement, the highest first. */
function bytesOf(whole: bigint, length: number): Uint8Array {
  const bytes = new Uint8Array(length);
  let rest = BigInt.asUintN(length * 8, whole);
  for (let at = length - 1; at >= 0; at--) {
    bytes[at] = Number(rest & 255n);
    rest >>= 8n;
  }
  return bytes;
}

/** A file whose annotation is written in after its bytes: what the writer would not turn around itself. */
async function annotated(leaf: Omit<Element, "name">, data: unknown[]) {
  const { leafReader } = await import("./parquet-values");
  const reader = leafReader({ name: "x", ...leaf });
  return typeof reader === "string" ? reader : reader.column(data);
}

describe("values that a plainer reading would lose", () => {
  test("ids beyond 2^53 stay two, as text with all digits", async () => {
    const made = await annotated(decimal("FIXED_LEN_BYTE_ARRAY", 0, { type_length: 16 }), [
      bytesOf(9007199254740993n, 16),
      bytesOf(9007199254740994n, 16),
      bytesOf(-5n, 16),
      null,
    ]);
    if (typeof made === "string") throw new Error(made);
    expect([0, 1, 2, 3].map((row) => valueAt(made.column, row))).toEqual([
      "9007199254740993",
      "9007199254740994",
      "-5",
      null,
    ]);
    const money = await annotated(decimal("FIXED_LEN_BYTE_ARRAY", 4, { type_length: 16 }), [
      bytesOf(123456789012345678n, 16),
      bytesOf(-1n, 16),
    ]);
    expect(typeof money === "string" ? [] : [0, 1].map((row) => valueAt(money.column, row))).toEqual([
      "12345678901234.5678",
      "-0.0001",
    ]);
  });
  test("moments are cut down to milliseconds before 1970 too, which is said", async () => {
    const seen = {
      type: "INT64" as const,
      logical_type: { type: "TIMESTAMP" as const, isAdjustedToUTC: true, unit: "MICROS" as const },
    };
    const { values, notes } = await decoded(
      fileOf([{ name: "seen", leaf: seen, data: [-1n, 1_500n, -86_400_000_001n, 2_000n, null] }]),
    );
    expect(values.seen).toEqual([-0.001, 0.001, -86400.001, 0.002, null]);
    expect(notes).toEqual(["seen: 3 times are finer than milliseconds and were cut down to them"]);
  });
  test("bytes that are no text are three values and not one", async () => {
    const blobs = [Uint8Array.of(0xff, 0xfe), Uint8Array.of(0x80), Uint8Array.of(0xc3)];
    const { values, notes } = await decoded(
      fileOf([{ name: "seal", leaf: { type: "BYTE_ARRAY" }, data: [...blobs, new TextEncoder().encode("ab")] }]),
    );
    expect(values.seal).toEqual(["fffe", "80", "c3", "6162"]);
    expect(notes[0]).toContain("hexadecimal");
    expect(
      (
        await decoded(
          fileOf([
            {
              name: "seal",
              leaf: { type: "BYTE_ARRAY" },
              data: ["Möwe", "Tern"].map((word) => new TextEncoder().encode(word)),
            },
          ]),
        )
      ).values.seal,
    ).toEqual(["Möwe", "Tern"]);
  });
  test("infinite numbers are missing, and counted", async () => {
    const { values, notes } = await decoded(
      fileOf([{ name: "x", leaf: { type: "DOUBLE" }, data: [1, Number.POSITIVE_INFINITY, Number.NaN] }]),
    );
    expect(values.x).toEqual([1, null, null]);
    expect(notes).toEqual(["x: 1 infinite values are missing"]);
  });
});

describe("columns that cannot be read", () => {
  test("are left out alone and named", async () => {
    const bytes = fileOf([
      { name: "kept", leaf: { type: "INT32" }, data: [1, 2] },
      {
        name: "span",
        leaf: { type: "FIXED_LEN_BYTE_ARRAY", type_length: 12, converted_type: "INTERVAL" },
        data: [new Uint8Array(12), new Uint8Array(12)],
      },
    ]);
    const { values, left } = await decoded(bytes);
    expect(values).toEqual({ kept: [1, 2] });
    expect(left.map(({ name }) => name)).toEqual(["span"]);
  });
  test("so is one whose pages are damaged", async () => {
    const bytes = fileOf([
      { name: "first", leaf: { type: "BYTE_ARRAY", converted_type: "UTF8" }, data: ["Sea kale", "Thrift"] },
      { name: "second", leaf: { type: "INT32" }, data: [1, 2] },
    ]);
    // The head of the first page stands right behind the four letters at the beginning.
    bytes.fill(0xff, 4, 12);
    const { values, left } = await decoded(bytes);
    expect(values).toEqual({ second: [1, 2] });
    expect(left[0]).toMatchObject({ name: "first", why: expect.stringContaining("is damaged") });
  });
  test("lists of days are texts", async () => {
    const schema = [
      { name: "root", num_children: 1 },
      { name: "days", repetition_type: "OPTIONAL", converted_type: "LIST", num_children: 1 },
      { name: "list", repetition_type: "REPEATED", num_children: 1 },
      { name: "element", type: "INT32", converted_type: "DATE", repetition_type: "OPTIONAL" },
    ];
    const bytes = new Uint8Array(
      parquetWriteBuffer({
        schema,
        columnData: [{ name: "days", data: [[new Date("2024-02-29"), new Date("2024-03-01")], null, []] }],
      } as Parameters<typeof parquetWriteBuffer>[0]),
    );
    expect((await decoded(bytes)).values.days).toEqual(["2024-02-29, 2024-03-01", null, ""]);
  });
  test("a file with nothing that can be read says why", async () => {
    const bytes = fileOf([
      {
        name: "span",
        leaf: { type: "FIXED_LEN_BYTE_ARRAY", type_length: 12, converted_type: "INTERVAL" },
        data: [new Uint8Array(12)],
      },
    ]);
    await expect(decoded(bytes)).rejects.toThrow("holds no column that can be read: span holds intervals");
  });
});
