import type { RowFilter } from "../../formula/ordered";
import type { Answer } from "../../query/answer";
import type { Prepared } from "../../query/prepare";
import type { FormulaColumns } from "../predicate";
import type { SelectionPlan, SelectionState } from "../selection";
import type { HeldRows } from "./held";
import { type Cover, OUT, type Places, SOME, WHOLE } from "./row-places";
import { RunningTotals } from "./totals";

/** One way in which rows are parted into places, and what a state of the selection covers of them. */
export interface Level {
  places: Places;
  /** Nothing for a state that these places cannot tell. */
  cover(state: SelectionState): Cover | undefined;
}

/** Rows parted along what a selection goes by. */
export interface Parting {
  /** What the places were found from: columns and edges. */
  from: readonly (Float64Array | Int32Array)[];
  /** Ends may lie within places; otherwise they mostly stand between them. */
  hasRim: boolean;
  /** The finest first. */
  levels: readonly Level[];
}

/** What an index of a selection is made from. */
export interface Indexed {
  plan: SelectionPlan;
  columns: FormulaColumns;
  state: SelectionState;
}

/** Answers the moves of one selection ahead of going over rows; of it the engine knows this alone. */
export interface SelectionIndex {
  readonly selection: string;
  readonly table: string;
  /** Finds the places of some more rows; false where all have theirs. */
  find(): boolean;
  /** Puts the rows of each place side by side, for those who follow them; false where that is done. */
  lay(): boolean;
  /** Makes a slice of what answers a question; false once all is made, nothing where no room is left for it. */
  warm(prepared: Prepared, others: Others): boolean | undefined;
  /** The answer for a state; nothing where it is not made yet, or the state is none that places can tell. */
  answer(prepared: Prepared, others: Others, state: SelectionState): Answer | undefined;
  /** Brings the rows that the selection held to those that it holds now; false where they must be found anew. */
  follow(held: HeldRows, state: SelectionState): boolean;
}

/** Selections beside the one in hand: which they are and how they stand, and the rows that they leave. */
export interface Others {
  key: string;
  failed(): RowFilter | null;
}

/** Makes an index of a selection, or keeps the one before where nothing has changed; none where it cannot have one. */
export type Indexer = (of: Indexed, before: SelectionIndex | undefined) => SelectionIndex | undefined;

/** A parting of rows, made once `from` is known to differ from what an index before was made of. */
export interface PartingPlan extends Pick<Parting, "from" | "hasRim"> {
  levels(): readonly Level[];
}

/** An indexer over the places of a parting; none where there is no parting. */
export const indexerOf =
  (partingOf: (of: Indexed) => PartingPlan | undefined): Indexer =>
  (of, before) => {
    const { plan } = of;
    const parting = plan.by.length ? undefined : partingOf(of);
    if (!parting) return undefined;
    if (before instanceof InHand && before.isOf(plan.name, parting.from)) return before;
    return new InHand(plan.name, plan.table, { ...parting, levels: parting.levels() });
  };

const isSame = (one: Float64Array | Int32Array, other: Float64Array | Int32Array) =>
  one === other ||
  // Edges are found anew at each look, and are mostly as they were; columns are long and stay the same objects.
  (one.length === other.length && one.length < 4096 && one.every((value, at) => value === other[at]));

/** A selection that moves, or is about to: places of its rows, and totals over them. */
class InHand implements SelectionIndex {
  private readonly totals: RunningTotals;
  private readonly covers = new WeakMap<SelectionState, (Cover | undefined)[]>();

  constructor(
    readonly selection: string,
    readonly table: string,
    private readonly parting: Parting,
  ) {
    this.totals = new RunningTotals(
      parting.levels.map(({ places }) => places),
      parting.hasRim,
    );
  }

  isOf(selection: string, from: Parting["from"]): boolean {
    const own = this.parting.from;
    return (
      this.selection === selection &&
      own.length === from.length &&
      own.every((part, at) => isSame(part, from[at] as Float64Array))
    );
  }

  find(): boolean {
    const { levels, from } = this.parting;
    if (levels.some(({ places }) => places.find())) return true;
    if (!this.parting.hasRim) return false;
    const [{ places }] = levels as [Level];
    return places.lines.lay() || from.some((column) => places.lines.line(column));
  }

  lay(): boolean {
    return (this.parting.levels[0] as Level).places.lines.lay();
  }

  warm(prepared: Prepared, others: Others): boolean | undefined {
    return this.totals.warm(prepared, others);
  }

  answer(prepared: Prepared, others: Others, state: SelectionState): Answer | undefined {
    return this.totals.answer(prepared, others, (level) => this.cover(level, state));
  }

  /** Of places that are as they were nothing is looked at. */
  follow(held: HeldRows, state: SelectionState): boolean {
    const [before, now] = [this.cover(0, held.state), this.cover(0, state)];
    if (!before || !now) return false;
    const { places } = this.parting.levels[0] as Level;
    const { rows } = places.lines;
    const changed: number[] = [];
    let count = 0;
    for (let place = 0; place < now.parts.length; place++) {
      const part = now.parts[place];
      if (part === before.parts[place] && part !== SOME) continue;
      changed.push(place);
      count += places.to(place) - places.from(place);
    }
    // Where many rows may have changed, comparing them all from the first to the last is quicker.
    if (count > rows.length / 8) return false;
    const columns = now.parts.includes(SOME) ? now.columns.map((column) => places.lines.column(column)) : [];
    held.reconsider(count, (consider) => {
      for (const place of changed) {
        const [part, end] = [now.parts[place], places.to(place)];
        for (let at = places.from(place); at < end; at++)
          consider(rows[at] as number, part === WHOLE || (part !== OUT && now.holds(columns, at)) ? 1 : 0);
      }
    });
    return true;
  }

  /** What a state covers at a level; worked out once for all who ask. */
  private cover(level: number, state: SelectionState): Cover | undefined {
    const known = this.covers.get(state) ?? [];
    this.covers.set(state, known);
    if (!(level in known)) known[level] = this.parting.levels[level]?.cover(state);
    return known[level];
  }
}
