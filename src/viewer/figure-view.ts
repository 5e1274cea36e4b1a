import { figureTexts } from "../core/chart/figure-texts";
import type { PlainRow } from "../core/chart/plain-row";
import type { FigurePlan } from "../core/chart/plan";
import type { PlanPiece } from "../core/plan/plan";
import type { App, View } from "./app";
import { element } from "./dom";

/** A large number with its comparison. */
export class FigureView implements View {
  readonly name: string;

  constructor(
    private readonly app: App,
    private readonly piece: PlanPiece,
    private readonly section: HTMLElement,
  ) {
    this.name = piece.name;
  }

  private texts() {
    const found = this.app.model.plainAnswer(this.name);
    return found && figureTexts(this.piece.plan as FigurePlan, found.answer, found.all);
  }

  draw() {
    const texts = this.texts();
    if (!texts) return;
    const number = this.section.querySelector(".number");
    const compare = this.section.querySelector(".compare");
    number?.replaceChildren(
      element("span", {}, texts.value),
      ...(texts.unit ? [" ", element("small", {}, texts.unit)] : []),
    );
    if (compare) compare.textContent = texts.compare;
  }

  rows(): PlainRow[] {
    const number = this.texts()?.number ?? Number.NaN;
    return [{ value: number === number ? number : null }];
  }
}
