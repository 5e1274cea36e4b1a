import { addTotals } from "../../formula/measures";
import { ORDERED, type OrderCounts, type ScanOrder } from "../../formula/ordered";
import { type Answer, answerFromTotals, passingRows } from "../../query/answer";
import { orderOf, type Prepared } from "../../query/prepare";
import type { PassingRows } from "./passing";

/**
 * The answer to one question over rows that come and go. Totals are of integers, so that what went
 * out is taken away again without a trace; places among ordered rows are counted block by block.
 * What it answers equals a full recount to the last bit.
 */
export class Follower {
  private seen = -1;
  private totals: Float64Array[] = [];
  private passing: Uint8Array = new Uint8Array(0);
  private ordered = new Map<ScanOrder, OrderCounts>();

  constructor(
    private readonly prepared: Prepared,
    private readonly rows: PassingRows,
  ) {}

  /** The answer over the rows that pass now. What it gave before stays as it was. */
  answer(): Answer {
    const { prepared, rows } = this;
    const changes = this.seen < 0 ? undefined : rows.log.since(this.seen);
    this.seen = rows.log.version;
    if (changes) for (const list of changes) this.apply(list);
    else this.recount();
    if (!prepared.query.grouped) return { prepared, counts: this.passing.slice(), values: [] };
    const totals = this.totals.map((total) => total.slice());
    return answerFromTotals(prepared, totals, rows.failed, (measure) => {
      if (measure.ask.type === "least" || measure.ask.type === "most") return undefined;
      const order = orderOf(prepared, measure);
      let counts = this.ordered.get(order);
      if (!counts) {
        counts = ORDERED.get().counts(order, prepared.groups, prepared.groupCount);
        counts.recount(rows.failed);
        this.ordered.set(order, counts);
      }
      return counts.answer(measure, rows.failed);
    });
  }

  /** Counts ahead of the first question. False where that is done. */
  warm(): boolean {
    if (this.seen >= 0) return false;
    this.answer();
    return true;
  }

  private recount() {
    const { prepared, rows } = this;
    const { groups, groupCount } = prepared;
    if (!prepared.query.grouped) {
      this.passing = passingRows(groups, rows.failed);
      return;
    }
    this.totals = prepared.contributions.map((contribution) =>
      addTotals(contribution, groups, groupCount, rows.failed),
    );
    for (const counts of this.ordered.values()) counts.recount(rows.failed);
  }

  private apply(changes: Int32Array) {
    const { groups, contributions, query } = this.prepared;
    if (!query.grouped) {
      for (let at = 0; at < changes.length; at++) {
        const change = changes[at] as number;
        const row = change < 0 ? ~change : change;
        if ((groups[row] as number) >= 0) this.passing[row] = change < 0 ? 0 : 1;
      }
      return;
    }
    contributions.forEach((contribution, place) => {
      const total = this.totals[place] as Float64Array;
      if (contribution) addChanges(total, changes, groups, contribution);
      else countChanges(total, changes, groups);
    });
    for (const counts of this.ordered.values())
      for (let at = 0; at < changes.length; at++) {
        const change = changes[at] as number;
        counts.change(change < 0 ? ~change : change, change < 0 ? -1 : 1);
      }
  }
}

function countChanges(total: Float64Array, changes: Int32Array, groups: Int32Array) {
  for (let at = 0; at < changes.length; at++) {
    const change = changes[at] as number;
    const group = groups[change < 0 ? ~change : change] as number;
    if (group >= 0) total[group] = (total[group] as number) + (change < 0 ? -1 : 1);
  }
}

function addChanges(total: Float64Array, changes: Int32Array, groups: Int32Array, contribution: Float64Array) {
  for (let at = 0; at < changes.length; at++) {
    const change = changes[at] as number;
    const row = change < 0 ? ~change : change;
    const group = groups[row] as number;
    if (group < 0) continue;
    const amount = contribution[row] as number;
    total[group] = (total[group] as number) + (change < 0 ? -amount : amount);
  }
}
