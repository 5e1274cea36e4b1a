import { boundMessage, LIMITS, TooLarge } from "../finding/limits";
import { readCsv, textOfBytes } from "./csv";
import { readJson } from "./json";
import { type Reader, type ReadOptions, type ReadResult, unreadable } from "./texts";

/** The ending of a file's name, small, without its point. */
export const endingOf = (path: string): string => /\.([a-z0-9]+)$/i.exec(path)?.[1]?.toLowerCase() ?? "";

/** A reader of bytes that are text. */
export const ofText =
  (read: (file: string, text: string, options: ReadOptions) => ReadResult): Reader =>
  (file, bytes, options) => {
    if (bytes.length > LIMITS.fileText)
      return unreadable(file, "too-large", boundMessage("fileText", bytes.length, file));
    return read(file, textOfBytes(bytes), options);
  };

/** What most tables are kept in, by the ending of a file's name. */
export const TEXT_READERS: Readonly<Record<string, Reader>> = {
  csv: ofText(readCsv),
  tsv: ofText(readCsv),
  txt: ofText(readCsv),
  json: ofText(readJson),
  ndjson: ofText(readJson),
  jsonl: ofText(readJson),
};

/** What is more than may be taken is said, like anything else that is wrong with a file. */
export function withinBounds(file: string, make: () => ReadResult): ReadResult {
  try {
    return make();
  } catch (fault) {
    if (fault instanceof TooLarge) return unreadable(file, "too-large", `${file} is too large: ${fault.message}`);
    throw fault;
  }
}
