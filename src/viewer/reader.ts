import type { SelectionState } from "../core/link/selection";
import type { LookedAt } from "../core/model/chart-inputs";
import type { Scalar } from "../core/table/column";

/** What a reader did to a data table: texts as the address has them. */
export interface TableState {
  sort?: string;
  search?: string;
  /** The page that is turned to, counted from 1; the first needs no saying. */
  page?: string;
  /** Rows a page, or all, where that is not the first length. */
  length?: string;
  /** The order of the columns, and how wide some are. */
  columns?: string;
}

/** A change of a control that waits for its button: of a selection, or of a setting. */
export interface Staged {
  state?: SelectionState | undefined;
  value?: Scalar;
}

type Entry = string | null;

const NOTHING: ReadonlySet<Entry> = new Set();

/**
 * What a reader has set at the pieces of a page, beside selections and settings: entries of legends, how charts are
 * looked at, how tables are arranged, and what waits at controls for a button. It changes by these methods alone,
 * and each gives the whole of what then holds for its piece.
 */
export class Reader {
  private readonly off = new Map<string, ReadonlySet<Entry>>();
  private readonly looks = new Map<string, LookedAt>();
  private readonly tables = new Map<string, Readonly<TableState>>();
  private readonly waiting = new Map<string, Staged>();

  /** Entries of a chart's legend that are pressed. */
  offOf(piece: string): ReadonlySet<Entry> {
    return this.off.get(piece) ?? NOTHING;
  }

  switchOff(piece: string, entries: Iterable<Entry>) {
    this.off.set(piece, new Set(entries));
  }

  /** Charts of whose legends some entry is pressed, with these entries. */
  allOff(): [piece: string, entries: ReadonlySet<Entry>][] {
    return [...this.off].filter(([, entries]) => entries.size > 0);
  }

  lookOf(piece: string): LookedAt {
    return this.looks.get(piece) ?? {};
  }

  look(piece: string, { zoom, view, fit }: LookedAt) {
    const isZoomed = zoom && Object.keys(zoom).length > 0;
    this.looks.set(piece, { ...(isZoomed ? { zoom } : {}), ...(view ? { view } : {}), ...(fit ? { fit } : {}) });
  }

  allLooks(): Iterable<[piece: string, look: LookedAt]> {
    return this.looks;
  }

  tableOf(piece: string): Readonly<TableState> {
    return this.tables.get(piece) ?? {};
  }

  /** Changes some of how a table is arranged; what is said to be nothing goes. */
  arrange(piece: string, changes: { [K in keyof TableState]: TableState[K] | undefined }) {
    const kept = Object.entries({ ...this.tableOf(piece), ...changes }).filter(([, text]) => text);
    this.tables.set(piece, Object.fromEntries(kept));
  }

  allTables(): Iterable<[piece: string, state: Readonly<TableState>]> {
    return this.tables;
  }

  /** A change that waits at a control for its button. */
  waitingAt(control: string): Staged | undefined {
    return this.waiting.get(control);
  }

  stage(control: string, change: Staged) {
    this.waiting.set(control, change);
  }

  /** Lets go of what waits at a control, and answers it. */
  unstage(control: string): Staged | undefined {
    const change = this.waiting.get(control);
    this.waiting.delete(control);
    return change;
  }
}
