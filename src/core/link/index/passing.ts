import type { RowFilter } from "../../formula/ordered";
import { addFailing } from "../../table/flags";
import { ChangeLog, mostFollowed, scratch } from "./changes";
import type { HeldRows } from "./held";

/**
 * The rows of one table that pass several selections at once, kept up as each of them moves: for every
 * row how many of them it fails. However many selections there are, a move costs what it changes.
 */
export class PassingRows {
  readonly failed: RowFilter;
  /** Rows that passed and do no more, and the other way round. */
  readonly log: ChangeLog;
  private seen: number[] = [];

  /** @param selections how many are to be followed */
  constructor(rows: number, selections: number) {
    this.failed = selections < 256 ? new Uint8Array(rows) : new Uint16Array(rows);
    this.log = new ChangeLog(mostFollowed(rows));
  }

  /** Follows its selections to where they are; they are always the same ones in the same order. */
  follow(held: readonly HeldRows[]) {
    const lists = held.map(({ log }, at) => (this.seen.length ? log.since(this.seen[at] as number) : undefined));
    this.seen = held.map(({ log }) => log.version);
    if (lists.some((list) => list === undefined)) {
      this.recount(held);
      return;
    }
    const changes = (lists as Int32Array[][]).flat().filter(({ length }) => length > 0);
    if (changes.length === 0) return;
    const { failed } = this;
    const own = scratch(changes.reduce((sum, { length }) => sum + length, 0));
    let count = 0;
    for (const list of changes) {
      for (let at = 0; at < list.length; at++) {
        const change = list[at] as number;
        const row = change < 0 ? ~change : change;
        const before = failed[row] as number;
        const now = change < 0 ? before + 1 : before - 1;
        failed[row] = now;
        if (before === 0 || now === 0) own[count++] = change;
      }
    }
    this.log.add(own.slice(0, count));
  }

  private recount(held: readonly HeldRows[]) {
    const { failed } = this;
    failed.fill(0);
    for (const { pass } of held) {
      if (failed instanceof Uint8Array) addFailing(failed, pass);
      else
        for (let row = 0; row < failed.length; row++) failed[row] = (failed[row] as number) + 1 - (pass[row] as number);
    }
    this.log.cut();
  }
}
