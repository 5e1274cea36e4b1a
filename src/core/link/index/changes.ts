import { countDifferent, eachDifferent } from "../../table/flags";

/**
 * One list of changes: which rows came in and which went out, update by update. Whoever follows it
 * remembers the version that it has seen, and asks for what came after.
 * A row that came in stands as its number, one that went out as `~number`.
 */
export class ChangeLog {
  version = 0;
  private lists: Int32Array[] = [];
  private size = 0;

  /** @param most so many changes are kept; whoever lags behind them counts anew. */
  constructor(private readonly most: number) {}

  add(list: Int32Array) {
    this.version += 1;
    this.lists.push(list);
    this.size += list.length;
    while (this.size > this.most) this.size -= (this.lists.shift() as Int32Array).length;
  }

  /** Everything may have changed: nobody can follow from before. */
  cut() {
    this.version += 1;
    this.lists = [];
    this.size = 0;
  }

  /** What has changed since a version; nothing where that is too long ago. */
  since(version: number): readonly Int32Array[] | undefined {
    const missed = this.version - version;
    return missed > this.lists.length ? undefined : this.lists.slice(this.lists.length - missed);
  }
}

/** So large a part of the rows changed at once is quicker counted anew than followed row by row. */
const FOLLOWED_PART = 1 / 4;

/** Most changes worth following in a table of so many rows; in a small one all are. */
export const mostFollowed = (rows: number) => Math.max(1024, Math.floor(rows * FOLLOWED_PART));

let paper = new Int32Array(0);

/** Room for so many changes that are being found, lent until the next one asks; who keeps them makes a copy. */
export function scratch(length: number): Int32Array {
  if (paper.length < length) paper = new Int32Array(length);
  return paper;
}

/** Rows in which two choices differ, as changes from one to the other; nothing where they are more than `most`. */
export function differences(from: Uint8Array, to: Uint8Array, most: number): Int32Array | undefined {
  const count = countDifferent(from, to);
  if (count > most) return undefined;
  const changed = new Int32Array(count);
  let at = 0;
  eachDifferent(from, to, (row) => {
    changed[at++] = to[row] ? row : ~row;
  });
  return changed;
}
