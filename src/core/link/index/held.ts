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

  /** Asks again of some rows whether they are held; of all others it is known that nothing has changed. */
  reconsider(rows: readonly Int32Array[], isHeld: (row: number) => boolean) {
    const changed = scratch(rows.reduce((sum, { length }) => sum + length, 0));
    let count = 0;
    for (const some of rows) {
      for (let at = 0; at < some.length; at++) {
        const row = some[at] as number;
        const now = isHeld(row) ? 1 : 0;
        if (now === this.pass[row]) continue;
        this.pass[row] = now;
        changed[count++] = now ? row : ~row;
      }
    }
    this.log.add(changed.slice(0, count));
  }
}
