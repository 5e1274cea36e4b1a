import type { PlainRow } from "../core/chart/plain-row";
import { summaryHtml, summaryLines, summaryRows } from "../core/model/summary";
import { waitingHtml } from "../core/model/waiting";
import type { PlanPiece } from "../core/plan/plan";
import type { App, View } from "./app";
import { write } from "./dom";

/** Every column summed up over the rows that pass. */
export class SummaryView implements View {
  readonly name: string;

  constructor(
    private readonly app: App,
    piece: PlanPiece,
    private readonly section: HTMLElement,
  ) {
    this.name = piece.name;
  }

  draw() {
    const host = this.section.querySelector(".rows");
    const { model, ground } = this.app;
    if (host) write(host, waitingHtml(model, this.name) ?? summaryHtml(summaryLines(model, this.name), ground));
  }

  rows(): PlainRow[] {
    return summaryRows(summaryLines(this.app.model, this.name));
  }
}
