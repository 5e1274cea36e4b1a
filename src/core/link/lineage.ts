import { isMerging, runStep } from "../steps/run";
import type { Origin, Step, StepContext, StepResult } from "../steps/step";
import { type Table, takeRows } from "../table/table";

/**
 * Row provenance: how the rows of a table that was made by steps hang together with the rows of
 * the table it was made from. Selections travel along it, up and down.
 */
export interface Made {
  table: Table;
  /** One a step, in order. */
  origins: Origin[];
  /** By look-up table, the row there that each row of the table found. */
  ties: Ties;
  /** The rows that the first merging step went over, and the place of that step. */
  above?: { table: Table; at: number };
}

export type Ties = ReadonlyMap<string, Int32Array>;

/** What rows have found elsewhere, carried through a step; a merged row has found nothing in particular. */
export function tiesAfter(ties: Ties, { origin, tie }: Pick<StepResult, "origin" | "tie">): Ties {
  let after = ties;
  if (origin.type === "merged" || origin.type === "pairs") after = new Map();
  else if (origin.type === "rows" && ties.size)
    after = new Map(
      [...ties].map(([name, match]) => [name, origin.rows.map((row) => (row < 0 ? -1 : (match[row] as number)))]),
    );
  return tie ? new Map([...after, [tie.table, tie.match]]) : after;
}

/**
 * What a choice makes of a table whose rows are stacked under others: 1 for rows that go on; nothing where it
 * says nothing of them.
 */
export type Elsewhere = (table: string) => Uint8Array | undefined;

/** A choice of rows that enters the steps of a table just above its first merging step. */
export interface RowChoice {
  /** 1 for rows, of the table that the steps begin with, that go on. */
  pass: Uint8Array;
  elsewhere?: Elsewhere;
}

/** Runs steps, keeping provenance. Rows that fail a choice are taken out just above the first merging step. */
export function makeTableBySteps(
  from: Table,
  steps: readonly Step[],
  context: StepContext,
  choices: readonly RowChoice[] = [],
): Made {
  let table = from;
  const origins: Origin[] = [];
  let ties: Ties = new Map();
  let filtered = choices.length === 0;
  let above: Made["above"];
  for (const [at, step] of steps.entries()) {
    if (above === undefined && isMerging(step)) above = { table, at };
    if (!filtered && isMerging(step)) {
      const kept = keptRows(choices, origins, table.rowCount);
      table = takeRows(table, kept);
      origins.push({ type: "rows", rows: kept });
      ties = tiesAfter(ties, { origin: { type: "rows", rows: kept } });
      filtered = true;
    }
    const result = runStep(step, table, context);
    table = result.table;
    origins.push(result.origin);
    ties = tiesAfter(ties, result);
  }
  return { table, origins, ties, ...(above ? { above } : {}) };
}

function keptRows(choices: readonly RowChoice[], origins: readonly Origin[], rowsNow: number): Int32Array {
  const downs = choices.map(({ pass, elsewhere }) => passDown(pass, origins, elsewhere));
  const rows: number[] = [];
  for (let row = 0; row < rowsNow; row++) if (downs.every((down) => down[row])) rows.push(row);
  return Int32Array.from(rows);
}

/**
 * A choice of result rows as a choice of the rows they came from: merged rows stand for all of theirs.
 * What it says of rows that were stacked from other tables goes to `beside`.
 */
export function passUp(
  pass: Uint8Array,
  origins: readonly Origin[],
  length: number,
  beside?: (table: string, pass: Uint8Array) => void,
): Uint8Array {
  let now = pass;
  for (let i = origins.length - 1; i >= 0; i--) {
    const origin = origins[i] as Origin;
    if (origin.type === "same") continue;
    if (origin.type === "merged") {
      const above = new Uint8Array(origin.into.length);
      for (let row = 0; row < above.length; row++) {
        const into = origin.into[row] as number;
        above[row] = into >= 0 ? (now[into] as number) : 0;
      }
      now = above;
    } else if (origin.type === "pairs") {
      const above = new Uint8Array(lengthBefore(origins, i, length));
      origin.to.forEach((row, pair) => {
        if (now[row]) above[origin.from[pair] as number] = 1;
      });
      now = above;
    } else {
      const above = new Uint8Array(lengthBefore(origins, i, length));
      // A row of another table's, which was stacked, has no row above; setting a place of -1 changes nothing.
      for (let row = 0; row < origin.rows.length; row++) if (now[row]) above[origin.rows[row] as number] = 1;
      for (const { table, first, count } of origin.parts ?? []) beside?.(table, now.slice(first, first + count));
      now = above;
    }
  }
  return now;
}

/** How many rows went into step `i`. */
function lengthBefore(origins: readonly Origin[], i: number, length: number): number {
  for (let k = i - 1; k >= 0; k--) {
    const origin = origins[k] as Origin;
    if (origin.type === "rows") return origin.rows.length;
    if (origin.type === "merged" || origin.type === "pairs") return origin.count;
  }
  return length;
}

/** A choice of rows carried down steps that do not merge. Stacked rows that it says nothing of go on. */
export function passDown(pass: Uint8Array, origins: readonly Origin[], elsewhere?: Elsewhere): Uint8Array {
  let now = pass;
  for (const origin of origins) {
    if (origin.type !== "rows") continue;
    const below = new Uint8Array(origin.rows.length);
    for (let row = 0; row < below.length; row++) below[row] = now[origin.rows[row] as number] ?? 1;
    for (const { table, first, count } of origin.parts ?? []) {
      const part = elsewhere?.(table);
      if (part?.length === count) below.set(part, first);
    }
    now = below;
  }
  return now;
}
