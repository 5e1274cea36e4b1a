import { damageWords } from "../../core/finding/fault-words";
import { keepDecoded } from "../../core/read/decoded";
import { decodeWorkbook } from "../../core/read/workbook";
import { readXlsx } from "../../core/read/xlsx";
import type { DecodedKind } from "./kit";

/** Workbooks, for dashboards of which some table was read from one. */
export const workbooks: DecodedKind = {
  async decode(bytes) {
    try {
      keepDecoded(bytes, await decodeWorkbook(bytes));
    } catch (fault) {
      const message = `cannot be read as a workbook: ${damageWords(fault)}`;
      keepDecoded(bytes, { type: "problem", code: "bad-file", message });
    }
  },
  read: readXlsx,
};
