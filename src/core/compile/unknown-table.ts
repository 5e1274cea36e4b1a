import { writeFix } from "../finding/finding";
import { listed, nearest } from "../finding/nearest";
import type { Path } from "../sheet/tree";
import { addFinding, type Compiling } from "./compiling";

/** Says that there is no table of a name, and which one may have been meant. */
export function unknownTable(compiling: Compiling, path: Path, wanted: string, piece?: string) {
  const names = [...compiling.sheet.tables.keys()];
  const near = nearest(wanted, names);
  const span = compiling.sheet.source.valueSpan(path);
  addFinding(
    compiling,
    path,
    "unknown-table",
    `there is no table "${wanted}"${near ? `; did you mean ${near}?` : names.length ? `; tables are ${listed(names)}` : ""}`,
    {
      ...(piece ? { piece } : {}),
      ...writeFix(span, near),
    },
  );
}
