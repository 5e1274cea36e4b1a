import type { App } from "./app";
import { button, element } from "./dom";
import { heldText } from "./selection-text";

/** Stands where no row passes: which selections leave none, each with a way to drop it. Nothing where none does. */
export function emptyOffer(app: App, piece: string): HTMLElement | undefined {
  const filtering = app.model.filtering(piece);
  if (filtering.length === 0) return undefined;
  const offers = filtering.map((plan) => {
    const text = heldText(app, plan);
    return element(
      "li",
      {},
      button(`drop ${text}`, () => {
        app.select(plan.name, undefined);
        app.settle();
      }),
    );
  });
  return element(
    "div",
    { class: "nothing", role: "group", "aria-label": "No rows pass" },
    "No rows pass.",
    element("ul", {}, ...offers),
  );
}
