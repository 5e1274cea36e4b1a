import { figureHtml } from "../core/chart/figure-html";
import { figureParts } from "../core/chart/figure-texts";
import type { PlainRow } from "../core/chart/plain-row";
import type { FigurePlan } from "../core/chart/plan";
import { waitingHtml } from "../core/model/waiting";
import type { PlanPiece } from "../core/plan/plan";
import type { App, View } from "./app";
import { scrolledByKeys, write } from "./dom";

/** A large number with its comparison, or one for each value of a column. */
export class FigureView implements View {
  readonly name: string;
  private readonly host: HTMLElement;
  private readonly filled: () => void;

  constructor(
    private readonly app: App,
    piece: PlanPiece,
    section: HTMLElement,
  ) {
    this.name = piece.name;
    this.host = section.querySelector(".shown-figure") as HTMLElement;
    this.filled = scrolledByKeys(this.host);
  }

  private get plan(): FigurePlan {
    return this.app.model.piece(this.name)?.plan as FigurePlan;
  }

  private parts() {
    const { model } = this.app;
    const found = model.waits(this.name) ? undefined : model.plainAnswer(this.name);
    return found ? figureParts(this.plan, found, model.sparkAnswer(this.name)) : [];
  }

  draw() {
    const isRepeated = this.plan.query.groupBy.length > 0;
    write(this.host, waitingHtml(this.app.model, this.name) ?? figureHtml(this.parts(), isRepeated, this.app.ground));
    this.filled();
  }

  rows(): PlainRow[] {
    const isRepeated = this.plan.query.groupBy.length > 0;
    return this.parts().map(({ texts: { number }, plainBy }) => ({
      ...(isRepeated ? { by: plainBy ?? null } : {}),
      value: number === number ? number : null,
    }));
  }
}
