/** Where something stands: a piece of a grid, and in which of its areas. */
const PLACE = /^(?:piece|area-\d+)$/;

/**
 * A piece or a control that stands on several pages is one, with one state: it goes to the page that the reader
 * turns to. Its places on all others are held by an empty element (`data-again`), with which it changes places.
 */
export function bringTo(page: HTMLElement) {
  for (const holder of page.querySelectorAll<HTMLElement>("[data-again]")) {
    const name = CSS.escape(holder.dataset.again ?? "");
    const own = document.querySelector<HTMLElement>(`[data-piece="${name}"],[data-control="${name}"]`);
    if (!own) continue;
    const between = document.createComment("");
    holder.replaceWith(between);
    own.replaceWith(holder);
    between.replaceWith(own);
    const [left, taken] = [placeOf(own), placeOf(holder)];
    own.classList.remove(...left);
    holder.classList.remove(...taken);
    own.classList.add(...taken);
    holder.classList.add(...left);
  }
}

const placeOf = (element: HTMLElement): string[] => [...element.classList].filter((name) => PLACE.test(name));
