import type { ColorScale } from "../core/chart/inputs";
import { legendHtml } from "../core/chart/legend";
import type { ChartPlan } from "../core/chart/plan";
import { categoryText } from "../core/query/write";
import type { App } from "./app";
import { button, element } from "./dom";

type Name = string | null;

interface Entry {
  name: Name;
  /** The switch of the entry, and the word that leaves it alone. */
  press: HTMLButtonElement;
  only: HTMLButtonElement;
}

/** The legend of a chart: each entry is a switch, with a word of its own that leaves it alone. */
export class Legend {
  private entries: Entry[] = [];
  /** The HTML that the entries were made of. */
  private made: string | undefined;

  constructor(
    private readonly app: App,
    private readonly name: string,
    private readonly host: HTMLElement,
  ) {}

  private get plan(): ChartPlan {
    return this.app.model.piece(this.name)?.plan as ChartPlan;
  }

  /** Entries as the colours are now: a reader may have chosen another column for them. */
  private make(color: ColorScale | undefined, html: string) {
    this.made = html;
    this.entries = [];
    const { press } = this.plan.legend;
    this.host.classList.toggle("fades", press === "fade");
    // Written by our own functions from escaped words, as the first picture's legend is.
    this.host.innerHTML = html;
    if (color?.type !== "categories" || press === "nothing") return;
    const channel = this.plan.layers.map(({ query }) => query.channels.color).find((one) => one !== undefined);
    color.names.forEach((name, at) => {
      const words = this.host.querySelector(`[data-entry="${at}"]`);
      if (!words) return;
      const entry = button("", (event) => (event.shiftKey ? this.alone(name) : this.press(name)), {
        title: `press to ${press === "fade" ? "fade" : "remove"} or bring back; o to see it alone`,
      });
      entry.append(...words.childNodes);
      entry.addEventListener("keydown", (event) => {
        if (event.key === "o") this.alone(name);
      });
      // Its name does not hold the entry's, so that an entry is found by its name alone.
      const only = button("only", () => this.alone(name), {
        class: "plain only",
        title: `${categoryText(name, channel)} alone, or all again`,
      });
      words.replaceWith(element("span", { class: "entry" }, entry, only));
      longPress(entry, () => this.alone(name));
      this.entries.push({ name, press: entry, only });
    });
  }

  private press(name: Name) {
    const off = this.app.reader.offOf(this.name);
    this.change(off.has(name) ? [...off].filter((other) => other !== name) : [...off, name]);
  }

  private isAlone(name: Name): boolean {
    const off = this.app.reader.offOf(this.name);
    return !off.has(name) && off.size === this.entries.length - 1;
  }

  /** Leaves one entry on; where it is the only one already, all come back. */
  private alone(name: Name) {
    const others = this.entries.filter((other) => other.name !== name).map((other) => other.name);
    this.change(this.isAlone(name) ? [] : others);
  }

  private change(off: readonly Name[]) {
    this.app.switchOff(this.name, off);
    this.app.settle();
  }

  /** Its squares are painted for one ground. */
  forget() {
    this.made = undefined;
  }

  /** `left` names the entries of which some row is left. */
  draw(left: ReadonlySet<Name> | undefined) {
    const keys = this.app.model.legendKeys(this.name);
    const html = legendHtml(keys, this.app.ground);
    if (html !== this.made) this.make(keys.color, html);
    const off = this.app.reader.offOf(this.name);
    for (const { name, press, only } of this.entries) {
      press.setAttribute("aria-pressed", String(!off.has(name)));
      const isQuiet = left !== undefined && !off.has(name) && !left.has(name);
      press.classList.toggle("quiet", isQuiet);
      if (isQuiet) press.setAttribute("aria-description", "no row left");
      else press.removeAttribute("aria-description");
      only.textContent = this.isAlone(name) ? "all" : "only";
    }
  }
}

/** How long a finger stays for a long press, in milliseconds. */
const LONG = 500;

function longPress(target: HTMLElement, act: () => void) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  target.addEventListener("pointerdown", (event) => {
    if (event.pointerType !== "touch") return;
    timer = setTimeout(() => {
      act();
      // The press that ends it is not one of its own.
      target.addEventListener("click", (click) => click.stopImmediatePropagation(), { capture: true, once: true });
    }, LONG);
  });
  for (const end of ["pointerup", "pointercancel", "pointerleave"] as const)
    target.addEventListener(end, () => clearTimeout(timer));
}
