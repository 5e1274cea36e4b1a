import type { PlainRow } from "../core/chart/plain-row";
import { summaryHtml, summaryLines, summaryRows } from "../core/model/summary";
import { waitingHtml } from "../core/model/waiting";
import type { PlanPiece } from "../core/plan/plan";
import type { App, View } from "./app";
import { scrolledByKeys, write } from "./dom";

/** Every column summed up over the rows that pass. */
export class SummaryView implements View {
  readonly name: string;
  private readonly host: HTMLElement;
  private readonly filled: () => void;

  constructor(
    private readonly app: App,
    piece: PlanPiece,
    section: HTMLElement,
  ) {
    this.name = piece.name;
    this.host = section.querySelector(".rows") as HTMLElement;
    this.filled = scrolledByKeys(this.host);
  }

  draw() {
    const { model, ground } = this.app;
    write(this.host, waitingHtml(model, this.name) ?? summaryHtml(summaryLines(model, this.name), ground));
    this.filled();
  }

  rows(): PlainRow[] {
    return summaryRows(summaryLines(this.app.model, this.name));
  }
}
