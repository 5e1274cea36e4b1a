import { groupRows } from "../formula/groups";
import { type Column, gather } from "../table/column";
import { oneAfterTheOther } from "../table/one-after-other";
import { type Table, takeRows } from "../table/table";
import type { Loss, StepKind, StepOf } from "./step";

/** For each row of the left table the row of the right one that it finds; how many find none, and how many several. */
export function matchRows(
  left: Table,
  right: Table,
  on: readonly [string, string][],
): { match: Int32Array; none: number; several: number } {
  // Keys of both tables are numbered together, so that equal values have equal numbers.
  const keys = on.map(([own, theirs]) =>
    oneAfterTheOther(left.columns.get(own) as Column, right.columns.get(theirs) as Column),
  );
  const { of, count } = groupRows(keys, left.rowCount + right.rowCount);
  const first = new Int32Array(count).fill(-1);
  const times = new Int32Array(count);
  for (let row = 0; row < right.rowCount; row++) {
    const group = of[left.rowCount + row] as number;
    if (isMissing(on, right, row)) continue;
    if ((first[group] as number) < 0) first[group] = row;
    times[group] = (times[group] as number) + 1;
  }
  const match = new Int32Array(left.rowCount);
  let [none, several] = [0, 0];
  for (let row = 0; row < left.rowCount; row++) {
    const group = of[row] as number;
    match[row] = first[group] as number;
    if ((first[group] as number) < 0) none += 1;
    else if ((times[group] as number) > 1) several += 1;
  }
  return { match, none, several };
}

/** A key that is missing matches nothing, not even another one. */
function isMissing(on: readonly [string, string][], right: Table, row: number): boolean {
  return on.some(([, theirs]) => {
    const column = right.columns.get(theirs) as Column;
    return column.kind === "text" ? (column.codes[row] as number) < 0 : Number.isNaN(column.values[row]);
  });
}

/** Columns of a look-up table beside the rows that find it; of several matches the first. */
export const join: StepKind<"join"> = {
  run(step, table, context) {
    const right = context.table(step.table);
    const { match, none, several } = matchRows(table, right, step.on);
    const columns = new Map(table.columns);
    const info = new Map(table.info);
    for (const [name, theirs] of step.get) {
      columns.set(name, gather(right.columns.get(theirs) as Column, match));
      const said = right.info.get(theirs);
      if (said) info.set(name, { ...said, ...table.info.get(name) });
    }
    const joined: Table = { ...table, columns, info };
    const notes: Loss[] = [];
    if (several) notes.push({ rows: several, reason: `found several in ${step.table}; the first counts` });
    if (none === 0 || step.unmatched === "keep") {
      if (none) notes.unshift({ rows: none, reason: `found none in ${step.table}` });
      return {
        table: joined,
        losses: [],
        ...(notes.length ? { notes } : {}),
        origin: { type: "same" },
        tie: { table: step.table, match },
      };
    }
    const rows = Int32Array.from(match.keys()).filter((row) => (match[row] as number) >= 0);
    return {
      table: takeRows(joined, rows),
      losses: [{ rows: none, reason: `found none in ${step.table}` }],
      ...(notes.length ? { notes } : {}),
      origin: { type: "rows", rows },
      tie: { table: step.table, match: match.filter((found) => found >= 0) },
    };
  },
  formulas: () => [],
  needs(step, wanted) {
    const got = new Set(step.get.map(([name]) => name));
    return [...[...wanted].filter((name) => !got.has(name)), ...step.on.map(([own]) => own)];
  },
  narrowed: (step, _, columnsOf) => ({
    ...step,
    get: step.get.filter(([, theirs]) => columnsOf(step.table).has(theirs)),
  }),
  gives: ({ get }, columns) => [...columns, ...get.map(([name]) => name)],
};

/** The columns of the other table that a join reads, to give these of its result. */
export function neededOfOther(step: StepOf<"join">, wanted: ReadonlySet<string>): string[] {
  return [
    ...step.on.map(([, theirs]) => theirs),
    ...step.get.filter(([name]) => wanted.has(name)).map(([, theirs]) => theirs),
  ];
}
