import { type LaidOut, laidOut } from "../../table/laid-out";
import { allRows } from "../../table/table";
import type { Frame } from "../evaluate";

/** The rows of each group side by side. */
export function runsOf({ length, groups, order }: Frame): LaidOut {
  return groups
    ? laidOut(groups.of, groups.count, order)
    : { rows: order ?? allRows(length), starts: Int32Array.of(0, length) };
}
