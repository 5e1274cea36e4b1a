import { nearest } from "../finding/nearest";
import { isoDate } from "../table/calendar";
import { type Column, kindOf, type TextColumn } from "../table/column";
import { summarize } from "../table/summary";
import type { Table } from "../table/table";

/** One thing that is not as it was when a file came the last time. */
export interface IntakeChange {
  what: "gone" | "new" | "renamed" | "kind" | "categories" | "range" | "missing" | "rows";
  column?: string;
  /** The same in a sentence. */
  says: string;
  /** What the sheet speaks of may not be there any more. */
  grave: boolean;
}

/** Columns with at most so many different texts have categories; others have names. */
const MOST_CATEGORIES = 60;

function valuesOf(column: TextColumn): Set<string> {
  const used = new Set<number>();
  for (const code of column.codes) if (code >= 0) used.add(code);
  return new Set([...used].map((code) => column.dictionary[code] as string));
}

/** How alike two columns are, 0 to 1: by their values if these are texts, else by where they lie. */
function likeness(a: Column, b: Column): number {
  if (kindOf(a) !== kindOf(b)) return 0;
  if (a.kind === "text" && b.kind === "text") {
    const [left, right] = [valuesOf(a), valuesOf(b)];
    let common = 0;
    for (const value of left) if (right.has(value)) common += 1;
    return common / Math.max(1, Math.min(left.size, right.size));
  }
  const [left, right] = [summarize(a).range, summarize(b).range];
  if (!left || !right) return 0;
  const overlap = Math.min(left.quartiles[2], right.quartiles[2]) - Math.max(left.quartiles[0], right.quartiles[0]);
  const width = Math.max(left.quartiles[2], right.quartiles[2]) - Math.min(left.quartiles[0], right.quartiles[0]);
  return width > 0 ? Math.max(0, overlap / width) : left.mean === right.mean ? 1 : 0;
}

/** Pairs of a column that is gone and one that is new and seem to be the same under another name. */
function renamings(
  before: Table,
  after: Table,
  gone: readonly string[],
  added: readonly string[],
): Map<string, string> {
  const pairs = new Map<string, string>();
  const free = new Set(added);
  for (const name of gone) {
    const column = before.columns.get(name) as Column;
    const scored = [...free]
      .map((other) => {
        const named =
          nearest(name, [other]) !== undefined ||
          other.toLowerCase().replace(/[^a-z0-9]/g, "") === name.toLowerCase().replace(/[^a-z0-9]/g, "");
        return { other, score: likeness(column, after.columns.get(other) as Column) + (named ? 0.5 : 0) };
      })
      .sort((a, b) => b.score - a.score);
    const best = scored[0];
    if (!best || best.score < 0.6) continue;
    pairs.set(name, best.other);
    free.delete(best.other);
  }
  return pairs;
}

const listed = (values: readonly string[]) =>
  `${values.slice(0, 5).join(", ")}${values.length > 5 ? ` and ${values.length - 5} more` : ""}`;

function written(kind: string, value: number): string {
  if (kind === "date" || kind === "datetime") return isoDate(value);
  return String(Number(value.toPrecision(6)));
}

function changesOf(name: string, old: Column, now: Column): IntakeChange[] {
  const [from, to] = [kindOf(old), kindOf(now)];
  if (from !== to)
    return [{ what: "kind", column: name, says: `${name} held ${from} and now holds ${to}`, grave: true }];
  const changes: IntakeChange[] = [];
  const [before, after] = [summarize(old), summarize(now)];
  const share = (summary: typeof before) => (summary.rows ? summary.missing / summary.rows : 0);
  if (share(after) > share(before) + 0.05)
    changes.push({
      what: "missing",
      column: name,
      says:
        `${name} was missing in ${Math.round(share(before) * 100)} % of ` +
        `rows and is now in ${Math.round(share(after) * 100)} %`,
      grave: false,
    });
  if (old.kind === "text" && now.kind === "text" && !old.place) {
    const [left, right] = [valuesOf(old), valuesOf(now)];
    if (left.size > MOST_CATEGORIES && right.size > MOST_CATEGORIES) return changes;
    const added = [...right].filter((value) => !left.has(value)).sort();
    const gone = [...left].filter((value) => !right.has(value)).sort();
    if (added.length)
      changes.push({
        what: "categories",
        column: name,
        says: `${name} has new values: ${listed(added)}`,
        grave: false,
      });
    if (gone.length)
      changes.push({ what: "categories", column: name, says: `${name} lacks ${listed(gone)}`, grave: false });
    return changes;
  }
  if (!before.range || !after.range) return changes;
  const [low, middle, high] = before.range.quartiles;
  const reach = Math.max(high - low, 1e-12);
  // Times go on from month to month; that they move is no news.
  if (to !== "date" && to !== "datetime" && Math.abs(after.range.quartiles[1] - middle) > reach)
    changes.push({
      what: "range",
      column: name,
      says:
        `${name} has moved: its median was ${written(from, middle)} ` +
        `and is ${written(to, after.range.quartiles[1])}`,
      grave: false,
    });
  else if (
    to !== "date" &&
    to !== "datetime" &&
    (after.range.most > before.range.most + 3 * reach || after.range.least < before.range.least - 3 * reach)
  )
    changes.push({
      what: "range",
      column: name,
      says:
        `${name} reaches ${written(to, after.range.least)} to ${written(to, after.range.most)}; it ` +
        `was ${written(from, before.range.least)} to ${written(from, before.range.most)}`,
      grave: false,
    });
  return changes;
}

/** What is not as it was: a table as it was read the last time against the one that is to take its place. */
export function intakeChanges(before: Table, after: Table): IntakeChange[] {
  const changes: IntakeChange[] = [];
  const gone = [...before.columns.keys()].filter((name) => !after.columns.has(name));
  const added = [...after.columns.keys()].filter((name) => !before.columns.has(name));
  const renamed = renamings(before, after, gone, added);
  for (const name of gone) {
    const to = renamed.get(name);
    changes.push(
      to === undefined
        ? { what: "gone", column: name, says: `the column ${name} is gone`, grave: true }
        : { what: "renamed", column: name, says: `${name} seems to be called ${to} now`, grave: true },
    );
  }
  const taken = new Set(renamed.values());
  for (const name of added)
    if (!taken.has(name)) changes.push({ what: "new", column: name, says: `the column ${name} is new`, grave: false });
  for (const [name, column] of before.columns) {
    const now = after.columns.get(name);
    if (now) changes.push(...changesOf(name, column, now));
  }
  const [from, to] = [before.rowCount, after.rowCount];
  if (to < from * 0.5 || to > from * 2)
    changes.push({ what: "rows", says: `${to} rows, where there were ${from}`, grave: to === 0 });
  return changes;
}
