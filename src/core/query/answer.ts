import { addTotals, finishTotals } from "../formula/measures";
import { ORDERED, type Ordered, type RowFilter } from "../formula/ordered";
import { thereAndZero } from "../table/flags";
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

const drawn = new WeakMap<Int32Array, Uint8Array>();

/** Without groups every row is its own: 1 where it is drawn and passes. */
export function passingRows(groups: Int32Array, filter: RowFilter | null): Uint8Array {
  let there = drawn.get(groups);
  if (!there) {
    there = Uint8Array.from(groups, (group) => (group < 0 ? 0 : 1));
    drawn.set(groups, there);
  }
  if (!filter) return there.slice();
  if (filter instanceof Uint8Array) return thereAndZero(there, filter);
  return there.map((is, row) => (filter[row] === 0 ? is : 0));
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
      : (kept?.(measure) ??
        ORDERED.get().answer(measure, groups, groupCount, filter, () => orderOf(prepared, measure))),
  );
  return { prepared, counts: totals[0] as Float64Array, values };
}
