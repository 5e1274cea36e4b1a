import type { PlanPiece } from "../core/plan/plan";
import { element } from "./dom";

/** Where pieces live that stand on no page: they answer rows() and can be shown alone. */
export function spareBox(): HTMLElement {
  const box = element("main", { class: "page spare" }, element("div", { class: "grid" }));
  document.body.append(box);
  return box;
}

export function spareSection(box: HTMLElement, { name, words, plan }: PlanPiece): HTMLElement {
  const section = element(
    "section",
    { class: `piece ${plan.type}`, "data-piece": name, "aria-label": words.title },
    element("header", {}, element("h2", {}, words.title)),
  );
  const inside = { figure: "shown-figure", table: "rows", summary: "rows", chart: "plot", note: "about" }[plan.type];
  section.append(element("div", { class: inside }));
  box.firstElementChild?.append(section);
  return section;
}
