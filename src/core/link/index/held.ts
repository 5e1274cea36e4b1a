import type { SelectionState } from "../selection";
import { ChangeLog, mostFollowed, scratch } from "./changes";

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

/** Rows in which two choices differ, as changes from one to the other; nothing where they are more than `most`. */
function differences(from: Uint8Array, to: Uint8Array, most: number): Int32Array | undefined {
  const changed = scratch(from.length);
  let count = 0;
  // Four rows at a time while nothing changes: most rows of most moves stay.
  const whole = from.length >> 2;
  const [words, others] = [new Int32Array(from.buffer, 0, whole), new Int32Array(to.buffer, 0, whole)];
  for (let row = 0; row < from.length; row++) {
    if (row % 4 === 0) {
      while (row >> 2 < whole && words[row >> 2] === others[row >> 2]) row += 4;
      if (row >= from.length) break;
    }
    if (from[row] === to[row]) continue;
    if (count === most) return undefined;
    changed[count++] = to[row] ? row : ~row;
  }
  return changed.slice(0, count);
}
