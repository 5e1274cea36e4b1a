import type { Asked } from "../core/link/engine";
import type { Indexer } from "../core/link/index/in-hand";
import type { App } from "./app";

/** One turn of work that nobody waits for, in milliseconds: a frame keeps most of its time. */
const TURN = 6;

/**
 * Makes ready what will answer the selection that a reader is about to move: begun when the pointer or the focus
 * comes to it, a turn at a time, so that no frame is held up.
 */
export class Warming {
  private waiting: Asked[] = [];
  private turn: ReturnType<typeof setTimeout> | undefined;
  private isInHand = false;

  constructor(private readonly app: App) {}

  /** Takes selections in hand, each with its index. */
  take(selections: readonly (readonly [name: string, indexer: Indexer])[]) {
    for (const [name, indexer] of selections) this.app.model.engine.activate(name, indexer);
    this.isInHand = true;
    this.again();
  }

  /** Makes anew what other selections have changed, for what is in hand still. */
  again() {
    if (!this.isInHand) return;
    const { app } = this;
    const inSight = [...app.views.keys()].filter((name) => app.isInSight(name));
    this.waiting = [...inSight.flatMap((piece) => app.model.askedBy(piece)), ...app.model.rows.asked()];
    this.turn ??= setTimeout(() => this.work(), 0);
  }

  end() {
    clearTimeout(this.turn);
    this.waiting = [];
  }

  private work() {
    this.turn = undefined;
    const started = performance.now();
    for (let asked = this.waiting[0]; asked; asked = this.waiting[0]) {
      if (!this.app.model.engine.warm(asked)) this.waiting.shift();
      else if (performance.now() - started > TURN) {
        this.turn = setTimeout(() => this.work(), 0);
        return;
      }
    }
  }
}
