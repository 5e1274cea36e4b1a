import { inTableOrder } from "../../table/table-order";
import type { SelectionState } from "../selection";
import { ChangeLog, differences, mostFollowed, scratch } from "./changes";

/** The rows of one table that one selection holds, kept up as it moves. */
export class HeldRows {
  readonly log: ChangeLog;

  /**
   * @param pass 1 for rows that it holds, in memory of its own
   * @param state what the selection was when these rows were found
   */
  constructor(
    public pass: Uint8Array,
    public state: SelectionState,
    public version: number,
  ) {
    this.log = new ChangeLog(mostFollowed(pass.length));
  }

  /** Holds other rows from now on, found by going over all of them. */
  replace(pass: Uint8Array) {
    const changed = differences(this.pass, pass, mostFollowed(pass.length));
    this.pass = pass;
    if (changed) this.log.add(changed);
    else this.log.cut();
  }

  /**
   * Asks again of some rows whether they are held; of all others it is known that nothing has changed.
   *
   * @param most so many rows are asked about, at the most
   * @param each calls back for each of them, with 1 where it is held now
   */
  reconsider(most: number, each: (consider: (row: number, now: 0 | 1) => void) => void) {
    const rows = scratch(most);
    const { pass } = this;
    let count = 0;
    each((row, now) => {
      if (now === pass[row]) return;
      pass[row] = now;
      rows[count++] = row;
    });
    const changed = inTableOrder(rows.subarray(0, count), pass.length);
    for (let at = 0; at < count; at++) if (!pass[changed[at] as number]) changed[at] = ~(changed[at] as number);
    this.log.add(changed);
  }
}
