import { columnsOf } from "../core/page/page";
import type { App } from "./app";

/** Plots that stand over one another share their left edge: the room that the widest upright axis of them needs. */
export class LeftEdges {
  /** What the upright axes of charts need at their left, by piece. */
  private readonly lefts = new Map<string, number>();
  /** Pieces that stand over one another, on each page. */
  private columns: readonly (readonly (readonly string[])[])[] | undefined;

  constructor(private readonly app: App) {}

  /** The room at the left that a chart shares with those over and under it. */
  of(name: string): number {
    return Math.max(0, ...this.columnWith(name).map((piece) => this.lefts.get(piece) ?? 0));
  }

  /** A chart says what room it needs; where that changes what its column has, the column is drawn again. */
  need(name: string, left: number) {
    const column = this.columnWith(name);
    if (column.length === 0 || this.lefts.get(name) === left) return;
    const before = this.of(name);
    this.lefts.set(name, left);
    if (this.of(name) !== before) this.app.touch(...column);
  }

  /** The charts over and under one on the page in sight, itself among them. */
  private columnWith(name: string): readonly string[] {
    this.columns ??= this.app.plan.pages.map(columnsOf);
    return this.columns[this.app.page]?.find((pieces) => pieces.includes(name)) ?? [];
  }
}
