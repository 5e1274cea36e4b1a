import type { Asked } from "../core/link/engine";
import type { Indexer } from "../core/link/index/in-hand";
import type { App } from "./app";

/**
 * Makes ready what will answer the selection that a reader is about to move: begun when the pointer or the focus
 * comes to it, a slice a turn, so that no frame is held up.
 */
export class Warming {
  private waiting: Asked[] = [];
  private isInHand = false;
  /** Messages to itself: a frame comes between two of them where one is due, and no time is lost between. */
  private readonly turns = new MessageChannel();

  constructor(private readonly app: App) {
    this.turns.port1.onmessage = () => this.work();
  }

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
    const isWorking = this.waiting.length > 0;
    const inSight = [...app.views.keys()].filter((name) => app.isInSight(name));
    this.waiting = [...inSight.flatMap((piece) => app.model.askedBy(piece)), ...app.model.rows.asked()];
    if (!isWorking) this.turns.port2.postMessage(0);
  }

  end() {
    this.turns.port1.close();
  }

  private work() {
    for (let asked = this.waiting[0]; asked; asked = this.waiting[0]) {
      if (this.app.model.engine.warm(asked)) {
        this.turns.port2.postMessage(0);
        return;
      }
      this.waiting.shift();
    }
  }
}
