/** Small helpers over the DOM. Text goes in as text, never as markup. */

type Children = (Node | string)[];

export function element<K extends keyof HTMLElementTagNameMap>(
  tag: K,
  attributes: Record<string, string> = {},
  ...children: Children
): HTMLElementTagNameMap[K] {
  const made = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) made.setAttribute(name, value);
  made.append(...children);
  return made;
}

/** A pointer that stays so long means the thing under it, in milliseconds; others are on their way past it. */
const STAYS = 100;

/** Calls when the pointer has come to something and not gone on at once. */
export function whenPointerStays(over: HTMLElement, act: () => void) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  over.addEventListener("pointerenter", () => {
    timer = setTimeout(act, STAYS);
  });
  over.addEventListener("pointerleave", () => clearTimeout(timer));
}

const written = new WeakMap<Element, string>();

/**
 * Writes markup of our own functions, which escape their words, into an element that nobody else fills. What stands
 * there already is left: a browser would read, lay out and paint it anew.
 */
export function write(host: Element, html: string) {
  if (written.get(host) === html) return;
  host.innerHTML = html;
  written.set(host, html);
}

/**
 * What is longer than its place is scrolled by the keyboard too: it can be reached while it is. To be called again
 * whenever the element has been filled.
 */
export function scrolledByKeys(host: HTMLElement): () => void {
  const watch = new ResizeObserver(() => {
    const { scrollHeight, clientHeight, scrollWidth, clientWidth } = host;
    if (scrollHeight > clientHeight + 1 || scrollWidth > clientWidth + 1) host.tabIndex = 0;
    else host.removeAttribute("tabindex");
  });
  return () => {
    watch.disconnect();
    for (const one of [host, ...host.children]) watch.observe(one);
  };
}

export function button(
  label: string,
  press: (event: MouseEvent) => void,
  attributes: Record<string, string> = {},
): HTMLButtonElement {
  const made = element("button", { type: "button", ...attributes }, label);
  made.addEventListener("click", press);
  return made;
}

const SVG = "http://www.w3.org/2000/svg";

export function svg(className: string): SVGSVGElement {
  const made = document.createElementNS(SVG, "svg");
  made.setAttribute("class", className);
  made.setAttribute("aria-hidden", "true");
  return made;
}

export function svgPart(tag: string, attributes: Record<string, string | number>): SVGElement {
  const made = document.createElementNS(SVG, tag);
  for (const [name, value] of Object.entries(attributes)) made.setAttribute(name, String(value));
  return made;
}

/** Hands a text to the reader as a file. */
export function download(fileName: string, content: BlobPart, type: string) {
  const url = URL.createObjectURL(new Blob([content], { type }));
  const link = element("a", { href: url, download: fileName });
  document.body.append(link);
  link.click();
  link.remove();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/** Says something to those who listen instead of look. */
export function announcer(): ((text: string) => void) & { region: HTMLElement } {
  const region = element("div", { class: "sr", "aria-live": "polite" });
  document.body.append(region);
  const say = (text: string) => {
    region.textContent = text;
  };
  return Object.assign(say, { region });
}
