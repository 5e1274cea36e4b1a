import type { App } from "./app";
import { button, element } from "./dom";

const USUAL = 176;
const LEAST = 120;
const MOST = 480;
const STEP = 16;

/** Below this width the controls stand behind one word until they are asked for. */
const NARROW = "(max-width: 720px)";

/** The controls at the side of the pages: they fold away behind one word, and their edge can be dragged. */
export class Side {
  private readonly pages = [...document.querySelectorAll<HTMLElement>(".page.sided")];
  /** What the reader asked for; where nothing was, the width of the window decides, now and later. */
  private wish: boolean | undefined;
  private width = USUAL;
  private readonly shows: (() => void)[] = [];
  private readonly watches: (() => void)[] = [];
  /** Matches where a screen is too narrow for both. */
  private readonly narrow = window.matchMedia(NARROW);

  constructor(private readonly app: App) {
    for (const page of this.pages) this.dress(page);
    this.show();
    app.listen(window, "resize", () => this.show());
  }

  private get folded(): boolean {
    return this.wish ?? this.narrow.matches;
  }

  private dress(page: HTMLElement) {
    const side = page.querySelector(".side");
    if (!side) return;
    const fold = button("", () => this.turn(), { class: "plain fold" });
    const edge = element("span", {
      class: "side-edge",
      role: "separator",
      tabindex: "0",
      "aria-orientation": "vertical",
      "aria-label": "Width of the controls",
      "aria-valuemin": String(LEAST),
      "aria-valuemax": String(MOST),
    });
    edge.addEventListener("keydown", (event) => {
      const step = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key];
      if (step === undefined) return;
      event.preventDefault();
      this.widen(this.width + step);
      this.app.settle();
    });
    edge.addEventListener("pointerdown", (down) => {
      down.preventDefault();
      edge.setPointerCapture(down.pointerId);
      const start = this.width;
      const move = (event: PointerEvent) => this.widen(start + event.clientX - down.clientX);
      edge.addEventListener("pointermove", move);
      const end = () => {
        edge.removeEventListener("pointermove", move);
        this.app.settle();
      };
      edge.addEventListener("pointerup", end, { once: true });
    });
    side.prepend(fold);
    side.append(edge);
    // Controls that are higher than the screen make their page as high as they are.
    const watch = new ResizeObserver(() => {
      page.style.minHeight = "";
      const isCut = page.classList.contains("screen") && side.scrollHeight > page.clientHeight + 1;
      if (isCut) page.style.minHeight = `${side.scrollHeight}px`;
    });
    const watchAll = () => {
      watch.disconnect();
      for (const one of [side, ...side.children]) watch.observe(one);
    };
    this.watches.push(watchAll);
    watchAll();
    this.shows.push(() => {
      page.classList.toggle("folded", this.folded);
      page.style.setProperty("--side", `${this.width}px`);
      fold.textContent = this.folded ? "controls" : "fold away";
      fold.setAttribute("aria-expanded", String(!this.folded));
      edge.setAttribute("aria-valuenow", String(this.width));
      edge.hidden = this.folded;
    });
  }

  /** Controls that stand on several pages have come to this one. */
  changed() {
    for (const watch of this.watches) watch();
  }

  private turn() {
    const folded = !this.folded;
    this.wish = folded === this.narrow.matches ? undefined : folded;
    this.show();
    this.app.settle();
  }

  private widen(width: number) {
    this.width = Math.round(Math.max(LEAST, Math.min(MOST, width)));
    this.show();
  }

  private show() {
    for (const show of this.shows) show();
  }

  /** What the reader did to it; nothing where nothing was done. */
  write(): string | undefined {
    if (this.pages.length === 0) return undefined;
    const wish = this.wish === undefined ? [] : [this.wish ? "folded" : "open"];
    const parts = [...wish, ...(this.width === USUAL ? [] : [String(this.width)])];
    return parts.length ? parts.join("-") : undefined;
  }

  read(text: string | undefined) {
    const parts = text?.split("-") ?? [];
    const width = Number(parts.at(-1));
    this.width = width >= LEAST && width <= MOST ? Math.round(width) : USUAL;
    this.wish = parts.includes("folded") ? true : parts.includes("open") ? false : undefined;
    this.show();
  }
}
