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
  private folded = this.usual;
  private width = USUAL;
  private readonly shows: (() => void)[] = [];

  constructor(private readonly app: App) {
    for (const page of this.pages) this.dress(page);
    this.show();
  }

  /** True where a screen is too narrow for both. */
  private get usual(): boolean {
    return window.matchMedia(NARROW).matches;
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
    this.shows.push(() => {
      page.classList.toggle("folded", this.folded);
      page.style.setProperty("--side", `${this.width}px`);
      fold.textContent = this.folded ? "controls" : "fold away";
      fold.setAttribute("aria-expanded", String(!this.folded));
      edge.setAttribute("aria-valuenow", String(this.width));
      edge.hidden = this.folded;
    });
  }

  private turn() {
    this.folded = !this.folded;
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

  /** What differs from how a page of this width usually stands; nothing where nothing does. */
  write(): string | undefined {
    if (this.pages.length === 0) return undefined;
    if (this.folded !== this.usual) return this.folded ? "folded" : "open";
    return this.width === USUAL ? undefined : String(this.width);
  }

  read(text: string | undefined) {
    const width = Number(text);
    this.width = width >= LEAST && width <= MOST ? Math.round(width) : USUAL;
    this.folded = text === "folded" || (text !== "open" && this.usual);
    this.show();
  }
}
