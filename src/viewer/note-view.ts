import type { PlainRow } from "../core/chart/plain-row";
import type { PlanPiece } from "../core/plan/plan";
import { plainValue } from "../core/query/categories";
import { LayerValues } from "../core/query/values";
import { writeAt } from "../core/query/write";
import type { App, View } from "./app";
import { scrolledByKeys } from "./dom";

/** A text in which values stand that follow what is picked. */
export class NoteView implements View {
  readonly name: string;

  constructor(
    private readonly app: App,
    private readonly piece: PlanPiece,
    private readonly section: HTMLElement,
  ) {
    this.name = piece.name;
    scrolledByKeys(section.querySelector(".about") as HTMLElement)();
  }

  private values(): LayerValues | undefined {
    const { plan } = this.piece;
    if (plan.type !== "note" || plan.from === "") return undefined;
    const found = this.app.model.plainAnswer(this.name);
    return found && new LayerValues(found.answer, found.all);
  }

  draw() {
    const values = this.values();
    const words = this.app.model.words(this.name);
    for (const place of this.section.querySelectorAll<HTMLElement>("[data-value]")) {
      const name = place.dataset.value ?? "";
      const channel = values?.prepared.query.channels[name];
      const column = values?.get(name);
      const text = channel && column ? writeAt(channel, column, 0) : words[name];
      if (text !== undefined) place.textContent = text;
    }
  }

  rows(): PlainRow[] {
    const values = this.values();
    if (!values) return [{}];
    const entries = Object.keys(values.prepared.query.channels).map((name) => {
      const column = values.get(name);
      return [name, column ? plainValue(column, 0) : null] as const;
    });
    return [Object.fromEntries(entries)];
  }
}
