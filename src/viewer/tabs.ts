import { Optional } from "../core/finding/kit";
import type { App } from "./app";

/** Tabs; a dashboard has them where pieces of a page lie behind one another. */
export const TABS = new Optional<typeof Tabs>("tabs");

/** The tabs of an area: which is open, and the ways to open another. */
export class Tabs {
  readonly area: string;
  private readonly heads: HTMLElement[];
  private readonly panels: HTMLElement[];
  private open = 0;

  constructor(
    private readonly app: App,
    host: HTMLElement,
  ) {
    this.area = host.dataset.area ?? "";
    this.heads = [...host.querySelectorAll<HTMLElement>(":scope > [role=tablist] > [role=tab]")];
    this.panels = [...host.querySelectorAll<HTMLElement>(":scope > [role=tabpanel]")];
    this.heads.forEach((head, at) => {
      head.addEventListener("click", () => this.press(at));
      head.addEventListener("keydown", (event) => this.key(event, at));
    });
  }

  /** The place of the tab that is open. */
  get shown(): number {
    return this.open;
  }

  /** Opens a tab; what it shows is drawn by whoever asked. */
  show(at: number) {
    if (at < 0 || at >= this.heads.length) return;
    this.open = at;
    this.heads.forEach((head, place) => {
      head.setAttribute("aria-selected", String(place === at));
      head.tabIndex = place === at ? 0 : -1;
    });
    this.panels.forEach((panel, place) => {
      panel.hidden = place !== at;
    });
  }

  private press(at: number) {
    this.show(at);
    this.app.tooltip.hide();
    this.app.cameInSight();
    this.app.settle();
  }

  private key(event: KeyboardEvent, at: number) {
    const { length } = this.heads;
    const next: Record<string, number> = {
      ArrowRight: (at + 1) % length,
      ArrowLeft: (at + length - 1) % length,
      Home: 0,
      End: length - 1,
    };
    const wanted = next[event.key];
    if (wanted === undefined) return;
    event.preventDefault();
    this.press(wanted);
    this.heads[wanted]?.focus();
  }
}
