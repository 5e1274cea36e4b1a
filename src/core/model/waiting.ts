import { escapeText } from "../scene/escape";
import type { Model } from "./model";

/** What stands in place of a figure, list or summary while it waits for something to be picked; else nothing. */
export function waitingHtml(model: Model, name: string): string | undefined {
  return model.waits(name) ? `<p class="nothing">${escapeText(model.emptyText(name) ?? "")}</p>` : undefined;
}
