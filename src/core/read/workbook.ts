import { unzipSync } from "fflate";
import readWorkbook from "read-excel-file/universal";
import type { Decoded } from "./decoded";
import { writeMoment } from "./decoded";

/** Unpacked, a workbook may be this large; more is hardly a table and would fill the memory. */
const MOST_BYTES = 800_000_000;

function textOf(value: unknown): string | null {
  if (value === null || value === undefined) return null;
  if (value instanceof Date) return Number.isNaN(value.getTime()) ? null : writeMoment(Math.round(value.getTime() / 1000));
  return String(value);
}

/** Reads every sheet of an .xlsx workbook into cells: numbers as digits, dates in ISO form. */
export async function decodeWorkbook(bytes: Uint8Array): Promise<Decoded> {
  let unpacked = 0;
  unzipSync(bytes, {
    filter: ({ originalSize }) => {
      unpacked += originalSize;
      return false;
    },
  });
  if (unpacked > MOST_BYTES) return { type: "problem", code: "too-large", message: `would take ${Math.round(unpacked / 1e6)} MB unpacked` };
  // A copy: the reader may hand the buffer over, and the bytes are kept for the report.
  const sheets = await readWorkbook(bytes.slice().buffer as ArrayBuffer, { trim: false });
  return { type: "workbook", sheets: sheets.map(({ sheet, data }) => ({ name: sheet, rows: data.map((cells) => cells.map(textOf)) })) };
}
