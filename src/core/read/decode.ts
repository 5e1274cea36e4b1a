import { damageWords } from "../finding/fault-words";
import { TooLarge } from "../finding/limits";
import { decodedOf, keepDecoded } from "./decoded";

/** Decodes a file that must be decoded ahead; others are left alone. A file that cannot be decoded is known as such. */
export async function decodeFile(path: string, bytes: Uint8Array): Promise<void> {
  if (decodedOf(bytes)) return;
  const ending = /\.([a-z0-9]+)$/i.exec(path)?.[1]?.toLowerCase();
  if (ending !== "xlsx" && ending !== "parquet") return;
  try {
    // Loaded only where such a file is there: most reports have none.
    const decode =
      ending === "xlsx" ? (await import("./workbook")).decodeWorkbook : (await import("./parquet")).decodeParquet;
    keepDecoded(bytes, await decode(bytes));
  } catch (fault) {
    if (fault instanceof TooLarge)
      return void keepDecoded(bytes, { type: "problem", code: "too-large", message: `is too large: ${fault.message}` });
    keepDecoded(bytes, {
      type: "problem",
      code: "bad-file",
      message: `cannot be read as ${ending === "xlsx" ? "a workbook" : "Parquet"}: ${damageWords(fault)}`,
    });
  }
}
