import { addTotals, finishTotals } from "../formula/measures";
import { answerOrdered, type Ordered, type RowFilter } from "../formula/ordered";
import { orderOf, type Prepared } from "./prepare";

/** Numbers per group for some choice of rows. */
export interface Answer {
  prepared: Prepared;
  /** Rows in each group; in an ungrouped query 1 for rows that pass, 0 for others. */
  counts: Float64Array | Uint8Array;
  /** Values per group, for each measure. */
  values: Float64Array[];
  /** The same question over the rows of single selections, for aggregates `of NAME`. */
  of?: ReadonlyMap<string, Answer>;
}

/** Answers a query over the rows that pass, by going over all of them. */
export function answerQuery(prepared: Prepared, filter: RowFilter | null): Answer {
  if (!prepared.query.grouped) return { prepared, counts: passingRows(prepared.groups, filter), values: [] };
  const totals = prepared.contributions.map((contribution) =>
    addTotals(contribution, prepared.groups, prepared.groupCount, filter),
  );
  return answerFromTotals(prepared, totals, filter);
}

/**
 * Without groups every row is its own: 1 where it is drawn and passes. Worked out in signs and not in
 * branches, of which a processor guesses every second one wrong where rows pass at random.
 */
export function passingRows(groups: Int32Array, filter: RowFilter | null): Uint8Array {
  const { length } = groups;
  const passing = new Uint8Array(length);
  if (!filter) {
    for (let row = 0; row < length; row++) passing[row] = ((groups[row] as number) >>> 31) ^ 1;
    return passing;
  }
  for (let row = 0; row < length; row++) {
    const failed = filter[row] as number;
    passing[row] = (((failed | -failed) >>> 31) | ((groups[row] as number) >>> 31)) ^ 1;
  }
  return passing;
}

/**
 * Answers a query whose totals are known already; only measures that need rows go over them.
 * @param kept answers of those for which somebody has kept count
 */
export function answerFromTotals(
  prepared: Prepared,
  totals: readonly Float64Array[],
  filter: RowFilter | null,
  kept?: (measure: Ordered) => Float64Array | undefined,
): Answer {
  const { groups, groupCount } = prepared;
  const values = prepared.measures.map(({ measure, slots }) =>
    measure.type === "totals"
      ? finishTotals(
          measure,
          slots.map((slot) => totals[slot] as Float64Array),
          groupCount,
        )
      : (kept?.(measure) ?? answerOrdered(measure, groups, groupCount, filter, () => orderOf(prepared, measure))),
  );
  return { prepared, counts: totals[0] as Float64Array, values };
}
